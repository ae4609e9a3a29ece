import { setCamera } from '@keen-ridge/core/edits/keys';
import { setPlanesHidden } from '@keen-ridge/core/edits/planes';
import { planesOf, withPlaneList } from '@keen-ridge/core/scene/records';
import { homePose } from '@keen-ridge/core/stage';
import { cameraPoseAt, fieldingBox } from '@keen-ridge/core/staging';
import { testArt, testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { describe, expect, it } from 'vitest';
import { planesAt, planesWithin } from './planes-at.ts';

const [A, B, C] = ['a', 'b', 'c'].map(testPlaneId) as [
  ReturnType<typeof testPlaneId>,
  ReturnType<typeof testPlaneId>,
  ReturnType<typeof testPlaneId>,
];
const FRAME = { widthPx: 1920, heightPx: 1080, homeDistanceSpx: 1920 };
const still = (n: number) => ({ kind: 'still' as const, art: testArt(n), made: null });
/** The first image is painted in its left half only; the others all over. */
const alphaAt = (artId: string, x: number, y: number): number => {
  const inside = x >= 0 && y >= 0 && x < 400 && y < 300;
  return inside && (artId !== testArt(1).id || x < 200) ? 255 : 0;
};
const scene = testScene([
  testPlane({ id: A, content: still(1) }),
  testPlane({ id: B, content: still(2), depthSpx: 300 }),
  testPlane({ id: C, content: still(3), depthSpx: -300, hidden: true }),
]);
const under = (s: typeof scene, x: number, y: number, frame = 1, pose = cameraPoseAt(s, frame)) =>
  planesAt(s, frame, pose, { x, y }, alphaAt).map(({ id }) => id);

describe('what lies under the pointer', () => {
  it('is the paint there, nearest first, through what is clear, and nothing hidden', () => {
    expect(under(scene, 900, 540)).toEqual([A, B]);
    expect(under(scene, 1000, 540)).toEqual([B]);
    expect(under(scene, 100, 100)).toEqual([]);
    expect(under(setPlanesHidden(scene, new Set([C]), false), 900, 540)).toEqual([C, A, B]);
  });

  it('is found in every copy of a tiled plane', () => {
    const [strip, ...rest] = planesOf(scene);
    const tiled = withPlaneList(scene, [{ ...strip!, repeat: 'across' as const }, ...rest]);
    // The art begins at 760; each copy is painted in the first 200 of its 400 px.
    expect([100, 300, 1700, 1600].map((x) => under(tiled, x, 540).includes(A))).toEqual([
      true,
      false,
      true,
      true,
    ]);
    expect(under(tiled, 100, 100)).toEqual([]);
  });

  it('is what the camera that looks sees, be it another than the shot’s own', () => {
    const panned = setCamera(scene, { panX: 5000 }, { frame: 1, keying: false });
    expect(under(panned, 900, 540)).toEqual([]);
    expect(under(panned, 900, 540, 1, homePose(FRAME))).toEqual([A, B]);
  });
});

describe('what lies in a box of the picture', () => {
  const SHOWN = { x0: 0, y0: 0, x1: 1920, y1: 1080 };
  const within = (s: typeof scene, x0: number, y0: number, x1: number, y1: number) =>
    planesWithin(s, 1, cameraPoseAt(s, 1), { x0, y0, x1, y1 }, SHOWN).map(({ id }) => id);

  it('is what lies in it whole, nearest first, as far as it is in the frame', () => {
    // A is painted from 760 to 1160 and 390 to 690; B, farther, a little less.
    expect(within(scene, 750, 380, 1170, 700)).toEqual([A, B]);
    expect(within(scene, 765, 380, 1170, 700)).toEqual([B]);
    expect(within(scene, 0, 0, 700, 1080)).toEqual([]);
    const wide = testScene([testPlane({ id: A }, 4000, 2000)]);
    expect(within(wide, 100, 0, 1920, 1080)).toEqual([]);
    expect(within(wide, 0, 0, 1920, 1080)).toEqual([A]);
  });

  it('is nothing hidden and nothing outside of the frame', () => {
    expect(within(setPlanesHidden(scene, new Set([A]), true), 0, 0, 1920, 1080)).toEqual([B]);
    const panned = setCamera(scene, { panX: 5000 }, { frame: 1, keying: false });
    expect(within(panned, 0, 0, 1920, 1080)).toEqual([]);
  });
});

describe('what fielding shows', () => {
  it('is the frame where the painting is smaller, and all of the paint where it is larger', () => {
    expect(fieldingBox(scene)).toEqual({ x0: 0, y0: 0, x1: 1920, y1: 1080 });
    const wide = testScene([testPlane({ id: A }, 4000, 1200)]);
    expect(fieldingBox(wide)).toEqual({ x0: -1040, y0: -60, x1: 2960, y1: 1140 });
    expect(fieldingBox(setPlanesHidden(wide, new Set([A]), true)).x0).toBe(0);
  });

  it('takes in the last frame of the move, and does not follow paint without end', () => {
    const start = setCamera(scene, { panX: 0 }, { frame: 1, keying: true });
    const moved = setCamera(start, { panX: 1500 }, { frame: 120, keying: true });
    expect(fieldingBox(moved).x1).toBe(3420);
    const endless = testScene([testPlane({ id: A }, 60_000, 1200)]);
    expect(fieldingBox(endless)).toMatchObject({ x0: -12 * 1920, x1: 13 * 1920 });
  });
});
