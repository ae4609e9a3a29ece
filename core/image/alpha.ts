import { type Raster, raster } from './raster.ts';

/** round(v/255) for v in [0, 65 025], exact. */
const divideBy255 = (v: number): number => (v + 128 + ((v + 128) >>> 8)) >>> 8;

/** Straight pixels to premultiplied, rounded to nearest. */
export function premultiply(image: Raster<'straight'>): Raster<'premultiplied'> {
  const copy = Uint8Array.from(image.data);
  return premultiplyInPlace(raster(image.widthPx, image.heightPx, 'straight', copy));
}

/** The same without a copy, for an image that nobody needs straight any more (unless its bytes are unaligned). */
export function premultiplyInPlace({
  widthPx,
  heightPx,
  data: own,
}: Raster<'straight'>): Raster<'premultiplied'> {
  const data = own.byteOffset % 4 === 0 ? own : own.slice();
  const words = new Int32Array(data.buffer, data.byteOffset, data.byteLength / 4);
  for (let i = 0; i < words.length; i++) {
    const word = words[i] as number;
    const alpha = word >>> 24;
    if (alpha === 255) continue;
    if (alpha === 0) {
      if (word !== 0) words[i] = 0;
      continue;
    }
    // Red and blue at once: each product and its half fit into 16 bits.
    const both = (Math.imul(word & 0x00ff00ff, alpha) + 0x00800080) | 0;
    const redBlue = ((both + ((both >>> 8) & 0x00ff00ff)) >>> 8) & 0x00ff00ff;
    words[i] = redBlue | (divideBy255(((word >>> 8) & 255) * alpha) << 8) | (alpha << 24);
  }
  return raster(widthPx, heightPx, 'premultiplied', data);
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
