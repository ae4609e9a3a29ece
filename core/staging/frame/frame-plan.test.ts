import { describe, expect, it } from 'vitest';
import { setCamera } from '../../edits/keys/index.ts';
import { testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { framePlan } from './frame-plan.ts';
import { framesOf, wholeShot } from './frame-range.ts';

const ids = (...names: string[]) => names.map(testPlaneId);

describe('frame plans', () => {
  it('list planes far to near, the list deciding only between equals', () => {
    const [near, first, second, far] = ids('near', 'first', 'second', 'far');
    const scene = testScene([
      testPlane({ id: far!, depthSpx: 4000 }),
      testPlane({ id: first!, depthSpx: 0 }),
      testPlane({ id: second!, depthSpx: 0 }),
      testPlane({ id: near!, depthSpx: -500 }),
    ]);
    expect(framePlan(scene, 1).planes.map((plane) => plane.planeId)).toEqual([
      'far',
      'second',
      'first',
      'near',
    ]);
  });

  it('tell hidden planes and those the camera has passed from those drawn', () => {
    const [drawn, hidden, passed] = ids('drawn', 'hidden', 'passed');
    const planes = [
      testPlane({ id: drawn! }),
      testPlane({ id: hidden!, hidden: true }),
      testPlane({ id: passed!, depthSpx: -1000 }),
    ];
    const scene = setCamera(testScene(planes), { truck: 1000 }, { frame: 60, keying: true });
    const states = Object.fromEntries(
      framePlan(scene, 60).planes.map((plane) => [plane.planeId, plane.state]),
    );
    expect(states).toEqual({ drawn: 'drawn', hidden: 'hidden', passed: 'passed' });
  });

  it('follow the camera by hand-worked numbers', () => {
    const [id] = ids('p');
    const panned = setCamera(
      testScene([testPlane({ id: id!, depthSpx: 1920 })]),
      { panX: 100, truck: 960 },
      { frame: 1, keying: true },
    );
    const plane = framePlan(panned, 1).planes[0];
    // d = 1920 + 960 = 2880, f/d = 2/3; the art's corner lies at (−200, −150) on the plane.
    expect(plane?.distanceSpx).toBe(2880);
    expect(plane?.artToFrame?.a).toBeCloseTo(2 / 3, 12);
    expect(plane?.artToFrame?.e).toBeCloseTo(960 + (-200 - 100) * (2 / 3), 9);
    expect(plane?.artToFrame?.f).toBeCloseTo(540 - 150 * (2 / 3), 9);
    expect(plane?.speed).toBe(0.5);
  });
});

describe('frame ranges', () => {
  it('are half-open inside and whole for the shot', () => {
    expect(framesOf(wholeShot(3))).toEqual([1, 2, 3]);
    expect(framesOf({ start: 5, end: 5 })).toEqual([]);
  });
});
