import type { Plane, Scene } from '../../scene/index.ts';
import { channelOf, keysOf } from '../../scene/records/index.ts';
import { type CameraPose, focalPx, homePose, nearLimitSpx, placePlane } from '../../stage/index.ts';
import { sampleChannel } from '../../timing/index.ts';
import {
  type Lens,
  lensAt,
  movedAt,
  type PlaneMove,
  ridesOnCamera,
  shownAppearance,
  stageFrameOf,
  standingAt,
  standingsAt,
} from '../index.ts';

/** Numbers a plane takes on each frame: its affine (a, b, c, d, e, f), speed on screen, opacity, blur, defocus, distance. */
export const PLANE_NUMBERS = 11;

/** Writes the affine, opacity and blurs of a plane at `frame` into `rows` from `at` on; all of them NaN once passed. */
export type PlaneSampler = (frame: number, pose: CameraPose, rows: Float64Array, at: number) => void;

export const planeSampler = (scene: Scene, plane: Plane): PlaneSampler =>
  plane.mount.on === 'plane' || plane.run || plane.track
    ? throughStandings(scene, plane)
    : directly(scene, plane);

/** What runs, rides or follows a track: by way of all that it stands on. */
function throughStandings(scene: Scene, plane: Plane): PlaneSampler {
  const stage = stageFrameOf(scene);
  const lens = lensFor(scene, plane);
  // What rides on others asks for all at once: each alone would go down its whole chain again on every frame.
  const standing = (frame: number) =>
    plane.mount.on === 'plane' ? standingsAt(scene, frame).get(plane.id)! : standingAt(scene, plane, frame);
  return (frame, pose, rows, at) => {
    const { artToFrame: m, distanceSpx } = placePlane(stage, pose, standing(frame));
    const { opacity, blur } = movedAt(plane, frame);
    const veil = shownAppearance(scene, plane, { opacity, blur, frame }, distanceSpx, lens(frame, pose));
    rows[at + 7] = veil.opacity;
    rows[at + 8] = veil.blurPx;
    rows[at + 9] = veil.defocusPx;
    rows[at + 10] = distanceSpx;
    if (m) rows.set([m.a, m.b, m.c, m.d, m.e, m.f], at);
    else rows.fill(Number.NaN, at, at + PLANE_NUMBERS);
  };
}

const noLens = (): Lens | null => null;

/** The lens that a plane is seen through, frame by frame: none for what rides on the camera, or with a shut iris. */
function lensFor(scene: Scene, plane: Plane): (frame: number, pose: CameraPose) => Lens | null {
  const { iris } = scene.camera;
  const shut = keysOf(iris).every((key) => key.value === 0) && iris.value === 0;
  return shut || ridesOnCamera(scene, plane) ? noLens : (frame, pose) => lensAt(scene, frame, pose);
}

const turn = (deg: number) => ({
  cos: Math.cos((deg * Math.PI) / 180),
  sin: Math.sin((deg * Math.PI) / 180),
});

/**
 * What stands on the stage or the camera: its channels sampled at once, and the product of `stageToFrame` and the plane's
 * own map written out, M = f/d · R(rot − roll) · [1 skew; 0 1] · diag(sx, sy). No object is made for a frame.
 */
function directly(scene: Scene, plane: Plane): PlaneSampler {
  const stage = stageFrameOf(scene);
  const home = homePose(stage);
  const near = nearLimitSpx(stage);
  const { transform: t, moves } = plane;
  const sampled = (name: PlaneMove) => {
    const channel = moves[name];
    const interpolation = name === 'scale' ? 'log' : 'linear';
    return channel ? sampleChannel(channelOf(channel), 1, scene.lengthFrames, interpolation) : null;
  };
  const [x, y, depth, scale] = [sampled('x'), sampled('y'), sampled('depth'), sampled('scale')];
  const [turned, opacity, blur] = [sampled('rotation'), sampled('opacity'), sampled('blur')];
  const lens = lensFor(scene, plane);
  const veiled = opacity || blur || plane.passing || plane.flicker || plane.grade?.blurPx || lens !== noLens;
  let [lastDeg, last] = [Number.NaN, { cos: 1, sin: 0 }];
  let [lastRoll, roll] = [Number.NaN, { cos: 1, sin: 0 }];
  return (frame, shotPose, rows, at) => {
    const i = frame - 1;
    const pose = plane.mount.on === 'camera' ? home : shotPose;
    const distance = plane.depthSpx + (depth?.[i] ?? 0) - pose.zSpx;
    if (distance <= near) {
      rows.fill(Number.NaN, at, at + PLANE_NUMBERS);
      return;
    }
    if (veiled) {
      const moved = { opacity: opacity?.[i] ?? 1, blur: blur?.[i] ?? 0, frame };
      const veil = shownAppearance(scene, plane, moved, distance, lens(frame, shotPose));
      rows[at + 7] = veil.opacity;
      rows[at + 8] = veil.blurPx;
      rows[at + 9] = veil.defocusPx;
    } else rows[at + 7] = plane.opacity;
    rows[at + 10] = distance;
    const deg = t.rotationDeg + (turned?.[i] ?? 0) - pose.rollDeg;
    if (deg !== lastDeg) [lastDeg, last] = [deg, turn(deg)];
    if (pose.rollDeg !== lastRoll) [lastRoll, roll] = [pose.rollDeg, turn(-pose.rollDeg)];
    const perPx = focalPx(stage, pose) / distance;
    const size = (scale?.[i] ?? 1) * perPx;
    const [sx, sy] = [t.scaleX * size, t.scaleY * size];
    const { cos, sin } = last;
    const [a, b] = [cos * sx, sin * sx];
    const [c, d] = [(cos * t.skew - sin) * sy, (sin * t.skew + cos) * sy];
    const px = (t.xSpx + (x?.[i] ?? 0) - pose.xSpx) * perPx;
    const py = (t.ySpx + (y?.[i] ?? 0) - pose.ySpx) * perPx;
    rows[at] = a;
    rows[at + 1] = b;
    rows[at + 2] = c;
    rows[at + 3] = d;
    rows[at + 4] =
      stage.widthPx / 2 + roll.cos * px - roll.sin * py - a * t.anchorXArtPx - c * t.anchorYArtPx;
    rows[at + 5] =
      stage.heightPx / 2 + roll.sin * px + roll.cos * py - b * t.anchorXArtPx - d * t.anchorYArtPx;
  };
}
