import { describe, expect, it } from 'vitest';
import { compose, IDENTITY, rotation, translation } from '../geometry/index.ts';
import type { Raster } from '../image/index.ts';
import { randomImage } from '../testing/images.ts';
import { testKernel } from '../testing/kernel.ts';
import { testArtId } from '../testing/scenes.ts';
import {
  answerRenderMessage,
  CLEAR,
  type FromRenderWorker,
  type RenderLayer,
  RenderPool,
  RenderPoolClosed,
  type RenderPort,
  type ToRenderWorker,
} from './index.ts';

const VIEW = { widthPx: 150, heightPx: 131, frameToImage: IDENTITY, background: CLEAR };
const SIZE = { widthPx: 120, heightPx: 90 };

/** Workers that live on this thread and answer a moment later, in the order they were asked. */
async function poolOf(count: number, answer?: (message: ToRenderWorker) => FromRenderWorker | null) {
  const { kernel, memory } = await testKernel();
  const posted: ToRenderWorker[][] = [];
  const lose: ((reason: string) => void)[] = [];
  const ports = Array.from({ length: count }, (_, i): RenderPort => {
    let tell: (message: FromRenderWorker) => void = () => {};
    posted.push([]);
    return {
      post: (message) => {
        posted[i]?.push(message);
        const said = answer ? answer(message) : answerRenderMessage(kernel, memory, message);
        if (said) queueMicrotask(() => tell(said));
      },
      listen: (onMessage, onLost) => {
        tell = onMessage;
        lose.push(onLost);
      },
      close: () => {},
    };
  });
  return { pool: new RenderPool(memory, ports), posted, lose };
}

const image = randomImage(4, SIZE.widthPx, SIZE.heightPx);
const copy = async (): Promise<Raster<'straight'>> => ({ ...image, data: image.data.slice() });
const LAYERS: readonly RenderLayer[] = [
  {
    kind: 'image',
    artId: testArtId(1),
    ...SIZE,
    level: 0,
    imageToLevel: compose(rotation(12), translation(-20, -9)),
    opacity: 0.8,
    repeat: 'none',
  },
  {
    kind: 'image',
    artId: testArtId(1),
    ...SIZE,
    level: 1,
    imageToLevel: compose(translation(-4.5, 3), IDENTITY),
    opacity: 1,
    repeat: 'none',
  },
];

describe('the render pool', () => {
  it('gives the same bytes however many workers share the rows', async () => {
    const results: Uint8Array[] = [];
    for (const workers of [1, 2, 3, 7]) {
      const { pool } = await poolOf(workers);
      await pool.addImage(testArtId(1), copy);
      results.push(new Uint8Array((await pool.render(LAYERS, VIEW, workers)).data));
    }
    expect(new Set(results[0]).size).toBeGreaterThan(50);
    for (const bytes of results) expect(bytes).toEqual(results[0]);
  });

  it('reads an image once, however often it is asked for at the same time', async () => {
    const { pool } = await poolOf(2);
    let reads = 0;
    const read = () => {
      reads += 1;
      return copy();
    };
    await Promise.all([pool.addImage(testArtId(1), read), pool.addImage(testArtId(1), read)]);
    await pool.addImage(testArtId(1), read);
    expect(reads).toBe(1);
    expect(pool.has(testArtId(1))).toBe(true);
  });

  it('may be asked again for an image that could not be read', async () => {
    const { pool } = await poolOf(1);
    await expect(pool.addImage(testArtId(1), () => Promise.reject(new Error('gone')))).rejects.toThrow(
      'gone',
    );
    await pool.addImage(testArtId(1), copy);
    expect(pool.has(testArtId(1))).toBe(true);
  });

  it('leaves out layers whose image has not come yet', async () => {
    const { pool } = await poolOf(1);
    const early = await pool.render(LAYERS, VIEW, 1);
    expect(early.data.every((value) => value === 0)).toBe(true);
  });

  it('gives work to the worker that has least of it', async () => {
    const { pool, posted } = await poolOf(3, () => null);
    for (let i = 0; i < 6; i++) void pool.render([], { ...VIEW, heightPx: 8 }, 1).catch(() => {});
    expect(posted.map((messages) => messages.length)).toEqual([2, 2, 2]);
    pool.close();
  });

  it('takes memory back once images are dropped and renders are done', async () => {
    const { pool } = await poolOf(2);
    const before = pool.usedBytes;
    await pool.addImage(testArtId(1), copy);
    await pool.render(LAYERS, VIEW, 2);
    expect(pool.usedBytes).toBeGreaterThan(before);
    pool.keepOnly(new Set([testArtId(1)]));
    expect(pool.has(testArtId(1))).toBe(true);
    pool.keepOnly(new Set());
    expect([pool.has(testArtId(1)), pool.usedBytes]).toEqual([false, before]);
  });

  it('knows the alpha of an art pixel, and nothing outside', async () => {
    const { pool } = await poolOf(1);
    await pool.addImage(testArtId(1), copy);
    for (const [x, y] of [
      [0, 0],
      [60, 45],
      [119, 89],
    ] as const) {
      expect(pool.alphaAt(testArtId(1), x + 0.4, y + 0.9)).toBe(image.data[(y * SIZE.widthPx + x) * 4 + 3]);
    }
    expect(pool.alphaAt(testArtId(1), -0.1, 5)).toBe(0);
    expect(pool.alphaAt(testArtId(1), 5, 90)).toBe(0);
    expect(pool.alphaAt(testArtId(2), 5, 5)).toBe(0);
  });

  it('tells of a worker that failed, was lost, or was closed', async () => {
    const failing = await poolOf(1, ({ id }) => ({ kind: 'failed', id, message: 'out of paint' }));
    await expect(failing.pool.render([], VIEW, 1)).rejects.toThrow('out of paint');
    const silent = await poolOf(1, () => null);
    const lost = silent.pool.render([], VIEW, 1);
    silent.lose[0]?.('the thread stopped');
    await expect(lost).rejects.toThrow('the thread stopped');
    const waiting = silent.pool.render([], VIEW, 1);
    silent.pool.close();
    await expect(waiting).rejects.toBeInstanceOf(RenderPoolClosed);
    await expect(silent.pool.render([], VIEW, 1)).rejects.toBeInstanceOf(RenderPoolClosed);
  });

  it('answers with the fault instead of throwing in a worker', async () => {
    const { kernel, memory } = await testKernel();
    const bad: ToRenderWorker = {
      kind: 'store',
      id: 9,
      address: 1024,
      widthPx: 5,
      heightPx: 5,
      pixels: new Uint8Array(3),
    };
    expect(answerRenderMessage(kernel, memory, bad)).toMatchObject({
      kind: 'failed',
      id: 9,
      message: expect.stringContaining('needs 100 bytes'),
    });
  });
});
