/** Frames that something must take to cross the frame: 7 s at 24 a second (cinematographers' handbook rule, from memory). */
const LEAST_CROSSING_FRAMES = 7 * 24;

/** The fastest that something may go on screen before it strobes, output px a frame. */
export const strobingPxPerFrame = (widthPx: number): number => widthPx / LEAST_CROSSING_FRAMES;
