import { type Raster, raster } from './raster.ts';

/** round(v/255) for v in [0, 65 025], exact. */
const divideBy255 = (v: number): number => ((v + 128) * 257) >>> 16;

/** Straight RGBA bytes to premultiplied, rounded to nearest. `from` and `to` may be the same array. */
export function premultiplyBytes(from: ArrayLike<number>, to: Uint8Array | Uint8ClampedArray): void {
  for (let i = 0; i < from.length; i += 4) {
    const alpha = from[i + 3] as number;
    to[i] = divideBy255((from[i] as number) * alpha);
    to[i + 1] = divideBy255((from[i + 1] as number) * alpha);
    to[i + 2] = divideBy255((from[i + 2] as number) * alpha);
    to[i + 3] = alpha;
  }
}

export function premultiply(image: Raster<'straight'>): Raster<'premultiplied'> {
  const out = raster(image.widthPx, image.heightPx, 'premultiplied');
  premultiplyBytes(image.data, out.data);
  return out;
}

/** Premultiplied bytes to straight in place; a clear pixel becomes (0, 0, 0, 0). */
export function unpremultiplyBytes(data: Uint8Array | Uint8ClampedArray): void {
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3] as number;
    if (alpha === 255) continue;
    const gain = alpha === 0 ? 0 : 255 / alpha;
    data[i] = Math.min(255, Math.round((data[i] as number) * gain));
    data[i + 1] = Math.min(255, Math.round((data[i + 1] as number) * gain));
    data[i + 2] = Math.min(255, Math.round((data[i + 2] as number) * gain));
  }
}
