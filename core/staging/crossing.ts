import { applyAffine, type Point, rotation } from '../geometry/index.ts';
import type { Plane, Scene } from '../scene/index.ts';
import { distanceSpx, focalPx, poseFor, speedAtDepth } from '../stage/index.ts';
import { rationalToNumber } from '../units/index.ts';
import { cameraPoseAt, stageFrameOf } from './camera-at.ts';
import { standingAt } from './standings.ts';

/** A spot of a plane as it was pointed at: output px of the frame. */
export interface PointedAt {
  readonly frame: number;
  readonly at: Point;
}

/** Px a frame at which something crosses the width of the frame in `seconds`. */
export const crossingPx = (scene: Scene, seconds: number): number =>
  scene.frame.widthPx / (seconds * rationalToNumber(scene.rate));

/** How far the camera slides over the stage from the frame before `frame` to the one after it, spx a frame. */
function cameraSlideSpx(scene: Scene, frame: number): number {
  const before = cameraPoseAt(scene, Math.max(1, frame - 1));
  const after = cameraPoseAt(scene, Math.min(scene.lengthFrames, frame + 1));
  const frames = Math.min(scene.lengthFrames, frame + 1) - Math.max(1, frame - 1);
  return frames > 0 ? Math.hypot(after.xSpx - before.xSpx, after.ySpx - before.ySpx) / frames : 0;
}

/**
 * The depth at which the pan at `frame` makes a plane cross the frame in `seconds`: f·p/d px a frame = W/(s·rate).
 * Null where the camera does not pan there, or the plane would stand behind the home camera.
 */
export function depthToCross(scene: Scene, frame: number, seconds: number): number | null {
  const pose = cameraPoseAt(scene, frame);
  const slide = cameraSlideSpx(scene, frame);
  const depthSpx = (focalPx(stageFrameOf(scene), pose) * slide) / crossingPx(scene, seconds) + pose.zSpx;
  return slide > 1e-9 && depthSpx > -scene.homeDistanceSpx ? depthSpx : null;
}

/**
 * The run, in its own px a frame along the plane's own axes, that takes a spot of the plane from one place of the
 * frame to the other while the camera rests. Null where both were pointed at in one frame.
 */
export function runBetweenSpots(
  scene: Scene,
  plane: Plane,
  first: PointedAt,
  second: PointedAt,
): Point | null {
  const frames = second.frame - first.frame;
  if (frames === 0) return null;
  const frame = stageFrameOf(scene);
  const { root, depthSpx } = standingAt(scene, plane, first.frame);
  const pose = poseFor(frame, cameraPoseAt(scene, first.frame), root);
  const pxPerSpx = focalPx(frame, pose) / distanceSpx(pose, depthSpx);
  const ownPerPx = speedAtDepth(depthSpx, scene.homeDistanceSpx) / pxPerSpx / frames;
  const step = { x: (second.at.x - first.at.x) * ownPerPx, y: (second.at.y - first.at.y) * ownPerPx };
  return applyAffine(rotation(pose.rollDeg - plane.transform.rotationDeg), step);
}
