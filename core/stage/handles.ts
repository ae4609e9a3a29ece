import { applyAffine, type Point, rotation } from '../geometry/index.ts';
import type { PlaneTransform } from './standing.ts';

/** A handle nearer than this to the anchor along an axis says nothing about that axis, px of the carrier. */
const TOO_NEAR = 1e-6;

/** What a handle may change: both sizes alike, one of them, or each by itself. */
export type HandleScale = 'even' | 'x' | 'y' | 'free';

/** From the anchor, along the plane's own upright axes. */
const fromAnchor = (t: PlaneTransform, at: Point): Point =>
  applyAffine(rotation(-t.rotationDeg), { x: at.x - t.xSpx, y: at.y - t.ySpx });

/** Sizes a plane about its anchor so that the point of it that was at `from` follows to `to` (px of the carrier). */
export function scaledByHandle(t: PlaneTransform, from: Point, to: Point, how: HandleScale): PlaneTransform {
  const [p, q] = [fromAnchor(t, from), fromAnchor(t, to)];
  const along = (was: number, is: number) => (Math.abs(was) < TOO_NEAR ? 1 : is / was);
  const square = p.x * p.x + p.y * p.y;
  const even = square < TOO_NEAR ? 1 : (p.x * q.x + p.y * q.y) / square;
  const fx = how === 'even' ? even : how === 'y' ? 1 : along(p.x, q.x);
  const fy = how === 'even' ? even : how === 'x' ? 1 : along(p.y, q.y);
  return { ...t, scaleX: notZero(t.scaleX * fx), scaleY: notZero(t.scaleY * fy) };
}

const LEAST_SCALE = 1e-4;
const notZero = (scale: number): number => (Math.abs(scale) < LEAST_SCALE ? LEAST_SCALE : scale);

/** Turns a plane about its anchor by the angle from `from` to `to`; `stepDeg` rounds the outcome, 0 leaves it. */
export function turnedByHandle(t: PlaneTransform, from: Point, to: Point, stepDeg: number): PlaneTransform {
  const angle = (p: Point) => (Math.atan2(p.y - t.ySpx, p.x - t.xSpx) * 180) / Math.PI;
  const by = ((((angle(to) - angle(from) + 180) % 360) + 360) % 360) - 180;
  const turned = t.rotationDeg + by;
  return { ...t, rotationDeg: stepDeg > 0 ? Math.round(turned / stepDeg) * stepDeg : turned };
}
