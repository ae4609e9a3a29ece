import { type Raster, raster } from './raster.ts';
import { wordsOf } from './words.ts';

/** round(v/255) for v in [0, 65 025], exact. */
const divideBy255 = (v: number): number => (v + 128 + ((v + 128) >>> 8)) >>> 8;

/** Straight pixels to premultiplied, rounded to nearest. */
export function premultiply(image: Raster<'straight'>): Raster<'premultiplied'> {
  const out = raster(image.widthPx, image.heightPx, 'premultiplied');
  const [from, to] = [wordsOf(image.data), wordsOf(out.data)];
  for (let i = 0; i < from.length; i++) {
    const word = from[i] as number;
    const alpha = word >>> 24;
    // Most of a painting is clear or opaque, and clear words are there already.
    if (alpha === 0) continue;
    if (alpha === 255) {
      to[i] = word;
      continue;
    }
    // Red and blue at once: each product and its half fit into 16 bits.
    const both = (Math.imul(word & 0x00ff00ff, alpha) + 0x00800080) | 0;
    const redBlue = ((both + ((both >>> 8) & 0x00ff00ff)) >>> 8) & 0x00ff00ff;
    to[i] = redBlue | (divideBy255(((word >>> 8) & 255) * alpha) << 8) | (alpha << 24);
  }
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
