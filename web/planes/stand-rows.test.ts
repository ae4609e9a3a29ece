import { setCamera } from '@keen-ridge/core/edits/keys';
import { planesOf } from '@keen-ridge/core/scene/records';
import { testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { describe, expect, it } from 'vitest';
import { withDistanceRatio } from '../edits/depth-edits.ts';
import { depthColour } from './depth-colour.ts';
import { standRows } from './stand-rows.ts';

const [far, near, ground] = ['far', 'near', 'ground'].map(testPlaneId);
const scene = testScene([
  testPlane({ id: far!, depthSpx: 1920 }, 2400, 1200),
  testPlane({ id: ground! }, 2000, 1200),
  testPlane({ id: near!, depthSpx: -960 }, 400, 300),
]);

describe('the rows of the Stand', () => {
  it('run near to far', () => {
    expect(standRows(scene, 1).map(({ plane }) => plane.id)).toEqual([near, ground, far]);
  });

  it('say where the paint begins and ends on screen, by hand: f/d of 2, 1 and ½ about 960', () => {
    expect(standRows(scene, 1).map(({ onScreen }) => onScreen)).toEqual([
      { left: 560, right: 1360 },
      { left: -40, right: 1960 },
      { left: 360, right: 1560 },
    ]);
  });

  it('mark where the survey has found that a plane runs out, while that side stands in frame', () => {
    const gaps = (rows: ReturnType<typeof standRows>) =>
      rows.map(({ gapLeft, gapRight }) => [gapLeft, gapRight]);
    const runsOut = (id: string, side: 'left' | 'right') => id !== near && side === 'right';
    expect(gaps(standRows(scene, 1, runsOut))).toEqual([
      [false, false],
      [false, false],
      [false, true],
    ]);
    expect(gaps(standRows(scene, 1)).flat()).not.toContain(true);
  });

  it('slide as the camera pans, and say when a plane has been passed', () => {
    const panned = setCamera(scene, { panX: 100, truck: 1000 }, { frame: 1, keying: true });
    const rows = standRows(panned, 1);
    expect(rows[0]).toMatchObject({ passed: true, onScreen: null });
    // The ground now stands at 920: one spx is 1920/920 px.
    expect(rows[1]?.onScreen?.left).toBeCloseTo(960 + (-1000 - 100) * (1920 / 920), 6);
  });

  it('move together by a ratio of distance, never behind the home camera', () => {
    const moved = withDistanceRatio(scene, [far!, ground!], 0.5, 1, false);
    expect(planesOf(moved).map((plane) => plane.depthSpx)).toEqual([0, -960, -960]);
    const close = withDistanceRatio(scene, [near!], 1e-6, 1, false);
    expect(planesOf(close)[2]?.depthSpx).toBeGreaterThan(-1920);
  });
});

describe('the colour of a depth', () => {
  it('runs from umber to mist and stays at the ends', () => {
    expect(depthColour(2)).toContain('#7a4424');
    expect(depthColour(50)).toBe(depthColour(2));
    expect(depthColour(1 / 13)).toContain('#9eb0c6 100.0%');
    expect(depthColour(0.001)).toBe(depthColour(1 / 13));
  });
});
