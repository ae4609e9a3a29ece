import { describe, expect, it } from 'vitest';
import { type Affine, compose, IDENTITY, scaling, translation } from '../geometry/index.ts';
import type { Raster } from '../image/index.ts';
import { CLEAR, type GroupLayer, type ImageLayer, type RenderLayer } from '../picture/index.ts';
import { randomImage, testAnswer, testArtId, testKernel, testLayer, testRenderer } from '../testing/index.ts';
import type { FromRenderWorker, ToRenderWorker } from './crew.ts';
import { RenderPool } from './pool.ts';

const VIEW = { widthPx: 520, heightPx: 300, frameToImage: IDENTITY, background: CLEAR };
const SIZE = { widthPx: 760, heightPx: 560 };
const [SKY, HILLS] = [testArtId(1), testArtId(2)];

const image = (artId: ImageLayer['artId'], imageToLevel: Affine): ImageLayer =>
  testLayer(artId, SIZE, { imageToLevel });

const MARGIN = 40;

/** A picture of `inner` that is larger than the view, at 1/cell. */
const group = (
  inner: (toGroup: Affine) => RenderLayer[],
  { cell = 1, ...blur }: { cell?: number; gaussianSigmaPx?: number; discRadiusPx?: number; opacity?: number },
): GroupLayer => {
  const imageToGroup = compose(scaling(1 / cell), translation(MARGIN, MARGIN));
  return {
    kind: 'group',
    inner: inner(compose(translation(-MARGIN, -MARGIN), scaling(cell))),
    widthPx: (VIEW.widthPx + 2 * MARGIN) / cell,
    heightPx: (VIEW.heightPx + 2 * MARGIN) / cell,
    imageToGroup,
    gaussianSigmaPx: 0,
    discRadiusPx: 0,
    look: null,
    opacity: 1,
    mode: 'paint',
    ...blur,
  };
};

/** Solid, its colours rising across and down, with noise. */
const solid = (seed: number): Raster<'straight'> => {
  const one = randomImage(seed, SIZE.widthPx, SIZE.heightPx);
  for (let y = 0; y < SIZE.heightPx; y++)
    for (let x = 0; x < SIZE.widthPx; x++) {
      const at = (y * SIZE.widthPx + x) * 4;
      const noise = one.data[at]! / 8;
      one.data.set([x / 3 + noise, y / 2 + noise, 120 + noise, 255], at);
    }
  return one;
};

/** Solid below a slope, clear above it. */
function slope(): Raster<'straight'> {
  const one = solid(8);
  for (let y = 0; y < SIZE.heightPx; y++)
    for (let x = 0; x < SIZE.widthPx; x++)
      if (y < 60 + x / 5) one.data.fill(0, (y * SIZE.widthPx + x) * 4, (y * SIZE.widthPx + x) * 4 + 4);
  return one;
}

const IMAGES = new Map([
  [SKY, solid(3)],
  [HILLS, slope()],
]);

const AT = translation(110, 50);
const sky = (to: Affine) => [image(SKY, compose(AT, to))];
const hills = (to: Affine) => [image(HILLS, compose(AT, to))];

async function bothWays(layers: readonly RenderLayer[], workers: number) {
  const renderer = await testRenderer();
  for (const [id, one] of IMAGES) renderer.addImage(id, one);
  const asked: ToRenderWorker[] = [];
  const { kernel, memory } = await testKernel();
  const open = () => {
    let tell: (message: FromRenderWorker) => void = () => {};
    return {
      post: (message: ToRenderWorker) => {
        asked.push(message);
        void testAnswer({ kernel, memory }, message).then(tell);
      },
      listen: (onMessage: typeof tell) => {
        tell = onMessage;
      },
      close: () => undefined,
    };
  };
  const pool = new RenderPool(memory, open, workers);
  for (const [id, one] of IMAGES) await pool.addImage(id, async () => ({ ...one, data: one.data.slice() }));
  // Memory that another picture has left full of something.
  const other = group(sky, { discRadiusPx: 4 });
  await pool.render([other, other, other], VIEW, workers);
  asked.length = 0;
  const pooled = await pool.render(layers, VIEW, workers);
  await pool.close();
  const made = asked.flatMap((message) => (message.kind === 'group' ? [message.job] : []));
  return {
    pooled: Buffer.from(pooled.data),
    whole: Buffer.from(renderer.render(layers, VIEW).data),
    /** Px that each group’s passes made, as a share of its picture; in the order in which they were made. */
    shares: made.map(
      ({ strips, widthPx, heightPx }) =>
        strips.reduce((sum, { x0, x1, y0, y1 }) => sum + (x1 - x0) * (y1 - y0), 0) / (widthPx * heightPx),
    ),
  };
}

/** What is made of a picture that nothing hides is at least this share of it: what lies beyond the view is left out. */
const SEEN = 0.85;

describe('what nearer layers hide of a group', () => {
  it.each([
    ['by a disc', { discRadiusPx: 7.3 }],
    ['by a Gaussian', { gaussianSigmaPx: 3 }],
    ['by both', { discRadiusPx: 9, gaussianSigmaPx: 2 }],
    ['by a disc, reduced', { discRadiusPx: 11, cell: 2 }],
    ['by a Gaussian, reduced', { gaussianSigmaPx: 4, cell: 4 }],
    ['by nothing', {}],
  ] as const)('is not made, and the picture stays the same: softened %s', async (_, blur) => {
    const layers = [group(sky, blur), group(hills, blur)];
    for (const workers of [1, 2]) {
      const { pooled, whole, shares } = await bothWays(layers, workers);
      expect(pooled.equals(whole)).toBe(true);
      expect(new Set(pooled).size).toBeGreaterThan(100);
      // The near one is made first: nothing hides it. Side by side nothing is known of it yet.
      expect(shares[0]).toBeGreaterThan(SEEN);
      // Of a small picture that is reduced all is within a few tiles of what is seen.
      if (workers === 1 && !('cell' in blur)) expect(shares[1]).toBeLessThan(0.8);
      if (workers === 2) expect(shares[1]).toBeGreaterThan(SEEN);
    }
  });

  it('is known at once of a sharp plane, and a group that is hidden all over is not drawn', async () => {
    const blur = { discRadiusPx: 6 };
    const behind = await bothWays([group(sky, blur), ...hills(IDENTITY)], 2);
    expect(behind.pooled.equals(behind.whole)).toBe(true);
    expect(behind.shares[0]).toBeLessThan(0.7);
    const hidden = await bothWays([group(hills, blur), ...sky(IDENTITY)], 2);
    expect(hidden.pooled.equals(hidden.whole)).toBe(true);
    expect(hidden.shares).toEqual([]);
  });

  it('is made where what is nearer is seen through, faded or laid over by light', async () => {
    const blur = { discRadiusPx: 6 };
    const faded = { ...image(SKY, AT), opacity: 0.9 };
    const lit = { ...image(SKY, AT), mode: 'screen' as const };
    for (const near of [faded, lit]) {
      const { pooled, whole, shares } = await bothWays([group(hills, blur), near], 1);
      expect(pooled.equals(whole)).toBe(true);
      expect(shares).toHaveLength(1);
      expect(shares[0]).toBeGreaterThan(SEEN);
    }
  });

  it('is found within groups too', async () => {
    const both = (to: Affine) => [group(sky, { discRadiusPx: 5 }), ...hills(to)];
    const { pooled, whole, shares } = await bothWays([group(both, {})], 1);
    expect(pooled.equals(whole)).toBe(true);
    expect(shares[0]).toBeLessThan(0.75);
  });
});
