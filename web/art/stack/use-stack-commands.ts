import { type PlaneId, planeIdSchema } from '@keen-ridge/core/scene';
import { useMemo, useRef } from 'react';
import type { Command, CommandContext } from '../../commands/command.ts';
import { useCommands } from '../../commands/registry.ts';
import { artWords as say } from '../../words/art.ts';

interface StackActs {
  /** Moves planes one place up or down the stack. */
  readonly onStep: (id: PlaneId, by: 1 | -1) => void;
  /** Goes to the row above or below. */
  readonly onFocus: (id: PlaneId, by: 1 | -1) => void;
}

/** The keyboard of the stack's rows. */
export function useStackCommands(acts: StackActs): void {
  const latest = useRef(acts);
  latest.current = acts;
  const commands = useMemo((): readonly Command[] => {
    const on = (act: (acts: StackActs, id: PlaneId) => void) => ({
      group: 'Stack',
      place: 'stack',
      keysOnly: true,
      repeats: true,
      when: ({ subject }: CommandContext) => subject?.kind === 'plane',
      run: ({ subject }: CommandContext) => subject && act(latest.current, planeIdSchema.parse(subject.id)),
    });
    return [
      { ...on((a, id) => a.onFocus(id, -1)), id: 'stack.above', words: say.thePlaneAbove, keys: ['ArrowUp'] },
      {
        ...on((a, id) => a.onFocus(id, 1)),
        id: 'stack.below',
        words: say.thePlaneBelow,
        keys: ['ArrowDown'],
      },
      { ...on((a, id) => a.onStep(id, -1)), id: 'stack.up', words: say.upInTheOrder, keys: ['Alt+ArrowUp'] },
      {
        ...on((a, id) => a.onStep(id, 1)),
        id: 'stack.down',
        words: say.downInTheOrder,
        keys: ['Alt+ArrowDown'],
      },
    ];
  }, []);
  useCommands('part', commands);
}
