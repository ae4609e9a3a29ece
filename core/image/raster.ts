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
