import fc from 'fast-check';
import { PerspectiveCamera, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { applyAffine } from '../geometry/index.ts';
import { angleOfViewDeg, type CameraPose, gate36FocalMm, homePose } from './camera.ts';
import { cameraAfterDrag } from './drag-camera.ts';
import { holdPicture } from './hold-picture.ts';
import { depthAtSpeed, drawingOrder, placePlane, speedAtDepth } from './placement.ts';
import { remount } from './remount.ts';
import {
  type CarriedPlane,
  ON_CAMERA,
  ON_STAGE,
  type PlaneTransform,
  type Root,
  standPlane,
} from './standing.ts';

const FRAME = { widthPx: 1920, heightPx: 1080, homeDistanceSpx: 1920 };
const UNTURNED: PlaneTransform = {
  xSpx: 0,
  ySpx: 0,
  scaleX: 1,
  scaleY: 1,
  rotationDeg: 0,
  skew: 0,
  anchorXArtPx: 0,
  anchorYArtPx: 0,
};
const plane = (
  depthSpx: number,
  transform: Partial<PlaneTransform> = {},
  root: Root = 'stage',
): CarriedPlane & { root: Root } => ({
  root,
  depthSpx,
  transform: { ...UNTURNED, ...transform },
});
const standing = ({ root, ...p }: CarriedPlane & { root: Root }) =>
  standPlane(root === 'stage' ? ON_STAGE : ON_CAMERA, p);
const landsAt = (
  p: CarriedPlane & { root: Root },
  x: number,
  y: number,
  pose: CameraPose = homePose(FRAME),
) => {
  const { artToFrame } = placePlane(FRAME, pose, standing(p));
  if (!artToFrame) throw new Error('the camera has passed the plane');
  return applyAffine(artToFrame, { x, y });
};

const range = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const poses: fc.Arbitrary<CameraPose> = fc.record({
  xSpx: range(-2000, 2000),
  ySpx: range(-1000, 1000),
  zSpx: range(-2400, -1300),
  zoom: range(0.3, 4),
  rollDeg: range(-180, 180),
});
const transforms: fc.Arbitrary<PlaneTransform> = fc.record({
  xSpx: range(-3000, 3000),
  ySpx: range(-3000, 3000),
  scaleX: range(0.2, 5),
  scaleY: range(-5, -0.2),
  rotationDeg: range(-360, 360),
  skew: fc.constantFrom(0, 0, 0.4),
  anchorXArtPx: range(0, 3000),
  anchorYArtPx: range(0, 3000),
});

/** The same camera in three (outside check: three 0.187 PerspectiveCamera; its Y points up and it looks down −Z). */
function threeLandsAt(pose: CameraPose, x: number, y: number, depthSpx: number): { x: number; y: number } {
  const verticalDeg =
    (2 * Math.atan(FRAME.heightPx / (2 * FRAME.homeDistanceSpx * pose.zoom)) * 180) / Math.PI;
  const camera = new PerspectiveCamera(verticalDeg, FRAME.widthPx / FRAME.heightPx, 1, 1e6);
  camera.position.set(pose.xSpx, -pose.ySpx, -pose.zSpx);
  camera.rotation.z = (-pose.rollDeg * Math.PI) / 180;
  camera.updateMatrixWorld();
  camera.updateProjectionMatrix();
  const at = new Vector3(x, -y, -depthSpx).project(camera);
  return { x: ((at.x + 1) / 2) * FRAME.widthPx, y: ((1 - at.y) / 2) * FRAME.heightPx };
}

describe('projection', () => {
  it('agrees with a general 3D library for any camera', () => {
    fc.assert(
      fc.property(poses, range(-900, 30_000), range(-3000, 3000), range(-3000, 3000), (pose, depth, x, y) => {
        const ours = landsAt(plane(depth), x, y, pose);
        const theirs = threeLandsAt(pose, x, y, depth);
        const size = 1 + Math.hypot(theirs.x, theirs.y);
        expect(Math.hypot(ours.x - theirs.x, ours.y - theirs.y) / size).toBeLessThan(1e-9);
      }),
      { seed: 1, numRuns: 400 },
    );
  });

  /** Worked by hand: D = f = 1920, [960, 540] + (P − C)·f/d. */
  it.each([
    // cx, cz,    depth, x,   y  → screen x, screen y
    [0, -1920, 0, 100, 50, 1060, 590],
    [0, -1920, 1920, 100, 50, 1010, 565],
    [0, -1920, -960, 100, 50, 1160, 640],
    [100, -1920, 0, 100, 50, 960, 590],
    [100, -1920, 1920, 100, 50, 960, 565],
    [0, -960, 0, 100, 50, 1160, 640],
    [40, -1440, 960, 100, 50, 1008, 580],
  ])('lands as worked by hand: camera x %d z %d, depth %d', (cx, cz, depth, x, y, sx, sy) => {
    const at = landsAt(plane(depth), x, y, { ...homePose(FRAME), xSpx: cx, zSpx: cz });
    expect(at.x).toBeCloseTo(sx, 9);
    expect(at.y).toBeCloseTo(sy, 9);
  });

  it('halves size and slide where the distance doubles (common practice, no source)', () => {
    const slide = (depth: number) =>
      landsAt(plane(depth), 0, 0).x - landsAt(plane(depth), 0, 0, { ...homePose(FRAME), xSpx: 64 }).x;
    const size = (depth: number) => landsAt(plane(depth), 100, 0).x - landsAt(plane(depth), 0, 0).x;
    expect(slide(1920)).toBeCloseTo(slide(0) / 2, 12);
    expect(size(1920)).toBeCloseTo(size(0) / 2, 12);
    expect(slide(-960)).toBeCloseTo(slide(0) * 2, 12);
  });

  it('turns the picture against the roll: a clockwise camera turns the picture counter-clockwise', () => {
    const at = landsAt(plane(0), 100, 0, { ...homePose(FRAME), rollDeg: 90 });
    expect(at.x).toBeCloseTo(960, 9);
    expect(at.y).toBeCloseTo(440, 9);
  });

  it('does not draw a plane at or behind the near limit of D/100', () => {
    const near = (depth: number) => placePlane(FRAME, homePose(FRAME), standing(plane(depth))).artToFrame;
    expect(near(-1920 + 19.1)).toBeNull();
    expect(near(-1920 + 19.3)).not.toBeNull();
    expect(placePlane(FRAME, { ...homePose(FRAME), zSpx: 500 }, standing(plane(0))).artToFrame).toBeNull();
  });
});

describe('angle of view', () => {
  it('is 53.13° where the home distance is the width (2·atan ½), 36 mm on a 36 mm gate', () => {
    expect(angleOfViewDeg(FRAME, homePose(FRAME))).toBeCloseTo(53.1301, 4);
    expect(gate36FocalMm(FRAME, homePose(FRAME))).toBe(36);
  });
});

describe('speed and depth', () => {
  it('lead back to one another', () => {
    fc.assert(
      fc.property(range(-1900, 1e6), (depth) => {
        expect(depthAtSpeed(speedAtDepth(depth, 1920), 1920)).toBeCloseTo(
          depth,
          6 - Math.ceil(Math.log10(1 + Math.abs(depth))),
        );
      }),
    );
  });

  it.each([
    [1, 0],
    [0.5, 1920],
    [2, -960],
    [0.25, 5760],
  ])('speed %d is depth %d on a stage of D = 1920', (speed, depth) => {
    expect(depthAtSpeed(speed, 1920)).toBe(depth);
  });

  it('is the slide on screen for a pan, measured', () => {
    const slid = landsAt(plane(777), 0, 0).x - landsAt(plane(777), 0, 0, { ...homePose(FRAME), xSpx: 100 }).x;
    expect(slid / 100).toBeCloseTo(speedAtDepth(777, 1920), 12);
  });
});

describe('hold picture', () => {
  it('keeps every point of the picture through random drags and restores the numbers on the way back', () => {
    const drags = fc.array(range(-900, 40_000), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(poses, transforms, range(-500, 20_000), drags, (pose, transform, depth, stops) => {
        const start = plane(depth, transform);
        const before = landsAt(start, 700, 300, pose);
        let moved = start;
        for (const stop of [...stops, depth]) {
          const held = holdPicture(FRAME, pose, ON_STAGE, moved, stop);
          if (!held) throw new Error('both depths lie in front of the camera');
          moved = held;
          const after = landsAt(moved, 700, 300, pose);
          const size = 1 + Math.hypot(before.x, before.y);
          expect(Math.hypot(after.x - before.x, after.y - before.y) / size).toBeLessThan(1e-9);
        }
        for (const name of ['xSpx', 'ySpx', 'scaleX', 'scaleY'] as const) {
          const scale = 1 + Math.abs(transform[name]) + Math.abs(pose.xSpx) + Math.abs(pose.ySpx);
          expect(Math.abs(moved.transform[name] - transform[name]) / scale).toBeLessThan(1e-9);
        }
      }),
      { seed: 7, numRuns: 300 },
    );
  });

  it('gives null where there is no picture to hold', () => {
    const past: CameraPose = { ...homePose(FRAME), zSpx: 100 };
    expect(holdPicture(FRAME, past, ON_STAGE, plane(0), 2000)).toBeNull();
    expect(holdPicture(FRAME, past, ON_STAGE, plane(2000), 0)).toBeNull();
  });
});

const rooted = (p: CarriedPlane | null, root: Root) => p && { ...p, root };

describe('mounts', () => {
  it('keeps a camera-mounted plane where it is through any move', () => {
    fc.assert(
      fc.property(poses, transforms, range(-900, 9000), (pose, transform, depth) => {
        const home = landsAt(plane(depth, transform, 'camera'), 5, 6);
        expect(landsAt(plane(depth, transform, 'camera'), 5, 6, pose)).toEqual(home);
      }),
    );
  });

  it('keeps the picture when a plane is remounted, both ways', () => {
    fc.assert(
      fc.property(poses, transforms, range(-900, 9000), (pose, transform, depth) => {
        const onStage = plane(depth, transform);
        const before = landsAt(onStage, 300, 200, pose);
        const size = 1 + Math.hypot(before.x, before.y);
        const onCamera = rooted(remount(FRAME, pose, onStage, ON_STAGE, ON_CAMERA), 'camera');
        const back = onCamera && rooted(remount(FRAME, pose, onCamera, ON_CAMERA, ON_STAGE), 'stage');
        if (!onCamera || !back) throw new Error('the plane stands in front of both cameras');
        for (const p of [onCamera, back]) {
          const after = landsAt(p, 300, 200, pose);
          expect(Math.hypot(after.x - before.x, after.y - before.y) / size).toBeLessThan(1e-9);
        }
      }),
      { seed: 3 },
    );
  });
});

describe('drawing order', () => {
  it('runs far to near, and at the same distance the first of the list ends on top', () => {
    expect(drawingOrder([500, 2000, 500, 100])).toEqual([1, 2, 0, 3]);
  });
});

describe('dragging the camera', () => {
  it('makes a point of the datum follow the pointer', () => {
    fc.assert(
      fc.property(poses, range(-500, 500), range(-500, 500), (pose, dx, dy) => {
        const to = cameraAfterDrag(FRAME, pose, { x: dx, y: dy });
        if (!to) throw new Error('the datum lies in front of the camera');
        const before = landsAt(plane(0), 10, 20, pose);
        const after = landsAt(plane(0), 10, 20, { ...pose, xSpx: to.x, ySpx: to.y });
        expect(after.x - before.x).toBeCloseTo(dx, 6);
        expect(after.y - before.y).toBeCloseTo(dy, 6);
      }),
      { seed: 11 },
    );
  });
});
