import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { deflateSync } from 'node:zlib';
import { pngOfChunks } from '@keen-ridge/core/art/apng';
import { openRasterZip, stackXml } from '@keen-ridge/core/testing';
import { seededRandom } from '@keen-ridge/core/units';
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

interface PngKind {
  readonly width: number;
  readonly height: number;
  readonly colourType: number;
  readonly depth: number;
  readonly interlaced: boolean;
  readonly seed: number;
}

const SAMPLES_A_PIXEL: Readonly<Record<number, number>> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };
/** Adam7: first column, first row, column step, row step (PNG Specification, section 8.1). */
const PASSES = [
  [0, 0, 8, 8],
  [4, 0, 8, 8],
  [0, 4, 4, 8],
  [2, 0, 4, 4],
  [0, 2, 2, 4],
  [1, 0, 2, 2],
  [0, 1, 1, 2],
] as const;

/** A PNG of random samples, of any colour type, depth and interlacing, put together by hand: unfiltered rows. */
export function pngOfSamples({ width, height, colourType, depth, interlaced, seed }: PngKind): Uint8Array {
  const random = seededRandom(seed);
  const perPixel = SAMPLES_A_PIXEL[colourType] ?? 1;
  const samples = Array.from({ length: width * height * perPixel }, () => Math.floor(random() * 2 ** depth));
  const rowBits = (columns: readonly number[], y: number): Uint8Array => {
    const row = new Uint8Array(1 + Math.ceil((columns.length * perPixel * depth) / 8));
    let bit = 8;
    for (const x of columns) {
      for (let s = 0; s < perPixel; s++) {
        const value = samples[(y * width + x) * perPixel + s] ?? 0;
        if (depth === 16) row.set([value >> 8, value & 255], bit / 8);
        else row[bit >> 3] = (row[bit >> 3] ?? 0) | (value << (8 - depth - (bit & 7)));
        bit += depth;
      }
    }
    return row;
  };
  const passes = interlaced ? PASSES : ([[0, 0, 1, 1]] as const);
  const rows = passes.flatMap(([x0, y0, dx, dy]) => {
    const columns = Array.from({ length: Math.ceil((width - x0) / dx) }, (_, i) => x0 + i * dx);
    if (columns.length === 0) return [];
    return Array.from({ length: Math.max(0, Math.ceil((height - y0) / dy)) }, (_, i) =>
      rowBits(columns, y0 + i * dy),
    );
  });
  const header = new Uint8Array(13);
  new DataView(header.buffer).setUint32(0, width);
  new DataView(header.buffer).setUint32(4, height);
  header.set([depth, colourType, 0, 0, interlaced ? 1 : 0], 8);
  const palette = Uint8Array.from({ length: 3 * 2 ** Math.min(8, depth) }, () => Math.floor(random() * 256));
  return pngOfChunks([
    { name: 'IHDR', data: header },
    ...(colourType === 3 ? [{ name: 'PLTE', data: palette }] : []),
    { name: 'IDAT', data: new Uint8Array(deflateSync(Buffer.concat(rows))) },
    { name: 'IEND', data: new Uint8Array() },
  ]);
}

/** `scene.ora` of a green dot (20 × 10 at 10, 20) on red ground (160 × 90), and `top.png`, 40 × 40 and blue. */
export async function paintedFiles(folder: string): Promise<void> {
  const red = await solidPng(160, 90, { r: 200, g: 0, b: 0 });
  const dot = await solidPng(20, 10, { r: 0, g: 200, b: 0 });
  const layers = [
    { name: 'Dot', png: dot, x: 10, y: 20, more: 'composite-op="svg:luminosity"' },
    { name: 'Ground', png: red, x: 0, y: 0 },
  ];
  writeFileSync(join(folder, 'scene.ora'), openRasterOf(layers, 160, 90));
  writeFileSync(join(folder, 'top.png'), await solidPng(40, 40, { r: 0, g: 0, b: 250 }));
}
