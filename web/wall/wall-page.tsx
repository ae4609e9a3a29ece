import type { Production } from '@keen-ridge/core/contract/wall';
import { Moon, Search, Sun } from 'lucide-react';
import { useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useMe } from '../api/people.ts';
import { makeProduction, useWall, useWallChange } from '../api/queries.ts';
import { type Finds, useFinds } from '../commands/registry.ts';
import { OffersBar } from '../edits/offers-bar.tsx';
import { PersonMenu } from '../people/person-menu.tsx';
import { setPreferences, usePreferences, WALL_SORTS, type WallSort } from '../session/choices/preferences.ts';
import { isDark } from '../session/choices/room.ts';
import { startTour } from '../tour/tour.ts';
import { Button } from '../ui/button.tsx';
import { Select } from '../ui/fields/select.tsx';
import { lazyPart } from '../ui/lazy-part.tsx';
import { Logo } from '../ui/logo.tsx';
import { wallWords as say } from '../words/wall.ts';
import { ArchiveButton } from './carry/archive-button.tsx';
import { ChosenBar } from './chosen-bar.tsx';
import { setGiving, useGiving } from './giving.ts';
import { NewProductionDialog } from './new-production-dialog.tsx';
import { newShotButton, ProductionRow } from './production-row.tsx';

const GiveDialog = lazyPart(async () => (await import('./give-dialog.tsx')).GiveDialog);

const BinDialog = lazyPart(async () => (await import('./bin-dialog.tsx')).BinDialog);

const SORT_WORDS: Readonly<Record<WallSort, string>> = {
  placed: say.asPlaced,
  name: say.byName,
  newest: say.newestFirst,
  longest: say.longestFirst,
};

const NONE: readonly Production[] = [];

/** The tour needs planes to slide past one another. */
const TOURED_PLANES = 3;

/** Every production and its shots, as pictures. */
export function WallPage() {
  const wall = useWall();
  const person = useMe().data?.person;
  const [making, setMaking] = useState(false);
  const [binOpen, setBinOpen] = useState(false);
  const [find, setFind] = useState('');
  const sort = usePreferences((state) => state.wallSort);
  const make = useWallChange(makeProduction);
  const made = useRef<string>(null);
  const startMaking = () => {
    made.current = null;
    setMaking(true);
  };
  const productions = wall.data?.productions ?? NONE;
  const shots = productions.flatMap((production) => production.shots);
  const giving = useGiving((state) => state.giving);
  useWallFinds(productions);
  const navigate = useNavigate();
  const touredShot = shots.find(({ planes }) => planes >= TOURED_PLANES);
  const tour = (id: string) => {
    startTour();
    void navigate(`/shots/${id}/stage`);
  };
  return (
    <div className="flex min-h-full flex-col">
      <header className="flex h-[42px] items-center gap-3 border-b border-rule bg-bar px-3.5">
        <Logo />
        <span className="font-semibold">{say.keenRidge}</span>
        <span className="flex-1" />
        <label className="flex h-[26px] w-56 items-center gap-1.5 rounded-[3px] border border-rule bg-raised px-2 focus-within:outline-2 focus-within:outline-select">
          <Search size={13} aria-hidden="true" className="text-ink-2" />
          <input
            aria-label={say.findAShot}
            placeholder={say.findAShot}
            className="h-full w-full min-w-0 bg-transparent outline-none"
            value={find}
            onChange={(event) => setFind(event.target.value)}
            onKeyDown={(event) => event.key === 'Escape' && setFind('')}
          />
        </label>
        <Select
          label={say.orderOfTheShots}
          hideLabel
          options={WALL_SORTS}
          words={SORT_WORDS}
          value={sort}
          onChange={(wallSort) => setPreferences({ wallSort })}
        />
        <RoomButton />
        <Button onClick={() => setBinOpen(true)}>{say.bin}</Button>
        {touredShot && (
          <Button
            title={say.throughNameAboutFourMinutes(touredShot.name)}
            onClick={() => tour(touredShot.id)}
          >
            {say.tour}
          </Button>
        )}
        <Link to="/help" className="px-1 leading-6 underline-offset-2 hover:underline">
          {say.help}
        </Link>
        <ArchiveButton />
        <Button onClick={startMaking}>{say.newProduction}</Button>
        {person && <PersonMenu person={person} />}
      </header>
      <OffersBar />
      <ChosenBar productions={productions} />
      <main className="mx-auto w-full max-w-[1240px] flex-1 px-6 pb-12">
        <h1 className="sr-only">{say.productions}</h1>
        {wall.isPending && (
          <p role="status" className="mt-10 text-ink-2">
            {wall.failureCount > 0 ? say.theServerDoesNotAnswer : say.readingTheWall}
          </p>
        )}
        {wall.isError && (
          <p role="alert" className="mt-10 text-fault">
            {say.theWallCannotBeRead(wall.error.message)}
          </p>
        )}
        {wall.data?.productions.length === 0 && (
          <div className="mt-[20vh] text-center">
            <p className="text-[18px] font-semibold">{say.noProductionYet}</p>
            <p className="mt-1 text-ink-2">{say.aProductionHoldsTheShots}</p>
            <div className="mt-4 flex justify-center gap-2">
              <Button tone="strong" onClick={startMaking}>
                {say.makeTheFirstProduction}
              </Button>
              <Button onClick={() => setBinOpen(true)}>{say.bringSomethingBack}</Button>
              <Button onClick={() => void navigate('/help')}>{say.readTheHelp}</Button>
            </div>
          </div>
        )}
        {productions.map((production) => (
          <ProductionRow
            key={production.id}
            production={production}
            others={productions.filter(({ id }) => id !== production.id)}
            find={find}
            sort={sort}
            onGiven={(fromId, to) => {
              const from = shots.find(({ id }) => id === fromId);
              if (from) setGiving({ from, to });
            }}
          />
        ))}
      </main>
      {giving && <GiveDialog {...giving} productions={productions} />}
      {binOpen && <BinDialog onClose={() => setBinOpen(false)} />}
      {making && (
        <NewProductionDialog
          onClose={() => setMaking(false)}
          onMake={async (name) => {
            made.current = (await make.mutateAsync(name)).id;
            setMaking(false);
          }}
          // It may stand below what is seen of a long wall, and its first shot is what comes next.
          focusAfter={() => (made.current ? newShotButton(made.current) : null)}
        />
      )}
    </div>
  );
}

/** From light panels to dark ones and back. */
function RoomButton() {
  usePreferences((state) => state.room);
  const dark = isDark();
  return (
    <Button
      icon
      aria-label={dark ? say.lightPanels : say.darkPanels}
      title={dark ? say.lightPanels : say.darkPanels}
      onClick={() => setPreferences({ room: dark ? 'light' : 'dark' })}
    >
      {dark ? <Sun size={14} aria-hidden="true" /> : <Moon size={14} aria-hidden="true" />}
    </Button>
  );
}

/** The finder goes to any shot by its name. */
function useWallFinds(productions: readonly Production[]): void {
  const navigate = useNavigate();
  useFinds(
    useMemo(
      (): readonly Finds[] => [
        {
          heading: say.shots,
          find: () =>
            productions.flatMap((production) =>
              production.shots.map((shot) => ({
                id: shot.id,
                words: `${production.name} · ${shot.name}`,
                run: () => void navigate(`/shots/${shot.id}/${shot.planes === 0 ? 'art' : 'stage'}`),
              })),
            ),
        },
      ],
      [productions, navigate],
    ),
  );
}
