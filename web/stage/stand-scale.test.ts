import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { speedTicks, spreadLabels, standScale } from './stand-scale.ts';

describe('the Stand’s scale', () => {
  const scale = standScale([0, -909, 23_680], 1920, 60, 760);

  it('takes equal steps for equal ratios of speed', () => {
    const y = (speed: number) => scale.yAt(1920 * (1 / speed - 1));
    expect(y(0.5) - y(1)).toBeCloseTo(y(0.25) - y(0.5), 9);
    expect(y(1)).toBeLessThan(y(0.5));
  });

  it('leads back from a height to its depth', () => {
    for (const depth of [-1500, -909, 0, 366, 23_680])
      expect(scale.depthAt(scale.yAt(depth))).toBeCloseTo(depth, 6);
  });

  it('holds planes farther out than it usually shows', () => {
    const wide = standScale([-1850, 1e6], 1920, 60, 760);
    expect(wide.yAt(-1850)).toBeGreaterThan(60);
    expect(wide.yAt(1e6)).toBeLessThan(760);
    expect(speedTicks(wide, 1920, 60, 760).map(({ speed }) => speed)).toContain(1);
  });
});

describe('labels', () => {
  it('never overlap and stay in order, with up to 60 planes', () => {
    const places = fc.array(fc.double({ min: 40, max: 2000, noNaN: true }), { minLength: 1, maxLength: 60 });
    fc.assert(
      fc.property(places, (ys) => {
        const wanted = [...ys].sort((p, q) => p - q);
        const put = spreadLabels(wanted, 25, 40, 2000);
        expect(put).toHaveLength(wanted.length);
        for (let i = 1; i < put.length; i++) expect(put[i]! - put[i - 1]!).toBeGreaterThanOrEqual(25 - 1e-6);
        expect(put[0]).toBeGreaterThanOrEqual(40 - 1e-6);
      }),
      { seed: 4 },
    );
  });

  it('leave those alone that have room', () => {
    expect(spreadLabels([50, 200, 400], 25, 40, 800)).toEqual([50, 200, 400]);
    expect(spreadLabels([200, 200], 20, 40, 800)).toEqual([190, 210]);
  });
});
