// Over 400 lines: a pool whose workers can be lost, slow or wrong is set up once, for all that may happen to it.
import { describe, expect, it } from 'vitest';
import { compose, IDENTITY, rotation, translation } from '../geometry/index.ts';
import type { Raster } from '../image/index.ts';
import { runRows } from '../kernel/index.ts';
import { CLEAR, type GroupLayer, pathEdges, type RenderLayer } from '../picture/index.ts';
import { ellipseOutline } from '../shapes/index.ts';
import { randomImage, testAnswer, testArtId, testKernel, testLayer } from '../testing/index.ts';
import { type FromRenderWorker, RenderPoolClosed, type RenderPort, type ToRenderWorker } from './crew.ts';
import { RenderPool } from './pool.ts';

const VIEW = { widthPx: 150, heightPx: 131, frameToImage: IDENTITY, background: CLEAR };
const SIZE = { widthPx: 120, heightPx: 90 };

/** Workers that live on this thread and answer a moment later, in the order they were asked. */
async function poolOf(count: number, answer?: (message: ToRenderWorker) => FromRenderWorker | null) {
  const { kernel, memory } = await testKernel();
  const posted: ToRenderWorker[][] = [];
  const lose: ((reason: string) => void)[] = [];
  const open = (): RenderPort => {
    let tell: (message: FromRenderWorker) => void = () => {};
    const own: ToRenderWorker[] = [];
    posted.push(own);
    return {
      post: (message) => {
        own.push(message);
        if (!answer) return void testAnswer({ kernel, memory }, message).then(tell);
        const said = answer(message);
        if (said) queueMicrotask(() => tell(said));
      },
      listen: (onMessage, onLost) => {
        tell = onMessage;
        lose.push(onLost);
      },
      close: () => undefined,
    };
  };
  return { pool: new RenderPool(memory, open, count), posted, lose };
}

/** Workers that draw one band and then let the others have a turn; `bandsOf` counts what each has drawn. */
async function bandByBand(count: number) {
  const { kernel, memory } = await testKernel();
  const bandsOf: number[] = [];
  const open = (): RenderPort => {
    let tell: (message: FromRenderWorker) => void = () => {};
    const own = bandsOf.push(0) - 1;
    return {
      post: async (message) => {
        if (message.kind !== 'rows') {
          void testAnswer({ kernel, memory }, message).then(tell);
          return;
        }
        const taken = new Int32Array(memory.buffer, message.job.takenAt, 1);
        for (let band = taken[0]!; band * 32 < message.job.heightPx; band = taken[0]!) {
          const heightPx = Math.min(message.job.heightPx, (band + 1) * 32);
          runRows(kernel, memory, { ...message.job, heightPx });
          taken[0] = band + 1;
          bandsOf[own]! += 1;
          await Promise.resolve();
        }
        tell({ kind: 'done', id: message.id });
      },
      listen: (onMessage) => {
        tell = onMessage;
      },
      close: () => undefined,
    };
  };
  return { pool: new RenderPool(memory, open, count), bandsOf };
}

const image = randomImage(4, SIZE.widthPx, SIZE.heightPx);
const copy = async (): Promise<Raster<'straight'>> => ({ ...image, data: image.data.slice() });
const LAYERS: readonly RenderLayer[] = [
  testLayer(testArtId(1), SIZE, {
    imageToLevel: compose(rotation(12), translation(-20, -9)),
    opacity: 0.8,
  }),
  testLayer(testArtId(1), SIZE, { level: 1, imageToLevel: translation(-4.5, 3) }),
  {
    kind: 'path',
    edges: pathEdges(
      [ellipseOutline({ x0: 30, y0: 20, x1: 140, y1: 120 })],
      rotation(3),
      VIEW.widthPx,
      VIEW.heightPx,
    ),
    paint: { kind: 'solid', colour: '#4080c0', opacity: 0.5 },
    imageToGradient: IDENTITY,
    look: null,
    opacity: 1,
  },
];

