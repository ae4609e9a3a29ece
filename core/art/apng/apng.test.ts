import { zlibSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { type Raster, raster } from '../../image/index.ts';
import { composeApng } from './compose.ts';
import { type ApngFrame, pngOfChunks, readApng } from './read.ts';

const u32 = (...values: number[]): Uint8Array => {
  const out = new Uint8Array(values.length * 4);
  values.forEach((value, i) => {
    new DataView(out.buffer).setUint32(i * 4, value);
  });
  return out;
};
const join = (...parts: Uint8Array[]): Uint8Array => Uint8Array.from(parts.flatMap((part) => [...part]));
const control = (
  sequence: number,
  [width, height, x, y]: readonly number[],
  [delay, per, dispose, blend]: readonly number[],
) =>
  join(
    u32(sequence, width!, height!, x!, y!),
    Uint8Array.of(delay! >> 8, delay! & 255, per! >> 8, per! & 255, dispose!, blend!),
  );
const data = zlibSync(new Uint8Array(17));
const HEADER = { name: 'IHDR', data: join(u32(4, 4), Uint8Array.of(8, 6, 0, 0, 0)) };
const END = { name: 'IEND', data: new Uint8Array() };

describe('splitting an animated PNG', () => {
  const whole = pngOfChunks([
    HEADER,
    { name: 'acTL', data: u32(2, 0) },
    { name: 'sRGB', data: Uint8Array.of(0) },
    { name: 'fcTL', data: control(0, [4, 4, 0, 0], [1, 0, 1, 0]) },
    { name: 'IDAT', data },
    { name: 'fcTL', data: control(1, [2, 1, 1, 3], [3, 10, 2, 1]) },
    { name: 'fdAT', data: join(u32(2), data) },
    END,
  ]);

  it('gives every frame its place, time and ways, and a PNG of its own', () => {
    const read = readApng(whole);
    if (!read.ok) throw new Error(read.error.detail);
    expect(read.value.frames.map(({ png: _, ...rest }) => rest)).toEqual([
      // A denominator of 0 stands for 100.
      { xPx: 0, yPx: 0, widthPx: 4, heightPx: 4, delayMs: 10, dispose: 'background', blend: 'source' },
      { xPx: 1, yPx: 3, widthPx: 2, heightPx: 1, delayMs: 300, dispose: 'previous', blend: 'over' },
    ]);
    const second = read.value.frames[1]!.png;
    expect(new DataView(second.buffer).getUint32(16)).toBe(2);
    expect(String.fromCharCode(...second).includes('sRGB')).toBe(true);
    expect(String.fromCharCode(...second).includes('acTL')).toBe(false);
  });

  it('leaves out a first picture that is not part of the animation', () => {
    const read = readApng(
      pngOfChunks([
        HEADER,
        { name: 'acTL', data: u32(1, 0) },
        { name: 'IDAT', data },
        { name: 'fcTL', data: control(0, [4, 4, 0, 0], [1, 10, 0, 0]) },
        { name: 'fdAT', data: join(u32(1), data) },
        END,
      ]),
    );
    expect(read.ok && read.value.frames).toHaveLength(1);
  });

  it.each([
    ['without frames', [HEADER, { name: 'acTL', data: u32(1, 0) }, { name: 'IDAT', data }, END], 'no frames'],
    [
      'with a frame outside',
      [HEADER, { name: 'fcTL', data: control(0, [4, 4, 1, 0], [1, 10, 0, 0]) }, { name: 'IDAT', data }, END],
      'outside',
    ],
    ['with half a frame header', [HEADER, { name: 'fcTL', data: new Uint8Array(9) }, END], 'cut short'],
    ['without a header', [END], 'header is missing'],
  ])('is refused %s', (_what, chunks, why) => {
    const read = readApng(pngOfChunks(chunks));
    expect(read.ok ? '' : read.error.detail).toContain(why);
  });
});

describe('laying frames on one another (PNG Specification, Third Edition, section 13.10)', () => {
  const frame = (part: Partial<ApngFrame>): ApngFrame => ({
    png: new Uint8Array(),
    xPx: 0,
    yPx: 0,
    widthPx: 1,
    heightPx: 1,
    delayMs: 100,
    dispose: 'none',
    blend: 'source',
    ...part,
  });
  const pixel = (...rgba: number[]) => raster(1, 1, 'straight', Uint8Array.from(rgba));
  const run = async (frames: readonly ApngFrame[], images: readonly Raster<'straight'>[]) => {
    let next = 0;
    const out: number[][] = [];
    for await (const picture of composeApng({ widthPx: 2, heightPx: 1, frames }, async () => images[next++]!))
      out.push([...picture.data]);
    return out;
  };
  const RED = [255, 0, 0, 255];
  const CLEAR = [0, 0, 0, 0];

  it('disposes to nothing, to what was before, or not at all', async () => {
    const images = [pixel(...RED), pixel(0, 255, 0, 255), pixel(0, 0, 255, 255)];
    const third = frame({ xPx: 1 });
    expect((await run([frame({}), frame({ dispose: 'none' }), third], images))[2]).toEqual([
      0, 255, 0, 255, 0, 0, 255, 255,
    ]);
    expect((await run([frame({}), frame({ dispose: 'background' }), third], images))[2]).toEqual([
      ...CLEAR,
      0,
      0,
      255,
      255,
    ]);
    expect((await run([frame({}), frame({ dispose: 'previous' }), third], images))[2]).toEqual([
      ...RED,
      0,
      0,
      255,
      255,
    ]);
    // There is nothing before the first frame: previous clears it.
    expect((await run([frame({ dispose: 'previous' }), frame({ xPx: 1 })], images))[1]).toEqual([
      ...CLEAR,
      0,
      255,
      0,
      255,
    ]);
  });

  it('blends over with straight alpha, or replaces alpha and all', async () => {
    const images = [pixel(...RED), pixel(0, 0, 255, 128)];
    const [, over] = await run([frame({}), frame({ blend: 'over' })], images);
    // 255·(1 − 128/255) = 127 red, 128 blue, opaque.
    expect(over?.slice(0, 4)).toEqual([127, 0, 128, 255]);
    const [, source] = await run([frame({}), frame({ blend: 'source' })], images);
    expect(source?.slice(0, 4)).toEqual([0, 0, 255, 128]);
  });
});
