/** A scale or determinant smaller than this is singular: nothing of the plane could be seen. */
export const SINGULAR = 1e-12;
/** Depths are kept at least this far in front of the home camera (fraction of the home distance). */
export const NEAREST_DEPTH_FRACTION = 0.99;
