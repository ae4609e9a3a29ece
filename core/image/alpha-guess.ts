import { type Raster, raster } from './raster.ts';

/**
 * Whether pixels that are said to be straight might have been multiplied by their alpha already: no colour is above
 * its alpha, though a good share of the half-clear pixels are near it. Bright paint at soft edges tells the two apart.
 */
export function mayBePremultiplied({ data }: Raster): boolean {
  let [soft, near] = [0, 0];
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3] as number;
    if (alpha === 0 || alpha === 255) continue;
    const most = Math.max(data[i] as number, data[i + 1] as number, data[i + 2] as number);
    if (most > alpha) return false;
    soft += 1;
    if (most > alpha / 4) near += 1;
  }
  return soft > 0 && near * 4 >= soft;
}

/** Pixels that were multiplied by their alpha, as straight ones; colours above their alpha are cut to it. */
export function unpremultiplied(image: Raster): Raster<'straight'> {
  const out = raster(image.widthPx, image.heightPx, 'straight', Uint8Array.from(image.data));
  for (let i = 0; i < out.data.length; i += 4) {
    const alpha = out.data[i + 3] as number;
    if (alpha === 0 || alpha === 255) continue;
    for (let c = 0; c < 3; c++)
      out.data[i + c] = Math.min(255, Math.round(((out.data[i + c] as number) * 255) / alpha));
  }
  return out;
}
