import { type Affine, applyAffine, type Box, type Point } from '../../geometry/index.ts';
import type { Side } from '../../image/index.ts';
import type { Repeat, Scene } from '../../scene/index.ts';
import { repeatsAcross, repeatsDown } from '../../staging/index.ts';

/** Outward direction of each side of the art, in art px. */
export const OUTWARD: Readonly<Record<Side, Point>> = {
  left: { x: -1, y: 0 },
  right: { x: 1, y: 0 },
  top: { x: 0, y: -1 },
  bottom: { x: 0, y: 1 },
};
export const isAcross = (side: Side): boolean => side === 'left' || side === 'right';

/** The corners of the frame in art px, in order round it. */
export const frameOnArt = (back: Affine, { widthPx, heightPx }: Scene['frame']): Point[] =>
  [
    { x: 0, y: 0 },
    { x: widthPx, y: 0 },
    { x: widthPx, y: heightPx },
    { x: 0, y: heightPx },
  ].map((corner) => applyAffine(back, corner));

/** How far the frame reaches beyond a side of the paint, art px, alongside that side; a tiled axis has no ends. */
export function beyond(seen: readonly Point[], painted: Box, side: Side, repeat: Repeat): number {
  const across = isAcross(side);
  const endless = across ? repeatsDown(repeat) : repeatsAcross(repeat);
  const low = endless ? Number.NEGATIVE_INFINITY : across ? painted.y0 : painted.x0;
  const high = endless ? Number.POSITIVE_INFINITY : across ? painted.y1 : painted.x1;
  const outward = OUTWARD[side];
  const reach = farthest(seen, outward.x, outward.y, across ? 'y' : 'x', low, high);
  if (reach === Number.NEGATIVE_INFINITY) return 0;
  switch (side) {
    case 'left':
      return reach + painted.x0;
    case 'right':
      return reach - painted.x1;
    case 'top':
      return reach + painted.y0;
    case 'bottom':
      return reach - painted.y1;
  }
}

/**
 * How far a polygon reaches along a direction within a band of one coordinate; −∞ where it does not reach into the band.
 * The same as for the clipped polygon, without making one: it is asked for every side of every plane on every frame.
 */
function farthest(
  polygon: readonly Point[],
  dx: number,
  dy: number,
  axis: 'x' | 'y',
  low: number,
  high: number,
): number {
  let most = Number.NEGATIVE_INFINITY;
  let from = polygon[polygon.length - 1]!;
  for (let i = 0; i < polygon.length; i++) {
    const to = polygon[i]!;
    const [p, q] = [from[axis], to[axis]];
    if (q >= low && q <= high) most = Math.max(most, to.x * dx + to.y * dy);
    if (p < low !== q < low) most = Math.max(most, crossing(from, to, (low - p) / (q - p), dx, dy));
    if (p > high !== q > high) most = Math.max(most, crossing(from, to, (high - p) / (q - p), dx, dy));
    from = to;
  }
  return most;
}

const crossing = (from: Point, to: Point, share: number, dx: number, dy: number): number =>
  (from.x + share * (to.x - from.x)) * dx + (from.y + share * (to.y - from.y)) * dy;

/** The part of a convex polygon between two values of one coordinate (Sutherland and Hodgman 1974). */
export function clipped(polygon: readonly Point[], axis: 'x' | 'y', low: number, high: number): Point[] {
  const cut = (points: readonly Point[], keeps: (p: Point) => boolean, at: number): Point[] =>
    points.flatMap((to, i) => {
      const from = points.at(i - 1) as Point;
      const crossing = (): Point => {
        const share = (at - from[axis]) / (to[axis] - from[axis]);
        return { x: from.x + share * (to.x - from.x), y: from.y + share * (to.y - from.y) };
      };
      if (keeps(to)) return keeps(from) ? [to] : [crossing(), to];
      return keeps(from) ? [crossing()] : [];
    });
  const above = cut(polygon, (p) => p[axis] >= low, low);
  return cut(above, (p) => p[axis] <= high, high);
}

/** Output px for one art px straight across a side, whatever skew leans that side over. */
export function acrossPx({ a, b, c, d }: Affine, side: Side): number {
  const area = Math.abs(a * d - b * c);
  return isAcross(side) ? area / Math.hypot(c, d) : area / Math.hypot(a, b);
}

/** The side of the frame towards which a side of the art looks. */
export function sideSeen({ a, b, c, d }: Affine, side: Side): Side {
  // The normal of the edge, not the axis, which skew leans over.
  const along = isAcross(side) ? { x: c, y: d } : { x: a, y: b };
  const outward = OUTWARD[side];
  const towards = { x: a * outward.x + c * outward.y, y: b * outward.x + d * outward.y };
  const sign = Math.sign(towards.x * along.y - towards.y * along.x);
  const normal = { x: sign * along.y, y: -sign * along.x };
  if (Math.abs(normal.x) >= Math.abs(normal.y)) return normal.x < 0 ? 'left' : 'right';
  return normal.y < 0 ? 'top' : 'bottom';
}
