import { useEffect } from 'react';
import { create } from 'zustand';
import { type Command, canRun } from './command.ts';

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

/** How deep in the page something is offered: what lies deeper goes first. */
export const LAYERS = ['app', 'shot', 'step', 'part'] as const;
export type Layer = (typeof LAYERS)[number];

interface Offer {
  readonly layer: Layer;
  readonly commands: readonly Command[];
}

interface Registry {
  readonly offers: readonly Offer[];
  readonly finds: readonly (readonly Finds[])[];
}

/** All that can be done on the page as it is now. */
export const useRegistry = create<Registry>(() => ({ offers: [], finds: [] }));

/**
 * Offers commands while the component is there: those of a deeper layer go first, within one those that came last. Hand
 * in the same list while it is the same.
 */
export function useCommands(layer: Layer, commands: readonly Command[]): void {
  useEffect(() => {
    const mine: Offer = { layer, commands };
    useRegistry.setState(({ offers }) => ({ offers: [...offers, mine] }));
    return () => useRegistry.setState(({ offers }) => ({ offers: offers.filter((one) => one !== mine) }));
  }, [layer, commands]);
}

export function useFinds(finds: readonly Finds[]): void {
  useEffect(() => {
    useRegistry.setState(({ finds: there }) => ({ finds: [...there, finds] }));
    return () =>
      useRegistry.setState(({ finds: there }) => ({ finds: there.filter((one) => one !== finds) }));
  }, [finds]);
}

/** All commands of some offers, those that go first at the head. */
export const inOrder = (offers: readonly Offer[]): readonly Command[] =>
  LAYERS.toReversed().flatMap((layer) =>
    offers
      .filter((offer) => offer.layer === layer)
      .toReversed()
      .flatMap(({ commands }) => commands),
  );

/** What can be done now. */
export const offered = (): readonly Command[] => inOrder(useRegistry.getState().offers);

export const commandOf = (id: string): Command | undefined => offered().find((command) => command.id === id);

/** Does a command if it is there and can be done. */
export function runCommand(id: string): void {
  const command = commandOf(id);
  if (command && canRun(command, { subject: null })) command.run({ subject: null });
}
