import type { Box } from '../geometry/index.ts';
import type { Raster } from './raster.ts';

export const SIDES = ['left', 'right', 'top', 'bottom'] as const;
export type Side = (typeof SIDES)[number];

/** Half covered or more counts as paint that ends in a visible edge. */
const SOLID_ALPHA = 128;
/** A tight crop touches its border at a few px; a painting that was cut off does so along a good part of it. */
const CUT_SHARE = 0.2;

/** Sides at which the paint runs into the border of its art: seen in frame, that is a straight cut, not a soft end. */
export function cutEdges(image: Raster, painted: Box | null): Record<Side, boolean> {
  if (!painted) return { left: false, right: false, top: false, bottom: false };
  const solidAt = (x: number, y: number) =>
    (image.data[(y * image.widthPx + x) * 4 + 3] as number) >= SOLID_ALPHA;
  const columnIsCut = (x: number) => share(painted.y0, painted.y1, (y) => solidAt(x, y)) >= CUT_SHARE;
  const rowIsCut = (y: number) => share(painted.x0, painted.x1, (x) => solidAt(x, y)) >= CUT_SHARE;
  return {
    left: columnIsCut(0),
    right: columnIsCut(image.widthPx - 1),
    top: rowIsCut(0),
    bottom: rowIsCut(image.heightPx - 1),
  };
}

function share(from: number, to: number, holds: (i: number) => boolean): number {
  let count = 0;
  for (let i = from; i < to; i++) if (holds(i)) count += 1;
  return count / (to - from);
}
