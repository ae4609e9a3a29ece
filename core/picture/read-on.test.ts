import { describe, expect, it } from 'vitest';
import { IDENTITY } from '../geometry/index.ts';
import type { ColourMatrix } from '../paint/index.ts';
import { framePlan } from '../staging/frame/index.ts';
import { greyArt, testArt, testPlane, testPlaneId, testRenderer, testScene } from '../testing/index.ts';
import { renderLayers } from './layers.ts';
import { CLEAR } from './view.ts';

const FRAME = { widthPx: 320, heightPx: 180 };
const VIEW = { ...FRAME, frameToImage: IDENTITY, background: CLEAR };

/** A background as large as the frame, moved by so many px to the right, at so many px of blur: its alpha along the middle row. */
async function alphaOf(blur: { blurPx?: number; defocusPx?: number }, toRight: number, cut: boolean) {
  const renderer = await testRenderer();
  const art = greyArt(() => 120, FRAME.widthPx, FRAME.heightPx);
  const ends = { left: cut, right: cut, top: cut, bottom: cut };
  const ref = { ...testArt(1, FRAME.widthPx, FRAME.heightPx), cutEdges: ends };
  renderer.addImage(ref.id, art);
  const plane = testPlane({ id: testPlaneId('p') }, FRAME.widthPx, FRAME.heightPx);
  const plan = framePlan(testScene([plane], { frame: FRAME }), 1);
  const [drawn] = plan.planes;
  if (drawn?.state !== 'drawn') throw new Error('The plane is in view');
  const shown = { kind: 'image' as const, art: ref };
  const artToFrame = { ...IDENTITY, e: toRight };
  const planes = [{ ...drawn, shown, artToFrame, blurPx: 0, defocusPx: 0, ...blur }];
  const { data } = renderer.renderAs(renderLayers({ ...plan, planes }, VIEW), VIEW, 'straight8');
  return Array.from({ length: FRAME.widthPx }, (_, x) => data[(90 * FRAME.widthPx + x) * 4 + 3] as number);
}

describe('a blurred background', () => {
  it.each([{ blurPx: 3 }, { blurPx: 24 }, { defocusPx: 9 }, { defocusPx: 70 }])(
    'that ends at the frame’s edge has no clear rim there (%o)',
    async (blur) => {
      const alpha = await alphaOf(blur, 0, true);
      expect(Math.min(...alpha)).toBe(255);
      // Paint that ends by itself within the art is softened as far as it goes.
      expect(Math.min(...(await alphaOf(blur, 0, false)))).toBeLessThan(200);
    },
  );

  it('comes into the frame without a jump, and ends where it ends', async () => {
    let before = await alphaOf({ blurPx: 24 }, 0, true);
    for (let toRight = 1; toRight <= 60; toRight++) {
      const alpha = await alphaOf({ blurPx: 24 }, toRight, true);
      expect(Math.max(...alpha.map((a, x) => Math.abs(a - (before[x] as number))))).toBeLessThan(40);
      before = alpha;
    }
    expect([before[30], before[90]]).toEqual([0, 255]);
    expect(Math.abs((before[60] as number) - 128)).toBeLessThan(14);
  });
});

describe('the glow', () => {
  const AS_IT_IS: ColourMatrix = [1, 0, 0, 0, 1, 0, 0, 0, 1];
  /** Mean level of a row under a lamp of so many px on black of so many px, with the glow and without. */
  async function glowOf(lampPx: number, sky: number, skyScale: number): Promise<number> {
    const renderer = await testRenderer();
    const frame = { widthPx: 1920, heightPx: 1080 };
    const black = greyArt(() => 0, sky, Math.ceil((sky * 9) / 16));
    const lamp = greyArt(() => 255, lampPx, lampPx);
    const [skyRef, lampRef] = [testArt(1, black.widthPx, black.heightPx), testArt(2, lampPx, lampPx)];
    renderer.addImage(skyRef.id, black);
    renderer.addImage(lampRef.id, lamp);
    const plan = framePlan(testScene([testPlane({ id: testPlaneId('p') })], { frame }), 1);
    const [drawn] = plan.planes;
    if (drawn?.state !== 'drawn') throw new Error('The plane is in view');
    const look = { matrix: AS_IT_IS, air: null, filtered: true };
    const of = (art: typeof skyRef, artToFrame: typeof IDENTITY) => ({
      ...drawn,
      shown: { kind: 'image' as const, art },
      artToFrame,
      look,
    });
    const planes = [
      of(skyRef, { ...IDENTITY, a: skyScale, d: skyScale }),
      of(lampRef, { ...IDENTITY, e: 960 - lampPx / 2, f: 540 - lampPx / 2 }),
    ];
    const view = { ...frame, frameToImage: IDENTITY, background: CLEAR };
    const { data } = renderer.renderAs(renderLayers({ ...plan, planes, glow: 1 }, view), view, 'straight16');
    return ((data[((540 - lampPx / 2 - 12) * 1920 + 960) * 4] as number) * 255) / 65_535;
  }

  it('is the same whatever the resolution of what lies behind', async () => {
    const [fine, coarse] = [await glowOf(96, 1920, 1), await glowOf(96, 2, 960)];
    expect(fine).toBeGreaterThan(20);
    expect(Math.abs(fine - coarse)).toBeLessThan(0.5);
  });

  it('is the Gaussian of the square: of a white lamp its share of the bell', async () => {
    // σ is 1.5 % of the frame’s width; erf by Abramowitz and Stegun 7.1.26, to 1.5e-7.
    const sigma = 0.015 * 1920;
    const erf = (x: number): number => {
      const t = 1 / (1 + 0.3275911 * Math.abs(x));
      const poly =
        ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t;
      return Math.sign(x) * (1 - poly * Math.exp(-x * x));
    };
    const between = (from: number, to: number) =>
      (erf(to / (sigma * Math.SQRT2)) - erf(from / (sigma * Math.SQRT2))) / 2;
    for (const lampPx of [24, 48, 96]) {
      const expected = 255 * between(-lampPx / 2, lampPx / 2) * between(11.5, 11.5 + lampPx);
      expect(Math.abs((await glowOf(lampPx, 1920, 1)) - expected)).toBeLessThan(1.5);
    }
  });
});
