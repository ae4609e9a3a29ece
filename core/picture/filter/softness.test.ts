import { describe, expect, it } from 'vitest';
import { IDENTITY } from '../../geometry/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import {
  greyArt,
  SIDE,
  testArt,
  testPlane,
  testPlaneId,
  testRenderer,
  testScene,
} from '../../testing/index.ts';
import { renderLayers } from '../layers.ts';
import { BLACK } from '../view.ts';
import { bellOf, discOf } from './softness.ts';

const VIEW = { widthPx: SIDE, heightPx: SIDE, frameToImage: IDENTITY, background: BLACK };
const ART = 480;

interface Softened {
  readonly blurPx?: number;
  readonly defocusPx?: number;
  readonly scale?: number;
  readonly panPx?: number;
}

/** Mean and variance, px and px², of what a bright upright line of one art px has become. */
async function lineSpread({ blurPx = 0, defocusPx = 0, scale = 1, panPx = 0 }: Softened) {
  const renderer = await testRenderer();
  const art = greyArt((x) => (x === ART / 2 ? 255 : 0));
  const ref = testArt(1, ART, ART);
  renderer.addImage(ref.id, art);
  const plane = testPlane({ id: testPlaneId('p') }, ART, ART);
  const plan = framePlan(testScene([plane]), 1);
  const [drawn] = plan.planes;
  if (drawn?.state !== 'drawn') throw new Error('The plane is in view');
  const middle = SIDE / 2 - (ART / 2) * scale;
  const artToFrame = { a: scale, b: 0, c: 0, d: scale, e: middle + panPx, f: middle };
  const planes = [{ ...drawn, shown: { kind: 'image' as const, art: ref }, artToFrame, blurPx, defocusPx }];
  const { data } = renderer.renderAs(renderLayers({ ...plan, planes }, VIEW), VIEW, 'straight16');
  let [sum, first, second] = [0, 0, 0];
  for (let x = 0; x < SIDE; x++) {
    const value = data[(120 * SIDE + x) * 4] as number;
    sum += value;
    first += value * (x + 0.5 - SIDE / 2 - scale / 2 - panPx);
    second += value * (x + 0.5 - SIDE / 2 - scale / 2 - panPx) ** 2;
  }
  return { sum: sum / 65_535, mean: first / sum, variance: second / sum - (first / sum) ** 2 };
}

describe('a blur', () => {
  it.each([0.2, 0.3, 0.6, 1.1, 1.5, 1.84, 2.5, 5, 9, 14, 17, 33, 60, 90])(
    'of %f px is a Gaussian of a quarter of it, to 2%%',
    async (blurPx) => {
      const spread = await lineSpread({ blurPx });
      expect(Math.abs(Math.sqrt(spread.variance) / (blurPx / 4) - 1)).toBeLessThan(0.02);
      expect(spread.sum).toBeCloseTo(1, 1);
      expect(Math.abs(spread.mean)).toBeLessThan(0.02);
    },
  );

  it.each([0.2, 0.4, 0.8, 1.5, 3, 7, 11, 23, 25, 48, 60, 100])(
    'of the lens is a disc of %f px, to 2%%, and moves nothing',
    async (defocusPx) => {
      const spread = await lineSpread({ defocusPx });
      // A disc’s variance along an axis is a quarter of its radius’ square.
      expect(Math.abs((4 * Math.sqrt(spread.variance)) / defocusPx - 1)).toBeLessThan(0.02);
      expect(Math.abs(spread.mean)).toBeLessThan(0.05);
    },
  );

  it.each([
    [16, 33],
    [16, 8],
    [5, 20],
    [3, 2],
    [0.4, 12],
    [0.4, 40],
  ])('at %f times the art’s size, of %f px, is as wide', async (scale, blurPx) => {
    const [sharp, soft] = [await lineSpread({ scale }), await lineSpread({ scale, blurPx })];
    expect(Math.abs(Math.sqrt(soft.variance - sharp.variance) / (blurPx / 4) - 1)).toBeLessThan(0.03);
  });

  it('sets in from nothing and grows evenly: a pull of focus has no frame at which it jumps', async () => {
    for (const kind of ['blurPx', 'defocusPx'] as const) {
      const widths: number[] = [];
      for (let px = 0; px <= 6; px += 0.25)
        widths.push(4 * Math.sqrt((await lineSpread({ [kind]: px, panPx: 0 })).variance));
      for (const [i, width] of widths.entries()) expect(width).toBeCloseTo(i * 0.25, 1);
    }
  });
});

describe('the weights of a blur', () => {
  it.each([0.05, 0.2, 0.5, 1, 2.7, 6])(
    'add up to 1 and have the variance that is meant (σ = %f)',
    (sigma) => {
      const half = bellOf(sigma);
      expect(half.reduce((sum, w, k) => sum + (k === 0 ? 1 : 2) * w, 0)).toBeCloseTo(1, 12);
      expect(half.reduce((sum, w, k) => sum + 2 * k * k * w, 0)).toBeCloseTo(sigma * sigma, 9);
      // A wide one is the sampled Gaussian itself.
      if (sigma > 2)
        for (const [k, w] of half.entries())
          expect(w).toBeCloseTo(
            Math.exp((-k * k) / (2 * sigma * sigma)) / (sigma * Math.sqrt(2 * Math.PI)),
            2,
          );
    },
  );

  it('of a wide disc cover its area', () => {
    for (const radius of [3, 8.4, 20])
      expect(discOf(radius).areaPx / (Math.PI * radius * radius)).toBeCloseTo(1, 1);
    expect(discOf(0).rows).toEqual([]);
    expect(bellOf(0)).toEqual([]);
  });
});
