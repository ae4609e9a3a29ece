import { movePlanesOnFrame } from '@keen-ridge/core/edits/planes';
import { useMemo } from 'react';
import type { Command, CommandContext } from '../commands/command.ts';
import { useCommands } from '../commands/registry.ts';
import { nudgeDepth, subjectOf } from '../edits/depth-edits.ts';
import { planesMeant } from '../edits/plane-commands.ts';
import { usePreferences } from '../session/choices/preferences.ts';
import type { Session } from '../session/session.ts';
import { useSession } from '../session/use-session.ts';
import { stageWords as say } from '../words/stage.ts';

const WAYS = [
  ['ArrowLeft', 'west', -1, 0],
  ['ArrowRight', 'east', 1, 0],
  ['ArrowUp', 'north', 0, -1],
  ['ArrowDown', 'south', 0, 1],
] as const;
const STEPS = [
  ['', '', 1],
  ['Shift+', ' ten', 10],
] as const;
/** Ratio of distance of one step on the Stand. */
const RATIOS = { plain: 1.01, far: 1.1 } as const;
const GROUP = 'Stage';

function stageCommands(session: Session): readonly Command[] {
  const nudge = (x: number, y: number) => () => {
    const { scene, selection, frame } = session.state;
    const moved = movePlanesOnFrame(scene, new Set(selection), { x, y }, frame);
    session.commit('place-plane', subjectOf(scene, selection), moved);
  };
  const some = () => session.state.selection.length > 0;
  const small = { group: GROUP, keysOnly: true, repeats: true } as const;
  const places = WAYS.flatMap(([key, way, x, y]) =>
    STEPS.map(
      ([shift, word, by]): Command => ({
        ...small,
        id: `stage.${way}${word.trim()}`,
        words: `Move the chosen planes${word} px ${way} in the picture`.replace('planes px', 'planes a px'),
        keys: [`Alt+${shift}${key}`],
        when: some,
        run: nudge(x * by, y * by),
      }),
    ),
  );
  const depth = (ratio: number) => (context: CommandContext) =>
    nudgeDepth(session, planesMeant(session, context), ratio, usePreferences.getState().holdPicture);
  const onPlane = {
    ...small,
    place: 'stand',
    when: ({ subject }: CommandContext) => subject?.kind === 'plane',
  };
  const { plain, far } = RATIOS;
  return [
    ...places,
    {
      id: 'stage.pin',
      words: say.putDownPins,
      group: GROUP,
      keys: ['P'],
      run: () => session.setPinning(!session.state.pinning),
    },
    { ...onPlane, id: 'stand.nearer', words: say.aLittleNearer, keys: ['ArrowUp'], run: depth(1 / plain) },
    { ...onPlane, id: 'stand.farther', words: say.aLittleFarther, keys: ['ArrowDown'], run: depth(plain) },
    {
      ...onPlane,
      id: 'stand.much-nearer',
      words: say.tenTimesAsMuch,
      keys: ['Shift+ArrowUp'],
      run: depth(1 / far),
    },
    {
      ...onPlane,
      id: 'stand.much-farther',
      words: say.tenTimesAsMuch,
      keys: ['Shift+ArrowDown'],
      run: depth(far),
    },
  ];
}

/** The keyboard of the Stage step, beside what can be done on every step. */
export function useStageCommands(): void {
  const session = useSession();
  useCommands(
    'step',
    useMemo(() => stageCommands(session), [session]),
  );
}
