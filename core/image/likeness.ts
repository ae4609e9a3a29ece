import type { Box } from '../geometry/index.ts';
import type { Raster } from './raster.ts';

const EDGE = 8;

/**
 * A tiny picture of the paint: 8 × 8 means of premultiplied RGBA, 0 to 255, over `painted` (the whole image where it
 * is null). Two versions of one layer have nearly the same one, whatever they are called and however they are cropped.
 */
export function likenessOf(image: Raster<'straight'>, painted: Box | null): number[] {
  const { x0, y0, x1, y1 } = painted ?? { x0: 0, y0: 0, x1: image.widthPx, y1: image.heightPx };
  const likeness: number[] = [];
  for (let row = 0; row < EDGE; row++) {
    for (let column = 0; column < EDGE; column++) {
      likeness.push(
        ...meanOf(image, {
          x0: Math.floor(x0 + ((x1 - x0) * column) / EDGE),
          x1: Math.max(
            Math.floor(x0 + ((x1 - x0) * (column + 1)) / EDGE),
            1 + Math.floor(x0 + ((x1 - x0) * column) / EDGE),
          ),
          y0: Math.floor(y0 + ((y1 - y0) * row) / EDGE),
          y1: Math.max(
            Math.floor(y0 + ((y1 - y0) * (row + 1)) / EDGE),
            1 + Math.floor(y0 + ((y1 - y0) * row) / EDGE),
          ),
        }),
      );
    }
  }
  return likeness;
}

/** Points a side that are looked at in a cell: means of large art need not read every pixel. */
const SAMPLES = 24;

function meanOf(image: Raster, { x0, y0, x1, y1 }: Box): number[] {
  const [stepX, stepY] = [
    Math.max(1, Math.floor((x1 - x0) / SAMPLES)),
    Math.max(1, Math.floor((y1 - y0) / SAMPLES)),
  ];
  const sums = [0, 0, 0, 0];
  let count = 0;
  for (let y = y0; y < y1; y += stepY) {
    for (let x = x0; x < x1; x += stepX) {
      const at = (y * image.widthPx + x) * 4;
      const alpha = image.data[at + 3] as number;
      for (let c = 0; c < 3; c++)
        sums[c] = (sums[c] as number) + ((image.data[at + c] as number) * alpha) / 255;
      sums[3] = (sums[3] as number) + alpha;
      count += 1;
    }
  }
  return sums.map((sum) => Math.round(sum / count));
}
