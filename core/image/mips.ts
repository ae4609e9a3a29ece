import { type Raster, raster } from './raster.ts';

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

/** The next coarser level: 2×2 means of premultiplied pixels; what lies outside the art counts as clear. */
export function halve(image: Raster<'premultiplied'>): Raster<'premultiplied'> {
  const out = raster(mipSizePx(image.widthPx, 1), mipSizePx(image.heightPx, 1), 'premultiplied');
  const { widthPx: width, heightPx: height, data } = image;
  for (let y = 0; y < out.heightPx; y++) {
    const below = 2 * y + 1 < height ? width * 4 : -1;
    for (let x = 0; x < out.widthPx; x++) {
      const at = (2 * y * width + 2 * x) * 4;
      const right = 2 * x + 1 < width;
      const to = (y * out.widthPx + x) * 4;
      for (let c = 0; c < 4; c++) {
        let sum = data[at + c] as number;
        if (right) sum += data[at + 4 + c] as number;
        if (below > 0) sum += data[at + below + c] as number;
        if (right && below > 0) sum += data[at + below + 4 + c] as number;
        out.data[to + c] = (sum + 2) >> 2;
      }
    }
  }
  return out;
}
