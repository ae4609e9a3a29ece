import type { Box } from '../geometry/index.ts';
import type { Raster } from './raster.ts';

/** Alpha below this (of 255) is a stray speck of a soft brush, not paint that an edge could be seen of. */
export const PAINTED_ALPHA = 8;

/** The smallest box of art px that holds all paint, or null when nothing is painted. */
export function paintedBox(image: Raster): Box | null {
  const { widthPx: width, heightPx: height, data } = image;
  let [x0, y0, x1, y1] = [width, height, 0, 0];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if ((data[(y * width + x) * 4 + 3] as number) < PAINTED_ALPHA) continue;
      if (x < x0) x0 = x;
      if (x >= x1) x1 = x + 1;
      if (y < y0) y0 = y;
      y1 = y + 1;
    }
  }
  return x1 > x0 ? { x0, y0, x1, y1 } : null;
}