describe('the render pool', () => {
  it('gives the same bytes however many workers share the bands of rows', async () => {
    const results: Uint8Array[] = [];
    for (const workers of [1, 2, 3, 7]) {
      const { pool, bandsOf } = await bandByBand(workers);
      await pool.addImage(testArtId(1), copy);
      results.push(new Uint8Array((await pool.render(LAYERS, VIEW, workers)).data));
      // Five bands of 32 rows, by turns: all that may draw have drawn.
      expect(bandsOf.filter((bands) => bands > 0)).toHaveLength(Math.min(5, workers));
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
    const images = LAYERS.filter(({ kind }) => kind === 'image');
    const early = await pool.render(images, VIEW, 1);
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

  it('draws no more pictures with groups at once than there is room for, each the same as alone', async () => {
    const blurred = (sigmaPx: number): GroupLayer => ({
      kind: 'group',
      widthPx: 500,
      heightPx: 400,
      inner: LAYERS,
      imageToGroup: translation(30, 20),
      gaussianSigmaPx: sigmaPx,
      discRadiusPx: 0,
      look: null,
      opacity: 1,
      mode: 'paint',
    });
    const pictures = Array.from({ length: 8 }, (_, i) => [1, 2, 3].map((by) => blurred(i + by)));
    const used = async (mostWorkBytes: number) => {
      let most = 0;
      const { kernel, memory } = await testKernel();
      const open = (): RenderPort => {
        let tell: (message: FromRenderWorker) => void = () => {};
        return {
          post: async (message) => {
            most = Math.max(most, pool.usedBytes);
            await new Promise((resolve) => setTimeout(resolve));
            void testAnswer({ kernel, memory }, message).then(tell);
          },
          listen: (onMessage) => {
            tell = onMessage;
          },
          close: () => undefined,
        };
      };
      const pool: RenderPool = new RenderPool(memory, open, 2, { mostWorkBytes });
      await pool.addImage(testArtId(1), copy);
      const before = pool.usedBytes;
      const drawn = await Promise.all(pictures.map((layers) => pool.render(layers, VIEW, 1)));
      expect(pool.usedBytes).toBe(before);
      return { drawn, most };
    };
    // One at a time, since a single picture may always be drawn; and all of them at once.
    const [narrow, wide] = [await used(1), await used(2 ** 30)];
    expect(narrow.drawn).toEqual(wide.drawn);
    expect(new Set(narrow.drawn[0]!.data).size).toBeGreaterThan(50);
    expect(narrow.most).toBeLessThan(wide.most / 4);
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
    const waiting = silent.pool.render([], VIEW, 1);
    silent.pool.close();
    await expect(waiting).rejects.toBeInstanceOf(RenderPoolClosed);
    await expect(silent.pool.render([], VIEW, 1)).rejects.toBeInstanceOf(RenderPoolClosed);
  });

  it('gives up work that workers are lost over again and again, and goes on with the next', async () => {
    const { kernel, memory } = await testKernel();
    let deadly = true;
    const opened: { lose: (reason: string) => void; closed: boolean }[] = [];
    const open = (): RenderPort => {
      let tell: (message: FromRenderWorker) => void = () => {};
      const own = { lose: (_reason: string) => {}, closed: false };
      opened.push(own);
      return {
        post: (message) => {
          if (deadly) queueMicrotask(() => own.lose('the thread stopped'));
          else queueMicrotask(() => testAnswer({ kernel, memory }, message).then(tell));
        },
        listen: (onMessage, onLost) => {
          tell = onMessage;
          own.lose = onLost;
        },
        close: () => {
          own.closed = true;
          return undefined;
        },
      };
    };
    const pool = new RenderPool(memory, open, 1);
    const before = pool.usedBytes;
    await expect(pool.render([], VIEW, 1)).rejects.toThrow('the thread stopped');
    // The first and three more; each that was lost is closed, and what it wrote into is free again only then.
    expect([opened.length, opened.every(({ closed }) => closed), pool.usedBytes]).toEqual([4, true, before]);
    deadly = false;
    const white = { r: 255, g: 255, b: 255, a: 255 };
    const drawn = await pool.render([], { ...VIEW, background: white }, 1);
    expect([drawn.data[0], opened.length]).toEqual([255, 5]);
  });

  it('keeps the memory of a picture until every worker that writes into it has ended', async () => {
    const held: (() => void)[] = [];
    const { kernel, memory } = await testKernel();
    let workers = 0;
    const lose: ((reason: string) => void)[] = [];
    const open = (): RenderPort => {
      const own = workers++;
      let tell: (message: FromRenderWorker) => void = () => {};
      return {
        // The first dies over whatever it is given; the second takes its time.
        post: (message) => {
          if (own === 1) held.push(() => testAnswer({ kernel, memory }, message).then(tell));
        },
        listen: (onMessage, onLost) => {
          tell = onMessage;
          lose[own] = onLost;
        },
        close: () => undefined,
      };
    };
    const pool = new RenderPool(memory, open, 2);
    const before = pool.usedBytes;
    let over = false;
    const drawn = pool.render([], VIEW, 2).catch((error: Error) => {
      over = true;
      return error.message;
    });
    for (const dead of [0, 2, 3, 4]) {
      await new Promise((resolve) => setTimeout(resolve, 1));
      lose[dead]?.('killed');
    }
    await new Promise((resolve) => setTimeout(resolve, 5));
    expect([over, pool.usedBytes > before]).toEqual([false, true]);
    for (const answer of held.splice(0)) answer();
    expect(await drawn).toBe('killed');
    expect(pool.usedBytes).toBe(before);
  });

  it('replaces a worker that is lost and draws its rows again', async () => {
    let deaf = true;
    const { kernel, memory } = await testKernel();
    const ports: { lose: (reason: string) => void; posts: number }[] = [];
    const open = (): RenderPort => {
      let tell: (message: FromRenderWorker) => void = () => {};
      const own = { lose: (_reason: string) => {}, posts: 0 };
      ports.push(own);
      return {
        post: (message) => {
          own.posts += 1;
          if (deaf && message.kind === 'rows') {
            // It dies with bands taken on that it has not drawn.
            Atomics.add(new Int32Array(memory.buffer, message.job.takenAt, 1), 0, 2);
            return;
          }
          void testAnswer({ kernel, memory }, message).then(tell);
        },
        listen: (onMessage, onLost) => {
          tell = onMessage;
          own.lose = onLost;
        },
        close: () => undefined,
      };
    };
    const pool = new RenderPool(memory, open, 2);
    await pool.addImage(testArtId(1), copy);
    const drawn = pool.render(LAYERS, VIEW, 2);
    await new Promise((resolve) => setTimeout(resolve, 5));
    deaf = false;
    for (const port of [...ports]) port.lose('killed');
    const again = new Uint8Array((await drawn).data);
    expect(ports).toHaveLength(4);
    // One that is told dead twice is replaced once.
    ports[0]?.lose('killed');
    expect(ports).toHaveLength(4);
    const fresh = await poolOf(1);
    await fresh.pool.addImage(testArtId(1), copy);
    expect(again).toEqual(new Uint8Array((await fresh.pool.render(LAYERS, VIEW, 1)).data));
  });

  it('reads an image again that a lost worker took with it', async () => {
    let told = 0;
    const { pool, lose } = await poolOf(1, ({ id }) => (told++ === 0 ? null : { kind: 'done', id }));
    let reads = 0;
    const added = pool.addImage(testArtId(1), () => {
      reads += 1;
      return copy();
    });
    await new Promise((resolve) => setTimeout(resolve, 5));
    lose[0]?.('killed');
    await added;
    expect([reads, pool.has(testArtId(1))]).toEqual([2, true]);
  });

  it('stops at once when it is told to, and gives the memory back', async () => {
    const { kernel, memory } = await testKernel();
    const waiting: (() => void)[] = [];
    const open = (): RenderPort => {
      let tell: (message: FromRenderWorker) => void = () => {};
      return {
        post: (message) =>
          waiting.push(() => {
            void testAnswer({ kernel, memory }, message).then(tell);
          }),
        listen: (onMessage) => {
          tell = onMessage;
        },
        close: () => undefined,
      };
    };
    const pool = new RenderPool(memory, open, 2);
    const before = pool.usedBytes;
    const abort = new AbortController();
    const white = { r: 255, g: 255, b: 255, a: 255 };
    const drawn = pool.render([], { ...VIEW, background: white }, 2, { signal: abort.signal });
    await Promise.resolve();
    const used = pool.usedBytes;
    expect(used).toBeGreaterThan(before);
    abort.abort(new Error('enough'));
    // The kernel looks at the word before its first band: not one row is written.
    for (const answer of waiting.splice(0)) answer();
    await expect(drawn).rejects.toThrow('enough');
    expect(pool.usedBytes).toBe(before);
    await expect(pool.render([], VIEW, 1, { signal: abort.signal })).rejects.toThrow('enough');
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
    expect(await testAnswer({ kernel, memory }, bad)).toMatchObject({
      kind: 'failed',
      id: 9,
      message: expect.stringContaining('needs 100 bytes'),
    });
  });
});
