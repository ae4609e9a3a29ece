import { openRasterZip, stackXml } from '@keen-ridge/core/testing';
import sharp from 'sharp';

/** A PNG of one colour; alpha from 0 to 1. */
export const solidPng = async (
  width: number,
  height: number,
  colour: { r: number; g: number; b: number; alpha?: number },
): Promise<Uint8Array> =>
  new Uint8Array(
    await sharp({ create: { width, height, channels: 4, background: { alpha: 1, ...colour } } })
      .png()
      .toBuffer(),
  );

export interface TestLayer {
  readonly name: string;
  readonly png: Uint8Array;
  readonly x: number;
  readonly y: number;
  readonly more?: string;
}

/** An OpenRaster file of the layers, on top first. */
export function openRasterOf(layers: readonly TestLayer[], widthPx: number, heightPx: number): Uint8Array {
  const parts: Record<string, string | Uint8Array> = {};
  const tags = layers.map(({ name, png, x, y, more = '' }, i) => {
    parts[`data/${i}.png`] = png;
    return `<layer name="${name}" src="data/${i}.png" x="${x}" y="${y}" ${more}/>`;
  });
  return openRasterZip({ 'stack.xml': stackXml(tags.join(''), `w="${widthPx}" h="${heightPx}"`), ...parts });
}
