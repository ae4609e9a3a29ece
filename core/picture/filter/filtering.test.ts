import { describe, expect, it } from 'vitest';
import {
  borderPx,
  type DrawArt,
  drawByArea,
  drawByKernel,
  lineWeights,
  ringing,
  SIDE,
  stripeContrast,
  testRenderer,
  truckJump,
  zonePlateAlias,
} from '../../testing/index.ts';

const kernel = async (): Promise<DrawArt> => drawByKernel(await testRenderer());

describe('a line of one px in a slow pan', () => {
  it.each([4, 2, 1.25, 1, 0.9, 0.8, 0.65, 0.62, 0.55, 0.5, 0.45, 0.3, 0.26, 0.2, 0.1])(
    'carries the same weight wherever it falls, at %f',
    async (scale) => {
      const { weight, jitterPx } = await lineWeights(await kernel(), scale);
      expect(weight.least).toBeGreaterThan(0.97);
      expect(weight.most).toBeLessThan(1.03);
      // Its middle moves as the pan does.
      expect(jitterPx).toBeLessThan(0.15);
    },
  );

  it.each([
    ['tiled, of odd size', { widthPx: 509, repeats: true }, 0.3],
    ['tiled, of odd size, much reduced', { widthPx: 101, repeats: true, columns: [0] }, 0.62],
    ['squashed', { scaleY: 0.3 }, 0.8],
    ['squashed across', { scaleY: 1 }, 0.3],
    ['in the alpha', { alpha: true }, 0.62],
    ['black on white', { dark: 0, light: 255 }, 0.62],
  ])('does so %s', async (_, options, scale) => {
    const { weight } = await lineWeights(await kernel(), scale, options);
    expect(weight.least).toBeGreaterThan(0.97);
    expect(weight.most).toBeLessThan(1.03);
  });
});

describe('a line as dark and on ground as light as there is', () => {
  it.each([2, 1.25, 1, 0.9])('loses only what swings past white, at %f', async (scale) => {
    const { weight } = await lineWeights(await kernel(), scale, { dark: 0, light: 255 });
    expect(weight.least).toBeGreaterThan(0.97);
    expect(weight.most).toBeLessThan(1.13);
  });
});

describe('detail', () => {
  it.each([
    // Half of what the plain mean of two texels takes is given back.
    [2.5, 0.44],
    [3, 0.67],
    [4, 0.86],
    [8, 0.97],
  ])('of %f px keeps its contrast at 1:1 between px, upright and turned', async (period, least) => {
    for (const degrees of [0, 5, 30]) {
      const contrast = await stripeContrast(await kernel(), period, degrees);
      // Turned, both axes are between px at once.
      expect(contrast.least).toBeGreaterThan(degrees === 0 ? least : least * 0.8);
      expect(contrast.most).toBeLessThan(1.08);
    }
  });

  it('stays across where a plane is squashed', async () => {
    // Stripes of 4 px across, half the height: read at one level for both axes nothing was left of them.
    const draw = await kernel();
    const squashed: DrawArt = (art, map, repeats) =>
      draw(art, { ...map, d: map.d / 2, f: map.f / 2 + SIDE / 4 }, repeats);
    expect((await stripeContrast(squashed, 4, 0)).least).toBeGreaterThan(0.86);
  });

  it.each([0.8, 0.7, 0.62, 0.55, 0.45, 0.4, 0.3, 0.26, 0.2, 0.15])(
    'too fine for the picture leaves no more than the area of px would, at %f',
    async (scale) => {
      const area = await zonePlateAlias(drawByArea, scale);
      expect(area).toBeGreaterThan(3);
      expect(await zonePlateAlias(await kernel(), scale)).toBeLessThan(area + 0.5);
    },
  );

  it('rings by little', async () => {
    for (const scale of [3, 1, 0.9, 0.6])
      expect(await ringing(await kernel(), scale)).toBeLessThan(0.075 * 130 + 1);
  });

  it('does not jump in a truck', async () => {
    // The pattern and the px beat by up to 1 by themselves; reading a level at 1:1 made it 7.
    expect(await truckJump(await kernel(), 2, 0.05, 160)).toBeLessThan(4.5);
  });
});

describe('a border', () => {
  it.each([
    [10, 0],
    [3.3, 0],
    [1, 0],
    [10, 20],
    [4, 45],
  ])('where art ends is at most one px soft, at %f turned by %i°', async (scale, degrees) => {
    // Aslant, a row of px crosses the same border more slowly.
    expect(await borderPx(await kernel(), scale, degrees)).toBeLessThanOrEqual(degrees === 0 ? 1 : 2);
  });
});
