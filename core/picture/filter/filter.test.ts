import { describe, expect, it } from 'vitest';
import { levelBounds } from '../layer.ts';
import {
  coverage,
  kernelAt,
  kernelVariance,
  MOST_STEP,
  PHASES,
  passOf,
  phaseWeights,
  reachOf,
  tapsFor,
  WEIGHT_ONE,
} from './filter.ts';

const STEPS = [0.3, 1, 1.05, 1.25, 1.6, 2, 2.4, 2.8, 3, 4.7, 9, 15];
const PARTS = 400;

/** Integral of f over the kernel's reach by the midpoint rule. */
function integral(step: number, f: (x: number) => number): number {
  const reach = reachOf(passOf(step));
  let sum = 0;
  for (let i = 0; i < 2 * reach * PARTS; i++) sum += f(-reach + (i + 0.5) / PARTS);
  return sum / PARTS;
}

describe('the kernel that weighs texels', () => {
  it('is the cubic of Keys with a = −1/2 up to a step of 1', () => {
    // Keys, “Cubic convolution interpolation for digital image processing”, IEEE Trans. ASSP 29(6), 1981, equation (15).
    const keys = (x: number) => {
      const s = Math.abs(x);
      if (s < 1) return 1.5 * s ** 3 - 2.5 * s ** 2 + 1;
      return s < 2 ? -0.5 * s ** 3 + 2.5 * s ** 2 - 4 * s + 2 : 0;
    };
    for (let x = -2.5; x <= 2.5; x += 0.01) {
      expect(kernelAt(passOf(1), x)).toBeCloseTo(keys(x), 12);
      expect(kernelAt(passOf(0.2), x)).toBeCloseTo(keys(x), 12);
    }
  });

  it('is the plain area of texels from a step of 3 on', () => {
    for (const step of [3, 5, 11])
      for (let x = -8; x <= 8; x += 0.05) {
        const area = Math.max(0, Math.min(x + 0.5, step / 2) - Math.max(x - 0.5, -step / 2)) / step;
        expect(kernelAt(passOf(step), x)).toBeCloseTo(area, 12);
      }
  });

  it.each(STEPS)(
    'gives every px weights that add up to 1, and every texel the same in all px (step %f)',
    (step) => {
      const widened = Math.max(1, step);
      for (let phase = 0; phase < 1; phase += 0.037) {
        let [ofPx, ofTexel] = [0, 0];
        for (let k = -20; k <= 20; k++) {
          ofPx += kernelAt(passOf(step), k + phase);
          ofTexel += kernelAt(passOf(step), (k + phase) * widened);
        }
        expect(ofPx).toBeCloseTo(1, 11);
        expect(ofTexel).toBeCloseTo(1 / widened, 11);
      }
    },
  );

  it.each(STEPS)(
    'is even, within its reach, of the variance that is said, and swings past by little (step %f)',
    (step) => {
      expect(integral(step, (x) => kernelAt(passOf(step), x))).toBeCloseTo(1, 5);
      expect(integral(step, (x) => x * x * kernelAt(passOf(step), x))).toBeCloseTo(
        kernelVariance(passOf(step)),
        4,
      );
      for (let x = 0; x < 10; x += 0.13)
        expect(kernelAt(passOf(step), -x)).toBeCloseTo(kernelAt(passOf(step), x), 12);
      expect(kernelAt(passOf(step), reachOf(passOf(step)) + 1e-9)).toBeCloseTo(0, 9);
      // What a step from dark to light overshoots by: the negative part of the kernel on one side.
      const under = integral(step, (x) => Math.min(0, x > 0 ? kernelAt(passOf(step), x) : 0));
      expect(under).toBeGreaterThan(-0.075);
    },
  );

  it('changes with the step as little as the step does', () => {
    for (let step = 0.95; step < 4; step += 0.01)
      for (let x = 0; x < 2.5; x += 0.1)
        expect(Math.abs(kernelAt(passOf(step + 0.001), x) - kernelAt(passOf(step), x))).toBeLessThan(0.005);
  });

  it('is weighed in whole numbers that add up to one, and leaves whole places as they are', () => {
    for (const step of STEPS) {
      const taps = tapsFor(passOf(step));
      const weights = phaseWeights(passOf(step));
      expect(weights).toHaveLength(PHASES * taps);
      expect(taps % 4).toBe(0);
      expect(taps).toBeGreaterThanOrEqual(2 * reachOf(passOf(step)));
      for (let i = 0; i < PHASES; i++) {
        const row = weights.subarray(i * taps, (i + 1) * taps);
        expect(row.reduce((sum, w) => sum + w, 0)).toBe(WEIGHT_ONE);
        for (const [k, w] of row.entries())
          expect(
            Math.abs(w / WEIGHT_ONE - kernelAt(passOf(step), k + 1 - taps / 2 - i / PHASES)),
          ).toBeLessThan(3e-4);
      }
      if (step <= 1) expect([...weights.subarray(0, 4)]).toEqual([0, WEIGHT_ONE, 0, 0]);
    }
    expect(tapsFor(passOf(1e9))).toBe(tapsFor(passOf(MOST_STEP)));
  });
});

describe('the share of a px that lies on an image', () => {
  it('rises over one px, and is whole within', () => {
    for (const [at, share] of [
      [-0.3, 0],
      [0, 0.5],
      [0.125, 0.75],
      [0.25, 1],
      [3, 1],
    ] as const)
      expect(coverage(at, 0.5, 0, 6)).toBeCloseTo(share, 12);
    expect(coverage(6.4, 2, 0, 6)).toBeCloseTo(0.3, 12);
    // A px that is larger than the image.
    expect(coverage(1, 10, 0, 2)).toBeCloseTo(0.2, 12);
  });
  it('goes on as far as the paint is read on', () => {
    const art = { widthPx: 100, heightPx: 50, beyond: { left: 10, right: 0, top: 0, bottom: 4 } };
    expect(levelBounds(art, { widthPx: 50, heightPx: 25 })).toEqual({
      left: -5,
      right: 50,
      top: 0,
      bottom: 27,
    });
    expect(coverage(-4, 2, -5, 50)).toBe(1);
  });
});
