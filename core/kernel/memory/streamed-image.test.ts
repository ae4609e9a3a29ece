import { deflateSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { compose, invertAffine, rotation, scaling, translation } from '../../geometry/index.ts';
import { CHUNK_PX, mipCount, type Raster } from '../../image/index.ts';
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
import type { GrowableMemory } from './arena.ts';
import type { StreamSource } from './streamed-image.ts';

const SIZE = { widthPx: 1300, heightPx: 700 };
const image = randomImage(3, SIZE.widthPx, SIZE.heightPx);

/** A source that counts what is asked of it, and answers when it is told to. */
function sourceOf(picture: Raster<'straight'>) {
  const whole = levelsSource(picture);
  const asked: string[] = [];
  const open: (() => void)[] = [];
  let held = false;
  const source: StreamSource = {
    ...whole,
    chunks: async (index, rect) => {
      asked.push(`${index}: ${rect.c0},${rect.r0}–${rect.c1},${rect.r1}`);
      if (held) await new Promise<void>((resolve) => open.push(resolve));
      return whole.chunks(index, rect);
    },
  };
  return {
    source,
    asked,
    hold: () => {
      held = true;
    },
    release: () => {
      held = false;
      for (const go of open.splice(0)) go();
    },
  };
}

/** With a memory that holds `mostBytes`. */
async function pool(mostBytes = Number.POSITIVE_INFINITY) {
  const { kernel, memory } = await testKernel();
  const bounded: GrowableMemory = {
    get buffer() {
      return memory.buffer;
    },
    grow: (pages) => {
      if (memory.buffer.byteLength + pages * 65_536 > mostBytes) throw new RangeError('no more');
      return memory.grow(pages);
    },
  };
  let tell: (message: FromRenderWorker) => void = () => {};
  const port: RenderPort = {
    post: (message) => queueMicrotask(() => testAnswer({ kernel, memory }, message).then(tell)),
    listen: (onMessage) => {
      tell = onMessage;
    },
    close: () => undefined,
  };
  return new RenderPool(bounded, () => port, 1);
}

const layer = (level: number, artId = testArtId(1)): ImageLayer =>
  testLayer(artId, SIZE, {
    level,
    imageToLevel: compose(scaling(1 / 2 ** level), compose(rotation(8), translation(400, 120))),
  });
const VIEW = { widthPx: 240, heightPx: 150, frameToImage: scaling(1), background: CLEAR };
const settled = () => new Promise((resolve) => setTimeout(resolve, 20));

/** Making levels uses pixels up. */
const copyOf = (picture: Raster<'straight'>): Raster<'straight'> => ({
  ...picture,
  data: picture.data.slice(),
});

describe('an image that is loaded as it comes into view', () => {
  it('is told to every picture that waits for it, whoever asked first, each once', async () => {
    const shared = await pool();
    const { source, hold, release } = sourceOf(image);
    await shared.openStream(testArtId(1), source);
    hold();
    const told: string[] = [];
    const [first, second] = [() => void told.push('first'), () => void told.push('second')];
    const fail = (error: unknown) => {
      throw error;
    };
    const look = (onArrival: () => void) => shared.prepare([layer(0)], VIEW, { onArrival, onFault: fail });
    expect(look(first).complete).toBe(false);
    // The second asks for what is on its way already, and more than once.
    expect(look(second).complete).toBe(false);
    look(second);
    expect(told).toEqual([]);
    release();
    await settled();
    expect(told).toEqual(['first', 'second']);
    expect(look(first).complete).toBe(true);
    shared.close();
  });

  it('gets the room of coarser levels that pictures do without by now, where there is no other', async () => {
    // Seven pictures of 1300 × 700: 7.3 MB each as they are, 1.8 at half their size, 0.5 kept in any case. All of them at
    // both sizes would take 67 MB.
    const ids = Array.from({ length: 7 }, (_, i) => testArtId(i + 1));
    const own = await pool(63e6);
    await Promise.all(ids.map((id) => own.openStream(id, levelsSource(image))));
    const faults: unknown[] = [];
    const wholeAt = async (level: number): Promise<boolean> => {
      const layers = ids.map((id) => layer(level, id));
      let looks = 0;
      return new Promise((resolve) => {
        const look = () => {
          looks += 1;
          const { complete } = own.prepare(layers, VIEW, {
            onArrival: () => setTimeout(look, 0),
            onFault: (error) => {
              faults.push(error);
              resolve(false);
            },
          });
          if (complete || looks === 500) resolve(complete);
        };
        look();
      });
    };
    expect(await wholeAt(1)).toBe(true);
    expect(await wholeAt(0)).toBe(true);
    expect(faults).toEqual([]);
    own.close();
    // What does not fit at all is told of in the end.
    const small = await pool(20e6);
    await Promise.all(ids.map((id) => small.openStream(id, levelsSource(image))));
    const told = await new Promise<unknown>((resolve) => {
      const layers = ids.map((id) => layer(0, id));
      const look = (): void =>
        void small.prepare(layers, VIEW, { onArrival: () => setTimeout(look, 0), onFault: resolve });
      look();
    });
    expect(String(told)).toMatch(/MiB more do not fit into the memory: hide planes/);
    small.close();
  });

  it('is drawn coarsely at once, and bit for bit as a whole one when its chunks have come', async () => {
    const streamed = sourceOf(image);
    const own = await pool();
    let arrivals = 0;
    const hooks = {
      onArrival: () => (arrivals += 1),
      onFault: (error: unknown) => expect.fail(String(error)),
    };
    // A picture of it is not whole before it is open.
    expect(own.prepare([layer(0)], VIEW, hooks).complete).toBe(false);
    await own.openStream(testArtId(1), streamed.source);
    expect(streamed.asked).toEqual(['2: 0,0–0,0']);
    const first = own.prepare([layer(0)], VIEW, hooks);
    expect([first.complete, first.layers.map((l) => l.kind === 'image' && l.level)]).toEqual([false, [2]]);
    await settled();
    expect(arrivals).toBe(1);
    const then = own.prepare([layer(0)], VIEW, hooks);
    expect([then.complete, then.layers]).toEqual([true, [layer(0)]]);
    const whole = await pool();
    await whole.addImage(testArtId(1), async () => image);
    const [ours, theirs] = [await own.render(then.layers, VIEW, 1), await whole.render([layer(0)], VIEW, 1)];
    expect(ours.data).toEqual(theirs.data);
  });

  it('asks only for what the view shows and its neighbours, and for nothing twice', async () => {
    const streamed = sourceOf(image);
    const own = await pool();
    await own.openStream(testArtId(1), streamed.source);
    streamed.hold();
    const hooks = { onArrival: () => {}, onFault: () => {} };
    for (let i = 0; i < 5; i++) own.prepare([layer(1)], VIEW, hooks);
    expect(streamed.asked).toEqual(['2: 0,0–0,0', '1: 0,0–1,0']);
    streamed.release();
    await settled();
    own.prepare([layer(1)], VIEW, hooks);
    expect(streamed.asked).toHaveLength(2);
    const nothing = { ...layer(0), imageToLevel: translation(9000, 0) };
    expect(own.prepare([nothing], VIEW, hooks)).toEqual({ layers: [], complete: true });
  });

  it.each([
    ['within one copy', translation(-3 * SIZE.widthPx + 500, -200), 'across'],
    ['over the seam', translation(-3 * SIZE.widthPx + 60, -200), 'across'],
    ['over the corner', translation(-SIZE.widthPx + 60, 7 * SIZE.heightPx - 60), 'both'],
    ['down alone', translation(-300, -SIZE.heightPx * 2 - 40), 'down'],
  ] as const)('has all that a tiled view shows, %s', async (_where, artToImage, repeat) => {
    const streamed = sourceOf(image);
    const own = await pool();
    await own.openStream(testArtId(1), streamed.source);
    const hooks = { onArrival: () => {}, onFault: (error: unknown) => expect.fail(String(error)) };
    const tiled: ImageLayer = { ...layer(0), repeat, imageToLevel: invertAffine(artToImage)! };
    for (let i = 0; i < 3; i++) {
      own.prepare([tiled], VIEW, hooks);
      await settled();
    }
    const then = own.prepare([tiled], VIEW, hooks);
    expect([then.complete, then.layers]).toEqual([true, [tiled]]);
    const whole = await pool();
    await whole.addImage(testArtId(1), async () => copyOf(image));
    const [ours, theirs] = [await own.render(then.layers, VIEW, 1), await whole.render([tiled], VIEW, 1)];
    expect(ours.data).toEqual(theirs.data);
  });

  it('tells a fault and tries again later', async () => {
    const streamed = sourceOf(image);
    let broken = false;
    const source: StreamSource = {
      ...streamed.source,
      chunks: (index, rect) =>
        broken ? Promise.reject(new Error('cable pulled')) : streamed.source.chunks(index, rect),
    };
    const own = await pool();
    await own.openStream(testArtId(1), source);
    broken = true;
    const faults: string[] = [];
    const hooks = { onArrival: () => {}, onFault: (error: unknown) => faults.push(String(error)) };
    own.prepare([layer(0)], VIEW, hooks);
    await settled();
    expect(faults).toEqual(['Error: cable pulled']);
    broken = false;
    own.prepare([layer(0)], VIEW, hooks);
    await settled();
    expect(own.prepare([layer(0)], VIEW, hooks).complete).toBe(true);
  });

  it.each([
    ['broken', (bytes: Uint8Array) => bytes.map((byte, i) => (i > 3 ? byte ^ 0x55 : byte)), /header/],
    [
      'too small',
      () => {
        const packed = deflateSync(new Uint8Array(100));
        const length = new Uint8Array(new Uint32Array([packed.length]).buffer);
        return new Uint8Array(Buffer.concat([length, packed]));
      },
      /100 bytes instead of \d+/,
    ],
  ])('tells of a chunk that is %s', async (_, spoil, words) => {
    const { source } = sourceOf(image);
    const own = await pool();
    await own.openStream(testArtId(1), source);
    const faults: string[] = [];
    const chunks = source.chunks.bind(source);
    source.chunks = async (index, rect) => spoil(await chunks(index, rect));
    own.prepare([layer(0)], VIEW, { onArrival: () => {}, onFault: (error) => faults.push(String(error)) });
    await settled();
    expect(faults).toEqual([expect.stringMatching(words)]);
    own.close();
  });

  it('knows its alpha from the finest level that is here', async () => {
    const own = await pool();
    await own.openStream(testArtId(1), sourceOf(image).source);
    const coarse = own.alphaAt(testArtId(1), 500, 200);
    own.prepare([layer(0)], VIEW, { onArrival: () => {}, onFault: () => {} });
    await settled();
    const at = (200 * SIZE.widthPx + 500) * 4 + 3;
    expect(own.alphaAt(testArtId(1), 500, 200)).toBe(image.data[at]);
    expect(Math.abs(coarse - (image.data[at] as number))).toBeLessThan(60);
    expect(own.alphaAt(testArtId(1), -1, 0)).toBe(0);
  });

  it('has a level of one chunk for any size', () => {
    expect(mipCount(24_000, 4000)).toBeGreaterThan(Math.log2(24_000 / CHUNK_PX));
  });
});
