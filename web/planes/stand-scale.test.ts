import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { snappedDepth, speedTicks, spreadLabels, standScale, trueScale } from './stand-scale.ts';

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

describe('the true axis', () => {
  const scale = trueScale([0, -909, 5000], 1920, 60, 760);

  it('takes equal steps for equal distances, holds every plane and leads back', () => {
    expect(scale.yAt(2000) - scale.yAt(1000)).toBeCloseTo(scale.yAt(5000) - scale.yAt(4000), 9);
    expect(scale.yAt(-909)).toBeGreaterThan(60);
    expect(scale.yAt(5000)).toBeLessThan(760);
    for (const depth of [-909, 0, 366, 5000]) expect(scale.depthAt(scale.yAt(depth))).toBeCloseTo(depth, 6);
    expect(scale.depthAt(-1e6)).toBeGreaterThan(-1920);
  });

  it('marks speeds that do not run into one another, and always the datum', () => {
    const ticks = speedTicks(scale, 1920, 60, 760);
    for (let i = 1; i < ticks.length; i++) expect(ticks[i]!.y - ticks[i - 1]!.y).toBeGreaterThanOrEqual(14);
    expect(ticks.map(({ speed }) => speed)).toContain(1);
  });
});

describe('a dragged bar', () => {
  it('takes exactly the depth of another within reach, and its own beyond', () => {
    const scale = standScale([0, 960], 1920, 60, 760);
    const y = scale.yAt(960);
    expect(snappedDepth(scale, y + 4, [0, 960])).toEqual({ depthSpx: 960, snapped: true });
    expect(snappedDepth(scale, y + 6, [0, 960]).snapped).toBe(false);
    expect(snappedDepth(scale, y + 6, [0, 960]).depthSpx).toBeCloseTo(scale.depthAt(y + 6), 9);
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
