import type { Production, ShotCard } from '@keen-ridge/core/contract/wall';
import { secondsOfFrames } from '@keen-ridge/core/timing';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { saveFrom } from '../api/download.ts';
import { useMe } from '../api/people.ts';
import type { WallSort } from '../session/choices/preferences.ts';
import { Button } from '../ui/button.tsx';
import { classes } from '../ui/class-names.ts';
import { Rename } from '../ui/fields/rename.tsx';
import { counted } from '../ui/format.ts';
import { lazyPart } from '../ui/lazy-part.tsx';
import { Menu } from '../ui/menu.tsx';
import { peopleWords as people } from '../words/people.ts';
import { wallWords as say } from '../words/wall.ts';
import { usePackages } from './carry/use-packages.ts';
import { NewShotDialog } from './new-shot-dialog.tsx';
import { ShotTile } from './tiles/shot-tile.tsx';
import { Tiles } from './tiles/tiles.tsx';
import { useWallActs } from './use-wall-acts.ts';

const MembersDialog = lazyPart(async () => (await import('../people/members-dialog.tsx')).MembersDialog);

/** The shots in an order that was asked for; as placed, they come from the server. */
export function sortedShots(shots: readonly ShotCard[], sort: WallSort): readonly ShotCard[] {
  const collator = new Intl.Collator('en', { numeric: true });
  const seconds = (shot: ShotCard) => secondsOfFrames(shot.lengthFrames, shot.rate);
  switch (sort) {
    case 'placed':
      return shots;
    case 'name':
      return shots.toSorted((p, q) => collator.compare(p.name, q.name));
    case 'newest':
      return shots.toSorted((p, q) => q.madeAt.localeCompare(p.madeAt));
    case 'longest':
      return shots.toSorted((p, q) => seconds(q) - seconds(p));
  }
}

/** A name that no shot of the production has: `Quay 2` after `Quay`. */
export function nextName(shots: readonly ShotCard[], name: string): string {
  const [, stem = name] = /^(.*?)(?: \d+)?$/.exec(name) ?? [];
  const taken = new Set(shots.map((shot) => shot.name));
  for (let number = 2; ; number++) if (!taken.has(`${stem} ${number}`)) return `${stem} ${number}`;
}

const newShotId = (productionId: string): string => `new-shot-${productionId}`;

/** The button of a production with which its next shot is made. */
export const newShotButton = (productionId: string): HTMLElement | null =>
  document.getElementById(newShotId(productionId));

interface ProductionRowProps {
  production: Production;
  others: readonly Production[];
  find: string;
  sort: WallSort;
  /** The set-up of a shot, by its id, was dropped on another. */
  onGiven: (from: string, to: ShotCard) => void;
}

/** One production: its shots as pictures, dragged into another order by their grip. */
export function ProductionRow({ production, others, find, sort, onGiven }: ProductionRowProps) {
  const [renaming, setRenaming] = useState(false);
  const [making, setMaking] = useState(false);
  const [letting, setLetting] = useState(false);
  const signIn = useMe().data?.signIn === true;
  const acts = useWallActs();
  const packages = usePackages(production.id);
  const chooser = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const wanted = find.trim().toLocaleLowerCase();
  const found = sortedShots(production.shots, sort).filter(({ name }) =>
    name.toLocaleLowerCase().includes(wanted),
  );
  if (wanted !== '' && found.length === 0) return null;
  const ids = found.map(({ id }) => id);
  const movable = sort === 'placed' && wanted === '';
  return (
    <section
      aria-label={production.name}
      className={classes('mt-8', packages.over && 'outline-2 outline-offset-4 outline-select')}
      {...packages.drop}
    >
      <div className="mb-3 flex items-center gap-2 border-b border-rule pb-2">
        {renaming ? (
          <Rename
            name={production.name}
            label={say.nameOfTheProduction}
            className="text-[16px] font-semibold"
            onRename={(name) => acts.rename('production', production.id, name)}
            onEnd={() => setRenaming(false)}
          />
        ) : (
          <h2 className="text-[16px] font-semibold">{production.name}</h2>
        )}
        <span className="num text-ink-3">{counted(production.shots.length, 'shot')}</span>
        <span className="flex-1" />
        <Button
          disabled={production.shots.length === 0}
          title={say.playInOrderMeans}
          onClick={() => void navigate(`/productions/${production.id}/reel`)}
        >
          {say.playInOrder}
        </Button>
        <Button onClick={() => chooser.current?.click()} title={say.openPackageMeans}>
          {say.openPackage}
        </Button>
        <input
          ref={chooser}
          type="file"
          accept=".zip"
          multiple
          hidden
          aria-label={say.packagesToOpen}
          onChange={(event) => {
            const files = [...(event.target.files ?? [])];
            // The same file may be chosen again.
            event.target.value = '';
            void packages.openAll(files);
          }}
        />
        <Button id={newShotId(production.id)} onClick={() => setMaking(true)}>
          {say.newShot}
        </Button>
        <Menu
          label={say.moreForName(production.name)}
          items={[
            {
              label: say.archiveIt,
              onSelect: () => saveFrom(`/api/productions/${production.id}/archive`),
            },
            {
              label: say.archiveWithHistory,
              onSelect: () => saveFrom(`/api/productions/${production.id}/archive?history=true`),
            },
            {
              label: say.listOfShots,
              onSelect: () => void acts.save(production.id, 'csv'),
            },
            {
              label: say.forTheCuttingRoom,
              onSelect: () => void acts.save(production.id, 'otio'),
            },
            {
              label: say.contactSheet,
              onSelect: () => void acts.save(production.id, 'sheet'),
            },
            ...(signIn
              ? [{ label: people.members, takesFocus: true, onSelect: () => setLetting(true) }]
              : []),
            { label: say.rename, takesFocus: true, onSelect: () => setRenaming(true) },
            {
              label: say.deleteIt,
              danger: true,
              onSelect: () => acts.remove('production', production.id, production.name),
            },
          ]}
        />
      </div>
      {production.shots.length === 0 ? (
        <p className="text-ink-2">{say.noShotsYetMakeOne}</p>
      ) : (
        <Tiles shots={found} movable={movable} onOrder={(shotIds) => acts.order(production.id, shotIds)}>
          {(shot, place, drag) => (
            <ShotTile
              key={shot.id}
              shot={shot}
              place={place}
              drag={drag}
              others={others}
              acts={acts}
              order={ids}
              onGiven={(from) => onGiven(from, shot)}
              nextName={nextName(production.shots, shot.name)}
            />
          )}
        </Tiles>
      )}
      {letting && <MembersDialog production={production} onClose={() => setLetting(false)} />}
      {making && <NewShotDialog production={production} onClose={() => setMaking(false)} />}
    </section>
  );
}
