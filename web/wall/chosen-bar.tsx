import type { Production } from '@keen-ridge/core/contract/wall';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useWallChange } from '../api/queries.ts';
import type { Command } from '../commands/command.ts';
import { useCommands } from '../commands/registry.ts';
import { useAuthor } from '../session/author.ts';
import { usePreferences } from '../session/choices/preferences.ts';
import { Button } from '../ui/button.tsx';
import { counted } from '../ui/format.ts';
import { lazyPart } from '../ui/lazy-part.tsx';
import { Menu } from '../ui/menu.tsx';
import { wallWords as say } from '../words/wall.ts';
import { nextName } from './production-row.tsx';
import { useWallActs, type WallActs } from './use-wall-acts.ts';
import { chooseShots, useWallChoice } from './wall-choice.ts';

const SurveyDialog = lazyPart(async () => (await import('./many/survey-dialog.tsx')).SurveyDialog);

const ChangeDialog = lazyPart(async () => (await import('./many/change-dialog.tsx')).ChangeDialog);

/** What can be done with all chosen shots at once; not there while none is. */
export function ChosenBar({ productions }: { productions: readonly Production[] }) {
  const chosen = useWallChoice((state) => state.chosen);
  const acts = useWallActs();
  const { handoff: settings, handoffPresets: presets } = usePreferences();
  const author = useAuthor();
  const [asked, setAsked] = useState<'survey' | 'change' | null>(null);
  const chooser = useRef<HTMLInputElement>(null);
  useWallCommands(productions, acts);
  // What was deleted or is not shown any more is no longer chosen; nor is anything once the wall is left.
  const there = useMemo(
    () => productions.flatMap(({ shots }) => shots.filter(({ id }) => chosen.includes(id))),
    [productions, chosen],
  );
  const newArt = useWallChange(async (files: readonly File[]) => {
    const { takeNewArt } = await import('./many/new-art.ts');
    return takeNewArt(there, files, author);
  });
  useEffect(() => () => chooseShots([]), []);
  if (there.length === 0) return null;
  const done = (act: () => void) => () => {
    act();
    chooseShots([]);
  };
  return (
    <section
      aria-label={say.chosenShots}
      className="sticky top-0 z-20 flex h-10 items-center gap-2 border-b border-rule bg-select-wash px-6"
    >
      <span className="num flex-1">{say.countedChosen(counted(there.length, 'shot'))}</span>
      <Button
        onClick={done(() => {
          for (const production of productions)
            for (const shot of production.shots)
              if (chosen.includes(shot.id))
                acts.duplicate(shot.id, nextName(production.shots, shot.name), true);
        })}
      >
        {say.duplicate}
      </Button>
      <span className="text-ink-2">{say.moveTo}</span>
      <Menu
        label={say.moveTheChosenShotsTo}
        items={productions.map((production) => ({
          label: production.name,
          onSelect: done(() => {
            for (const { id, name } of there) acts.move(id, name, production.id, production.name);
          }),
        }))}
      />
      <span className="text-ink-2">{say.handOffWith}</span>
      <Menu
        label={say.handOffTheChosenShotsWith}
        items={[{ name: say.theLastSettings, settings }, ...presets].map((preset) => ({
          label: preset.name,
          onSelect: done(() => acts.handOff(there, preset.settings)),
        }))}
      />
      <Menu
        label={say.moreForTheChosenShots}
        items={[
          { label: say.surveyThem, onSelect: () => setAsked('survey') },
          { label: say.rateAndSize, onSelect: () => setAsked('change') },
          { label: say.newArtForThem, onSelect: () => chooser.current?.click() },
        ]}
      />
      <input
        ref={chooser}
        type="file"
        multiple
        hidden
        aria-label={say.newArtForThem}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          // The same file may be chosen again.
          event.target.value = '';
          if (files.length > 0) newArt.mutate(files);
        }}
      />
      {asked === 'survey' && <SurveyDialog shots={there} onClose={() => setAsked(null)} />}
      {asked === 'change' && <ChangeDialog shots={there} onClose={() => setAsked(null)} />}
      <Button tone="danger" onClick={done(() => acts.removeShots(there.map(({ id }) => id)))}>
        {say.deleteIt}
      </Button>
      <Button onClick={() => chooseShots([])}>{say.chooseNone}</Button>
    </section>
  );
}

/** The keyboard of the wall. */
function useWallCommands(productions: readonly Production[], acts: WallActs): void {
  const { removeShots } = acts;
  useCommands(
    'step',
    useMemo((): readonly Command[] => {
      const group = 'Wall';
      const some = () => useWallChoice.getState().chosen.length > 0;
      return [
        {
          group,
          id: 'wall.all',
          words: say.chooseAllShots,
          keys: ['Ctrl+A'],
          run: () => chooseShots(productions.flatMap(({ shots }) => shots.map(({ id }) => id))),
        },
        {
          group,
          id: 'wall.none',
          words: say.chooseNoShot,
          keys: ['Escape'],
          when: some,
          run: () => chooseShots([]),
        },
        {
          group,
          id: 'wall.delete',
          words: say.deleteTheChosenShots,
          keys: ['Delete', 'Backspace'],
          danger: true,
          when: some,
          run: () => {
            removeShots(useWallChoice.getState().chosen);
            chooseShots([]);
          },
        },
      ];
    }, [productions, removeShots]),
  );
}
