import { describe, expect, it } from 'vitest';
import { IDENTITY, scaling } from '../../geometry/index.ts';
import { CLEAR, type ImageLayer } from '../../picture/index.ts';
import { type FromRenderWorker, RenderPool, type RenderPort } from '../../pool/index.ts';
import {
  levelsSource,
  randomImage,
  testAnswer,
  testArtId,
  testKernel,
  testLayer,
} from '../../testing/index.ts';

const SIDE = 600;
/** A level of SIDE px with its tile map and rounding, and the level that is there from the start. */
const IMAGE_BYTES = SIDE * SIDE * 4 * 1.26;
/** So that it is held in bytes. */
function opaque(image: ReturnType<typeof randomImage>) {
  for (let at = 3; at < image.data.length; at += 4) image.data[at] = 255;
  return image;
}
const VIEW = { widthPx: SIDE, heightPx: SIDE, frameToImage: IDENTITY, background: CLEAR };
const images = Array.from({ length: 12 }, (_, i) => opaque(randomImage(i + 1, SIDE, SIDE)));
const layer = (n: number, level = 0): ImageLayer =>
  testLayer(
    testArtId(n),
    { widthPx: SIDE, heightPx: SIDE },
    { level, imageToLevel: scaling(1 / 2 ** level) },
  );

async function poolWith(leaseBytes: number) {
  const { kernel, memory } = await testKernel();
  const opened: string[] = [];
  const open = (): RenderPort => {
    let tell: (message: FromRenderWorker) => void = () => {};
    return {
      post: (message) => queueMicrotask(() => testAnswer({ kernel, memory }, message).then(tell)),
      listen: (onMessage) => {
        tell = onMessage;
      },
      close: () => undefined,
    };
  };
  const pool = new RenderPool(memory, open, 1, { leaseBytes });
  const source = (artId: string) => {
    opened.push(artId);
    const at = images.findIndex((_, i) => testArtId(i + 1) === artId);
    return levelsSource(images[at]!);
  };
  return { pool, source, opened };
}

describe('a lease of the render pool', () => {
  it('holds all that a picture reads, so that it comes out as from whole images', async () => {
    const { pool, source } = await poolWith(100e6);
    const { layers, release } = await pool.lease([layer(1), layer(2, 1)], VIEW, source);
    const streamed = await pool.render(layers, VIEW, 1);
    release();
    const whole = await poolWith(100e6);
    for (const n of [1, 2])
      await whole.pool.addImage(testArtId(n), async () => ({
        ...images[n - 1]!,
        data: images[n - 1]!.data.slice(),
      }));
    expect(streamed.data).toEqual((await whole.pool.render([layer(1), layer(2, 1)], VIEW, 1)).data);
    expect(new Set(streamed.data).size).toBeGreaterThan(100);
  });

  it('keeps the memory bounded however many drawings go by', async () => {
    const { pool, source } = await poolWith(3 * IMAGE_BYTES);
    let most = 0;
    for (let round = 0; round < 2; round++) {
      for (let n = 1; n <= images.length; n++) {
        const { layers, release } = await pool.lease([layer(n)], VIEW, source);
        expect(layers).toHaveLength(1);
        most = Math.max(most, pool.usedBytes);
        release();
      }
    }
    expect(most).toBeLessThanOrEqual(3 * IMAGE_BYTES);
    expect(most).toBeGreaterThan(IMAGE_BYTES);
  });

  it('waits for others where there is no room, and takes what it must when it is alone', async () => {
    const { pool, source } = await poolWith(1.5 * IMAGE_BYTES);
    const first = await pool.lease([layer(1)], VIEW, source);
    let came = false;
    const second = pool.lease([layer(2)], VIEW, source).then((lease) => {
      came = true;
      return lease;
    });
    for (let i = 0; i < 50; i++) await new Promise((resolve) => setTimeout(resolve, 0));
    expect(came).toBe(false);
    // What is being read stays as it was.
    expect((await pool.render(first.layers, VIEW, 1)).data.some((value) => value !== 0)).toBe(true);
    first.release();
    first.release();
    (await second).release();
    const large = await pool.lease([layer(3), layer(4), layer(5)], VIEW, source);
    expect(pool.usedBytes).toBeGreaterThan(3 * IMAGE_BYTES * 0.9);
    large.release();
  });

  it('that could not be had takes nothing and stands in nobody’s way', async () => {
    const { pool, source } = await poolWith(1.5 * IMAGE_BYTES);
    const bad = (artId: string) => ({
      ...source(artId),
      chunks: () => Promise.reject(new Error('damaged')),
    });
    await expect(pool.lease([layer(1)], VIEW, bad)).rejects.toThrow('damaged');
    const abort = new AbortController();
    abort.abort(new Error('given up'));
    await expect(pool.lease([layer(2)], VIEW, source, abort.signal)).rejects.toThrow('given up');
    for (const n of [1, 2, 3]) (await pool.lease([layer(n)], VIEW, source)).release();
    expect(pool.usedBytes).toBeLessThanOrEqual(1.5 * IMAGE_BYTES);
  });

  it('reads nothing of what the view does not show', async () => {
    const { pool, source } = await poolWith(1.5 * IMAGE_BYTES);
    const aside = { ...layer(1), imageToLevel: { ...IDENTITY, e: 5000 } };
    const { layers, release } = await pool.lease([aside], VIEW, source);
    expect(layers).toEqual([]);
    release();
  });
});
