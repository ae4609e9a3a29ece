import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyAffine, compose, rotation, scaling, translation } from '../geometry/index.ts';
import { depthAtSpeed, speedAtDepth } from './placement.ts';
import { transformOf } from './remount.ts';
import { SPREAD_STEPS, scaledDepth, spreadDepths } from './spread.ts';
import {
  artToCarrier,
  carrierFor,
  depthOnCarrier,
  ON_STAGE,
  type PlaneTransform,
  standPlane,
} from './standing.ts';

const HOME = 1920;
const range = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const transforms: fc.Arbitrary<PlaneTransform> = fc.record({
  xSpx: range(-900, 900),
  ySpx: range(-900, 900),
  scaleX: fc.oneof(range(-4, -0.2), range(0.2, 4)),
  scaleY: fc.oneof(range(-4, -0.2), range(0.2, 4)),
  rotationDeg: range(-170, 170),
  skew: range(-1, 1),
  anchorXArtPx: range(0, 500),
  anchorYArtPx: range(0, 500),
});

describe('spread', () => {
  it('begins and ends at the two speeds, by every step, and puts a single plane at the nearest', () => {
    for (const step of SPREAD_STEPS) {
      const spread = { nearestSpeed: 1.6, farthestSpeed: 0.1, step, strength: 1 };
      const depths = spreadDepths(7, spread, HOME);
      expect(speedAtDepth(depths[0]!, HOME)).toBeCloseTo(1.6, 12);
      expect(speedAtDepth(depths[6]!, HOME)).toBeCloseTo(0.1, 12);
      expect(spreadDepths(1, spread, HOME)[0]).toBeCloseTo(depthAtSpeed(1.6, HOME), 9);
      expect(spreadDepths(0, spread, HOME)).toEqual([]);
    }
  });

  it('grows and shrinks about the datum without turning anything over, and leads back', () => {
    fc.assert(
      fc.property(range(-1800, 50_000), range(0.1, 3), (depth, strength) => {
        const scaled = scaledDepth(depth, strength, HOME);
        // Nothing crosses the datum.
        expect(scaled * depth).toBeGreaterThanOrEqual(-1e-6);
        const back = scaledDepth(scaled, 1 / strength, HOME);
        expect(Math.abs(back - depth) / (HOME + Math.abs(depth))).toBeLessThan(1e-9);
      }),
      { seed: 50 },
    );
    expect(scaledDepth(960, 0, HOME)).toBe(0);
  });
});

describe('transforms and maps', () => {
  it('say the same: any map of a plane has a transform, with the anchor and the flips that it had', () => {
    fc.assert(
      fc.property(transforms, transforms, (t, other) => {
        const map = artToCarrier(t);
        const found = transformOf(map, { ...other, scaleX: t.scaleX, rotationDeg: t.rotationDeg });
        expect(found.anchorXArtPx).toBe(other.anchorXArtPx);
        expect(Math.sign(found.scaleX)).toBe(Math.sign(t.scaleX));
        for (const point of [
          { x: 0, y: 0 },
          { x: 300, y: 0 },
          { x: 0, y: 200 },
        ]) {
          const [is, was] = [artToCarrier(found), map].map((m) => applyAffine(m, point));
          expect(Math.hypot(is!.x - was!.x, is!.y - was!.y)).toBeLessThan(1e-6);
        }
      }),
      { seed: 51 },
    );
  });

  it('need no skew where nothing is squashed', () => {
    const turned = compose(translation(5, 6), compose(rotation(33), scaling(1.7)));
    const like: PlaneTransform = {
      xSpx: 0,
      ySpx: 0,
      scaleX: 1,
      scaleY: 1,
      rotationDeg: 720,
      skew: 0,
      anchorXArtPx: 0,
      anchorYArtPx: 0,
    };
    const found = transformOf(turned, like);
    expect([found.skew, found.xSpx, found.ySpx]).toEqual([0, 5, 6]);
    // The turn nearest to the one that it had, so that a number does not jump by whole turns.
    expect(found.rotationDeg).toBeCloseTo(753, 9);
    expect(found.scaleX).toBeCloseTo(1.7, 12);
  });

  it('carry depth by the mean size of the carrier, and back', () => {
    fc.assert(
      fc.property(transforms, range(-400, 4000), range(-200, 900), (transform, depthSpx, own) => {
        const carrier = carrierFor(ON_STAGE, { depthSpx, transform });
        const stood = standPlane(carrier, { depthSpx: own, transform });
        const mean = Math.sqrt(Math.abs(transform.scaleX * transform.scaleY));
        expect(stood.depthSpx).toBeCloseTo(depthSpx + own * mean, 6);
        expect(depthOnCarrier(carrier, stood.depthSpx)).toBeCloseTo(own, 6);
      }),
      { seed: 52 },
    );
  });
});
