import { type Affine, applyAffine, type Box, type Point } from '../geometry/index.ts';
import { isSame, type Outline, type PathNode } from './path.ts';

/** Farthest that a chord may stand from its curve, px of the target. */
const FLATNESS_PX = 0.02;
const MOST_CHORDS = 400;

/** The outline's points after `map`, curves replaced by chords that stand at most FLATNESS_PX off. */
export function flatten(outline: Outline, map: Affine): Point[] {
  const points: Point[] = [];
  outline.forEach((node, i) => {
    const next = outline[(i + 1) % outline.length] as PathNode;
    const [p0, p1, p2, p3] = [node.at, node.out, next.in, next.at].map((p) => applyAffine(map, p)) as [
      Point,
      Point,
      Point,
      Point,
    ];
    points.push(p0);
    // A straight span's handles lie on its ends, which would look like a bend in its timing.
    const straight = isSame(node.at, node.out) && isSame(next.in, next.at);
    const chords = straight ? 1 : chordCount(p0, p1, p2, p3);
    for (let k = 1; k < chords; k++) points.push(cubicAt(p0, p1, p2, p3, k / chords));
  });
  return points;
}

/** Chords for an error of FLATNESS_PX: |P''| ≤ 6·max second difference, and the error of a chord is h²/8·|P''|. */
function chordCount(p0: Point, p1: Point, p2: Point, p3: Point): number {
  const bend = Math.max(
    Math.hypot(p0.x - 2 * p1.x + p2.x, p0.y - 2 * p1.y + p2.y),
    Math.hypot(p1.x - 2 * p2.x + p3.x, p1.y - 2 * p2.y + p3.y),
  );
  return Math.min(MOST_CHORDS, Math.max(1, Math.ceil(Math.sqrt((0.75 * bend) / FLATNESS_PX))));
}

/** The point of a cubic Bézier at t in [0, 1]. */
export function cubicAt(p0: Point, p1: Point, p2: Point, p3: Point, t: number): Point {
  const u = 1 - t;
  const [a, b, c, d] = [u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t];
  return {
    x: a * p0.x + b * p1.x + c * p2.x + d * p3.x,
    y: a * p0.y + b * p1.y + c * p2.y + d * p3.y,
  };
}

/** Bounds of the outlines in their own px, or null when there are none. */
export function outlinesBox(outlines: readonly Outline[]): Box | null {
  const points = outlines.flatMap((outline) => flatten(outline, { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 }));
  if (points.length === 0) return null;
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { x, y } of points) {
    x0 = Math.min(x0, x);
    y0 = Math.min(y0, y);
    x1 = Math.max(x1, x);
    y1 = Math.max(y1, y);
  }
  return { x0, y0, x1, y1 };
}

/** Tells of many points whether they lie inside, by the winding number (SVG 2, section 13.4.2, nonzero). */
export function insideTest(outlines: readonly Outline[]): (at: Point) => boolean {
  const flat = outlines.map((outline) => flatten(outline, { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 }));
  return ({ x, y }) => {
    let winding = 0;
    for (const points of flat)
      points.forEach((p, i) => {
        const q = points[(i + 1) % points.length] as Point;
        const side = (q.x - p.x) * (y - p.y) - (x - p.x) * (q.y - p.y);
        if (p.y <= y && q.y > y && side > 0) winding += 1;
        else if (p.y > y && q.y <= y && side < 0) winding -= 1;
      });
    return winding !== 0;
  };
}

/** Whether a point lies inside; see `insideTest`. */
export const isInside = (outlines: readonly Outline[], at: Point): boolean => insideTest(outlines)(at);
