/** Sizes of the timing strip, CSS px. */
export const HEAD_WIDTH = 268;
export const RULER_HEIGHT = 40;
export const ROW_HEIGHT = 30;
export const GROUP_HEIGHT = 24;
