import { create } from 'zustand';
import { type ClickKeys, selectionAfterClick } from '../session/choices/selection.ts';

/** The shots of the wall that are chosen, by id. */
export const useWallChoice = create<{ readonly chosen: readonly string[] }>(() => ({ chosen: [] }));

export const chooseShots = (chosen: readonly string[]): void => useWallChoice.setState({ chosen });

/** A click on a shot with Ctrl or Shift; `order`: all shots as they stand on the wall. */
export const chooseShot = (order: readonly string[], id: string, keys: ClickKeys): void =>
  chooseShots(selectionAfterClick(order, useWallChoice.getState().chosen, id, keys));
