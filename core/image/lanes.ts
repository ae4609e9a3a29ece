import type { Raster } from './raster.ts';

/** An opaque 15-bit lane: byte v is v·128. */
export const OPAQUE_LANE = 32_640;

/**
 * Premultiplied RGBA as the renderer adds it up, four lanes of 0 to 32 640 a px: art of low alpha is held so, since in
 * premultiplied bytes little is left of its colours.
 */
export interface LaneRaster {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly colour: 'srgb';
  readonly alpha: 'premultiplied';
  readonly data: Uint16Array;
}

/** Straight RGBA of 16 bits a channel, as a deep file has it. */
export interface DeepRaster {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly colour: 'srgb';
  readonly alpha: 'straight';
  readonly data: Uint16Array;
}

/** A level of an image, in bytes or in lanes. */
export type LevelRaster = Raster<'premultiplied'> | LaneRaster;

export const isLanes = (level: LevelRaster): level is LaneRaster => level.data instanceof Uint16Array;

/** Bytes that a px of it takes. */
export const texelBytesOf = (level: LevelRaster): 4 | 8 => (isLanes(level) ? 8 : 4);

/** Share of the painted px that must be seen through for an image to be held in lanes: not the soft rims of what is solid. */
const LOW_ALPHA_SHARE = 1 / 8;

/** Whether an image is held in lanes: because it has 16 bits, or because much of it is seen through. */
export function wantsLanes(image: Raster<'straight'> | DeepRaster): boolean {
  if (image.data instanceof Uint16Array) return true;
  let [painted, translucent] = [0, 0];
  for (let i = 3; i < image.data.length; i += 4) {
    const alpha = image.data[i] as number;
    if (alpha > 0) painted += 1;
    if (alpha > 0 && alpha < 255) translucent += 1;
  }
  return translucent > painted * LOW_ALPHA_SHARE;
}

/** Straight px to lanes, each rounded once. Throws RangeError where the length does not fit the size. */
export function toLanes({ widthPx, heightPx, data: straight }: Raster<'straight'> | DeepRaster): LaneRaster {
  if (straight.length !== widthPx * heightPx * 4)
    throw new RangeError(`${widthPx}×${heightPx} RGBA is not ${straight.length} values`);
  const whole = straight instanceof Uint16Array ? 65_535 : 255;
  const data = new Uint16Array(straight.length);
  for (let i = 0; i < data.length; i += 4) {
    const alpha = straight[i + 3] as number;
    if (alpha === 0) continue;
    const scale = (OPAQUE_LANE * alpha) / (whole * whole);
    for (let c = i; c < i + 3; c++) data[c] = Math.round((straight[c] as number) * scale);
    data[i + 3] = Math.round((OPAQUE_LANE * alpha) / whole);
  }
  return { widthPx, heightPx, colour: 'srgb', alpha: 'premultiplied', data };
}

/** The bytes of a level as it lies in the memory and travels: lanes little-endian. */
export const levelBytes = ({ data }: LevelRaster): Uint8Array =>
  new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
