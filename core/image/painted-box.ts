import type { Box } from '../geometry/index.ts';
import type { Raster } from './raster.ts';
import { wordsOf } from './raster.ts';

/** Alpha below this (of 255) is a stray speck of a soft brush, not paint that an edge could be seen of. */
export const PAINTED_ALPHA = 8;

/** The smallest box of art px that holds all paint, or null when nothing is painted. */
export function paintedBox(image: Raster): Box | null {
  const { widthPx: width, heightPx: height } = image;
  const words = wordsOf(image.data);
  let [x0, y0, x1, y1] = [width, height, 0, 0];
  for (let y = 0; y < height; y++) {
    const row = y * width;
    // Only what lies beyond the box so far can widen it; within it one painted px is enough to go on.
    let left = 0;
    while (left < x0 && (words[row + left] as number) >>> 24 < PAINTED_ALPHA) left += 1;
    let right = width;
    while (right > x1 && (words[row + right - 1] as number) >>> 24 < PAINTED_ALPHA) right -= 1;
    let painted = left < x0 || right > x1;
    for (let x = x0; x < x1 && !painted; x++) painted = (words[row + x] as number) >>> 24 >= PAINTED_ALPHA;
    if (!painted) continue;
    x0 = Math.min(x0, left);
    x1 = Math.max(x1, right);
    y0 = Math.min(y0, y);
    y1 = y + 1;
  }
  return x1 > x0 ? { x0, y0, x1, y1 } : null;
}
