import { raster } from '@keen-ridge/core/image';
import { LIMITS } from '@keen-ridge/core/scene';
import { writePsdUint8Array } from 'ag-psd';
import omggif from 'omggif';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { collectImages } from './collect.ts';
import { encodePng, LARGEST_PIXELS, tooLarge } from './decode.ts';
import { readArtFile } from './read-art.ts';

const read = (name: string, bytes: Uint8Array) => readArtFile(name, bytes, collectImages());

/** A GIF of so many frames of 8 × 8, each with one px more in another colour than the one before. */
function gifOf(frames: number): Uint8Array {
  const bytes = new Uint8Array(frames * 120 + 1000);
  const writer = new omggif.GifWriter(bytes, 8, 8, { palette: [0x000000, 0xff0000], loop: 0 });
  for (let i = 0; i < frames; i++) {
    const pixels = new Uint8Array(64);
    pixels[i % 64] = 1;
    writer.addFrame(0, 0, 8, 8, [...pixels], { delay: 4 });
  }
  return bytes.slice(0, writer.end());
}

describe('images at the limit', () => {
  it('of more than 268 megapixels are encoded, as they are decoded', { timeout: 240_000 }, async () => {
    // 16 500 × 16 500 are 272 million, past the 268 402 689 that the encoder takes by itself.
    const side = 16_500;
    expect([side * side > 268_402_689, side * side <= LARGEST_PIXELS, tooLarge(side, side)]).toEqual([
      true,
      true,
      false,
    ]);
    const png = await encodePng(raster(side, side, 'straight'));
    const { width, height } = await sharp(png, { limitInputPixels: false }).metadata();
    expect([width, height]).toEqual([side, side]);
  });

  it('that move take as many frames as a plane, and each is its own drawing', {
    timeout: 240_000,
  }, async () => {
    const most = 900;
    const result = await read('many.gif', gifOf(most));
    const node = result.ok ? result.value[0]?.nodes[0] : null;
    const frames = node?.kind === 'layer' ? (node.frames ?? []) : [];
    expect(frames).toHaveLength(most);
    // Frame i has one px of red at i mod 64: the drawings come round again after 64, and no sooner.
    const ids = frames.map(({ art }) => art.id);
    expect(new Set(ids).size).toBe(64);
    for (const i of [0, 63, 64, 500, 899]) expect(ids[i]).toBe(ids[i % 64]);
    const over = await read('over.gif', gifOf(LIMITS.exposures.max + 1));
    expect(over).toMatchObject({
      ok: false,
      error: { code: 'too-large', detail: expect.stringContaining('5001 frames') },
    });
  });
});

describe('layered files that go on for ever', () => {
  const image = { width: 2, height: 2, data: new Uint8ClampedArray(16).fill(255) };
  const leaf = { name: 'leaf', left: 0, top: 0, imageData: image };
  const nested = (depth: number) => {
    let node: object = leaf;
    for (let i = 0; i < depth; i++) node = { name: `g${i}`, opened: true, children: [node] };
    return writePsdUint8Array({ width: 2, height: 2, children: [node] });
  };

  it('are refused past a hundred groups in one another, without running out of stack', async () => {
    expect((await read('ok.psd', nested(100))).ok).toBe(true);
    expect(await read('deep.psd', nested(101))).toMatchObject({ ok: false, error: { code: 'too-large' } });
    expect((await read('deeper.psd', nested(3000))).ok).toBe(false);
  });

  it('come with names that can be kept, however long they were', async () => {
    const bytes = writePsdUint8Array({
      width: 2,
      height: 2,
      children: [{ ...leaf, name: `${'x'.repeat(199)}🏮🏮` }],
    });
    const result = await read('long.psd', bytes);
    expect(result.ok && result.value[0]?.nodes[0]?.name).toBe('x'.repeat(199));
  });
});
