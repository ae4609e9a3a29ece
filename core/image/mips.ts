import { type Raster, raster } from './raster.ts';
import { wordsOf } from './words.ts';

/** Size of mip level `level`: halves, rounded up, so that level pixel i always covers art pixels [i·2^L, (i+1)·2^L). */
export const mipSizePx = (sizePx: number, level: number): number =>
  Math.max(1, Math.ceil(sizePx / 2 ** level));

/** How many levels there are down to a single pixel. */
export const mipCount = (widthPx: number, heightPx: number): number =>
  1 + Math.ceil(Math.log2(Math.max(widthPx, heightPx, 1)));

/**
 * The level to sample for a map that shows `outPxPerArtPx` output px for each art px:
 * the coarsest whose own scale is still at or under 1, so that bilinear reading never skips a texel.
 */
export function mipLevelFor(outPxPerArtPx: number, levels: number): number {
  if (!(outPxPerArtPx > 0)) return levels - 1;
  return Math.min(levels - 1, Math.max(0, Math.floor(Math.log2(1 / outPxPerArtPx) + 1e-9)));
}

const EVERY_OTHER = 0x00ff00ff;
const HALF = 0x00020002;

/**
 * The next coarser level: 2×2 means of premultiplied pixels, rounded to nearest; what lies outside the art counts as
 * clear. Two channels at a time: four bytes and a half add up to at most 1022, which fits between them.
 */
export function halve(image: Raster<'premultiplied'>): Raster<'premultiplied'> {
  const out = raster(mipSizePx(image.widthPx, 1), mipSizePx(image.heightPx, 1), 'premultiplied');
  const { widthPx: width, heightPx: height } = image;
  const [from, to] = [wordsOf(image.data), wordsOf(out.data)];
  for (let y = 0; y < out.heightPx; y++) {
    const below = 2 * y + 1 < height ? width : 0;
    for (let x = 0; x < out.widthPx; x++) {
      const at = 2 * y * width + 2 * x;
      const right = 2 * x + 1 < width;
      const p = from[at] as number;
      const q = right ? (from[at + 1] as number) : 0;
      const r = below > 0 ? (from[at + below] as number) : 0;
      const s = right && below > 0 ? (from[at + below + 1] as number) : 0;
      if ((p | q | r | s) === 0) continue;
      const even = (p & EVERY_OTHER) + (q & EVERY_OTHER) + (r & EVERY_OTHER) + (s & EVERY_OTHER) + HALF;
      const odd =
        ((p >>> 8) & EVERY_OTHER) +
        ((q >>> 8) & EVERY_OTHER) +
        ((r >>> 8) & EVERY_OTHER) +
        ((s >>> 8) & EVERY_OTHER) +
        HALF;
      to[y * out.widthPx + x] = ((even >>> 2) & EVERY_OTHER) | (((odd >>> 2) & EVERY_OTHER) << 8);
    }
  }
  return out;
}
