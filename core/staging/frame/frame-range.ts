/** Frames [start, end) of a shot; people see it as start – end−1. */
export interface FrameRange {
  readonly start: number;
  readonly end: number;
}

/** Every frame of a shot of `lengthFrames`. */
export const wholeShot = (lengthFrames: number): FrameRange => ({ start: 1, end: lengthFrames + 1 });

export const framesOf = ({ start, end }: FrameRange): number[] =>
  Array.from({ length: Math.max(0, end - start) }, (_, i) => start + i);
