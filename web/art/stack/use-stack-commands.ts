import { type PlaneId, planeIdSchema } from '@keen-ridge/core/scene';
import { useMemo, useRef } from 'react';
import type { Command, CommandContext } from '../../commands/command.ts';
import { useCommands } from '../../commands/registry.ts';

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
      { ...on((a, id) => a.onFocus(id, -1)), id: 'stack.above', words: 'The plane above', keys: ['ArrowUp'] },
      {
        ...on((a, id) => a.onFocus(id, 1)),
        id: 'stack.below',
        words: 'The plane below',
        keys: ['ArrowDown'],
      },
      { ...on((a, id) => a.onStep(id, -1)), id: 'stack.up', words: 'Up in the order', keys: ['Alt+ArrowUp'] },
      {
        ...on((a, id) => a.onStep(id, 1)),
        id: 'stack.down',
        words: 'Down in the order',
        keys: ['Alt+ArrowDown'],
      },
    ];
  }, []);
  useCommands('part', commands);
}
