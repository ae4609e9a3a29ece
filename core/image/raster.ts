export const ALPHA_MODES = ['straight', 'premultiplied'] as const;
export type AlphaMode = (typeof ALPHA_MODES)[number];

/**
 * 8-bit RGBA pixels, rows from the top, no padding: `data.length === 4 · widthPx · heightPx`.
 * Colour is sRGB-encoded (IEC 61966-2-1); how alpha is held is part of the type.
 */
export interface Raster<A extends AlphaMode = AlphaMode> {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly colour: 'srgb';
  readonly alpha: A;
  readonly data: Uint8Array | Uint8ClampedArray;
}

/** Wraps pixels without a copy. Throws RangeError when the length does not fit the size. */
export function raster<A extends AlphaMode>(
  widthPx: number,
  heightPx: number,
  alpha: A,
  data: Uint8Array | Uint8ClampedArray = new Uint8Array(widthPx * heightPx * 4),
): Raster<A> {
  if (data.length !== widthPx * heightPx * 4) {
    throw new RangeError(
      `${widthPx}×${heightPx} RGBA needs ${widthPx * heightPx * 4} bytes, got ${data.length}`,
    );
  }
  return { widthPx, heightPx, colour: 'srgb', alpha, data };
}

/**
 * RGBA bytes as one 32-bit word a pixel, alpha in the highest byte (little endian, as all that WebAssembly runs on is).
 * Signed, for those are what the engine adds fastest. A view where the bytes are aligned, else a copy: use it to read, or to write into arrays that were made here.
 */
export function wordsOf(data: Uint8Array | Uint8ClampedArray): Int32Array {
  return data.byteOffset % 4 === 0
    ? new Int32Array(data.buffer, data.byteOffset, data.byteLength / 4)
    : new Int32Array(data.slice().buffer);
}
