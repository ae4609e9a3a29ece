import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyAffine, invertAffine } from '../geometry/index.ts';
import { homePose } from './camera.ts';
import { frameOnPlane } from './frame-on-plane.ts';
import { scaledByHandle, turnedByHandle } from './handles.ts';
import { ROCK_WAYS, rockedPose } from './rock.ts';
import { artToCarrier, type PlaneTransform } from './standing.ts';

const FRAME = { widthPx: 1920, heightPx: 1080, homeDistanceSpx: 1920 };
const range = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const transforms: fc.Arbitrary<PlaneTransform> = fc.record({
  xSpx: range(-500, 500),
  ySpx: range(-500, 500),
  scaleX: range(0.3, 3),
  scaleY: range(-3, -0.3),
  rotationDeg: range(-180, 180),
  skew: fc.constant(0),
  anchorXArtPx: range(0, 400),
  anchorYArtPx: range(0, 300),
});
const far = fc.oneof(fc.integer({ min: -2000, max: -1000 }), fc.integer({ min: 1000, max: 2000 }));
const points = fc.record({ x: far, y: far });

describe('handles of a plane', () => {
  it('make the point that was grasped follow the pointer, and leave the anchor where it is', () => {
    fc.assert(
      fc.property(transforms, points, points, (t, from, to) => {
        const grasped = applyAffine(invertAffine(artToCarrier(t))!, from);
        const free = scaledByHandle(t, from, to, 'free');
        fc.pre(Math.abs(grasped.x - t.anchorXArtPx) > 0.1 && Math.abs(grasped.y - t.anchorYArtPx) > 0.1);
        // Near the anchor's own axes a size would have to grow without end.
        const sizes = [free.scaleX, free.scaleY].map(Math.abs);
        fc.pre(sizes.every((size) => size > 1e-3 && size < 1e3));
        const now = applyAffine(artToCarrier(free), grasped);
        expect(Math.hypot(now.x - to.x, now.y - to.y)).toBeLessThan(1e-5);
        const anchor = { x: t.anchorXArtPx, y: t.anchorYArtPx };
        const kept = applyAffine(artToCarrier(free), anchor);
        expect(Math.hypot(kept.x - t.xSpx, kept.y - t.ySpx)).toBeLessThan(1e-6);
      }),
      { seed: 40 },
    );
  });

  it('keep the proportions from a corner, and one size from a side', () => {
    const t = { ...STRAIGHT, scaleX: 2, scaleY: 1 };
    expect(scaledByHandle(t, { x: 100, y: 50 }, { x: 150, y: 75 }, 'even')).toMatchObject({
      scaleX: 3,
      scaleY: 1.5,
    });
    expect(scaledByHandle(t, { x: 100, y: 50 }, { x: 150, y: 500 }, 'x')).toMatchObject({
      scaleX: 3,
      scaleY: 1,
    });
    // Dragged onto the anchor it stays a plane.
    expect(Math.abs(scaledByHandle(t, { x: 100, y: 50 }, { x: 0, y: 0 }, 'even').scaleX)).toBeGreaterThan(0);
  });

  it('turn by the angle that the pointer went, over the half turn too, in steps where wanted', () => {
    expect(turnedByHandle(STRAIGHT, { x: 10, y: 0 }, { x: 0, y: 10 }, 0).rotationDeg).toBeCloseTo(90, 9);
    expect(turnedByHandle(STRAIGHT, { x: -10, y: 1 }, { x: -10, y: -1 }, 0).rotationDeg).toBeCloseTo(
      11.42,
      2,
    );
    expect(turnedByHandle(STRAIGHT, { x: 10, y: 0 }, { x: 10, y: 7 }, 15).rotationDeg).toBe(30);
  });
});

const STRAIGHT: PlaneTransform = {
  xSpx: 0,
  ySpx: 0,
  scaleX: 1,
  scaleY: 1,
  rotationDeg: 0,
  skew: 0,
  anchorXArtPx: 0,
  anchorYArtPx: 0,
};

describe('the rock', () => {
  it.each(ROCK_WAYS)('%s begins and ends every period where the camera is', (way) => {
    const home = homePose(FRAME);
    const rock = { way, size: 0.1, periodSeconds: 3 };
    expect(rockedPose(FRAME, home, rock, 0)).toEqual(home);
    const back = rockedPose(FRAME, home, rock, way === 'orbit' ? 6 : 3);
    for (const key of ['xSpx', 'ySpx', 'zSpx'] as const) expect(back[key]).toBeCloseTo(home[key], 9);
  });

  it('goes as far as a share of the frame’s width on the datum, whatever the zoom', () => {
    const rock = { way: 'across', size: 0.1, periodSeconds: 4 } as const;
    expect(rockedPose(FRAME, homePose(FRAME), rock, 1).xSpx).toBeCloseTo(192, 9);
    expect(rockedPose(FRAME, { ...homePose(FRAME), zoom: 2 }, rock, 1).xSpx).toBeCloseTo(96, 9);
  });
});

describe('the frame on a plane', () => {
  it('is the frame itself on the datum at home, twice as large at twice the distance, turned with the roll', () => {
    const corners = (depth: number, rollDeg = 0) =>
      frameOnPlane(FRAME, { ...homePose(FRAME), rollDeg }, depth)?.[0];
    expect(corners(0)).toEqual({ x: -960, y: -540 });
    expect(corners(1920)).toEqual({ x: -1920, y: -1080 });
    expect(corners(0, 90)?.x).toBeCloseTo(540, 9);
    expect(corners(-1910)).toBeUndefined();
  });
});
