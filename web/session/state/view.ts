import type { Scene } from '@keen-ridge/core/scene';
import type { Rock } from '@keen-ridge/core/stage';
import type { FrameRange } from '@keen-ridge/core/staging/frame';

/** What is laid beside the picture along a line that is dragged: another frame, or another set-up. */
export interface Wipe {
  readonly word: string;
  /** Null: the set-up as it is now. */
  readonly scene: Scene | null;
  /** Null: the frame where the playhead stands. */
  readonly frame: number | null;
  /** Where the line is, as a share of the picture's width. */
  readonly at: number;
}

/** Which part of the shot has been rendered ahead, and whether more of it is being. */
export interface Preroll {
  readonly frames: ReadonlySet<number>;
  /** Null while none is asked for. */
  readonly wanted: FrameRange | null;
}

/** Where the playhead stands and how the shot is looked at; none of it is kept. */
export interface ViewState {
  readonly frame: number;
  readonly playing: boolean;
  /** Frames that real time ran past during the last play. */
  readonly dropped: number;
  readonly wipe: Wipe | null;
  /** The camera sways in the picture. */
  readonly rock: Rock | null;
}

export const FIRST_VIEW: ViewState = { frame: 1, playing: false, dropped: 0, wipe: null, rock: null };
