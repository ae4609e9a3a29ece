import { useMemo, useRef } from 'react';
import type { Command } from '../../commands/command.ts';
import { useCommands } from '../../commands/registry.ts';
import { artWords as say } from '../../words/art.ts';

interface CutActs {
  readonly onBack: () => void;
  readonly onAgain: () => void;
}

const GROUP = 'Cut';

/** The keyboard of the cutting room: it takes back steps of the cut, and never touches the shot. */
export function useCutCommands(acts: CutActs): void {
  const latest = useRef(acts);
  latest.current = acts;
  const commands = useMemo(
    (): readonly Command[] => [
      {
        id: 'cut.back',
        words: say.takeBackTheLastStep,
        group: GROUP,
        // Delete would mean the plane that is being cut.
        keys: ['Ctrl+Z', 'Delete', 'Backspace'],
        repeats: true,
        run: () => latest.current.onBack(),
      },
      {
        id: 'cut.again',
        words: say.makeTheStepAgain,
        group: GROUP,
        keys: ['Ctrl+Shift+Z', 'Ctrl+Y'],
        repeats: true,
        run: () => latest.current.onAgain(),
      },
    ],
    [],
  );
  useCommands('step', commands);
}
