import { useEffect } from 'react';
import { create } from 'zustand';
import type { Command } from './command.ts';

/** Things that the finder finds beside commands: made when it is opened. */
export interface Finds {
  readonly heading: string;
  /** `text`: what was typed. */
  readonly find: (text: string) => readonly Found[];
}

export interface Found {
  readonly id: string;
  readonly words: string;
  readonly run: () => void;
}

interface Registry {
  /** In the order in which they came: what came last lies on top. */
  readonly commands: readonly (readonly Command[])[];
  readonly finds: readonly (readonly Finds[])[];
}

/** All that can be done on the page as it is now. */
export const useRegistry = create<Registry>(() => ({ commands: [], finds: [] }));

/** Offers commands while the component is there; what is offered later goes first. Hand in the same list while it is the same. */
export function useCommands(commands: readonly Command[]): void {
  useEffect(() => {
    useRegistry.setState(({ commands: there }) => ({ commands: [...there, commands] }));
    return () =>
      useRegistry.setState(({ commands: there }) => ({ commands: there.filter((one) => one !== commands) }));
  }, [commands]);
}

export function useFinds(finds: readonly Finds[]): void {
  useEffect(() => {
    useRegistry.setState(({ finds: there }) => ({ finds: [...there, finds] }));
    return () =>
      useRegistry.setState(({ finds: there }) => ({ finds: there.filter((one) => one !== finds) }));
  }, [finds]);
}

/** What can be done now, the newest first. */
export const offered = (): readonly Command[] => useRegistry.getState().commands.toReversed().flat();

export const commandOf = (id: string): Command | undefined => offered().find((command) => command.id === id);

/** Does a command if it is there and can be done. */
export function runCommand(id: string): void {
  const command = commandOf(id);
  if (command && (command.when?.({ subject: null }) ?? true)) command.run({ subject: null });
}
