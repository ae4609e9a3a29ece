import { applyAffine, type Point, rotation } from '../geometry/index.ts';
import { type CameraPose, distanceSpx, focalPx, type StageFrame } from './camera.ts';

/** A spot of a plane, seen at a place of the frame through a camera. */
export interface Sighting {
  readonly pose: CameraPose;
  /** Output px. */
  readonly at: Point;
}

/** Cameras nearer than this to one another, in any way, say nothing about depth (stage px, ratio, degrees). */
const SAME = 1e-9;

/**
 * The depth at which one spot of a plane, kept where it is in the first sighting, is seen at the place of the second:
 * f′(ΔC + u·d) = t(d + δ) solved for the distance d, u and t being the two places from the axis over f, in stage
 * directions, δ the truck between. Two equations for one unknown, so the nearest by least squares; null where the
 * camera does not move between them or the answer is not in front of it.
 */
export function depthForSlide(frame: StageFrame, first: Sighting, second: Sighting): number | null {
  const fromAxis = ({ pose, at }: Sighting): Point =>
    applyAffine(rotation(pose.rollDeg), { x: at.x - frame.widthPx / 2, y: at.y - frame.heightPx / 2 });
  const [p, t] = [fromAxis(first), fromAxis(second)];
  const [f0, f1] = [focalPx(frame, first.pose), focalPx(frame, second.pose)];
  const back = first.pose.zSpx - second.pose.zSpx;
  const moved = { x: first.pose.xSpx - second.pose.xSpx, y: first.pose.ySpx - second.pose.ySpx };
  const a = { x: (f1 * p.x) / f0 - t.x, y: (f1 * p.y) / f0 - t.y };
  const b = { x: t.x * back - f1 * moved.x, y: t.y * back - f1 * moved.y };
  const square = a.x * a.x + a.y * a.y;
  if (square < SAME || b.x * b.x + b.y * b.y < SAME) return null;
  const distance = (a.x * b.x + a.y * b.y) / square;
  const depthSpx = distance + first.pose.zSpx;
  const inFront = distance > 0 && distanceSpx(second.pose, depthSpx) > 0;
  return inFront && depthSpx > -frame.homeDistanceSpx ? depthSpx : null;
}
