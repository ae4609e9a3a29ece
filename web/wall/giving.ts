import type { ShotCard } from '@keen-ridge/core/contract/wall';
import { create } from 'zustand';

/** Marks a drag as one of a shot's picture; the text is the shot's id. */
export const SHOT_DRAG = 'application/x-keen-ridge-shot';

/** A set-up that is about to be given: from one shot, to another once it is known. */
interface Giving {
  readonly from: ShotCard;
  readonly to: ShotCard | null;
}

export const useGiving = create<{ readonly giving: Giving | null }>(() => ({ giving: null }));
export const setGiving = (giving: Giving | null): void => useGiving.setState({ giving });
