import { type Affine, applyAffine, type Point } from '../geometry/index.ts';
import { SIDES, type Side } from '../image/index.ts';
import { factsOfShown } from '../staging/content/index.ts';
import type { FramePlan, PlanePlan } from '../staging/frame/index.ts';
import type { Beyond } from './layer.ts';

type DrawnPlane = Extract<PlanePlan, { state: 'drawn' }>;

/** Art px along the axis across each side. */
const ACROSS: Readonly<Record<Side, 'x' | 'y'>> = { left: 'x', right: 'x', top: 'y', bottom: 'y' };

/**
 * How far beyond its cut sides a blurred plane is read on as if its paint went on, art px; null where it has none. Without it
 * a background that ends at the frame's edge would get a clear rim there. It is as far as the blur reaches; of a side that
 * has come into the frame less by as much, so that its gap is seen as it is, and that it comes in without a jump.
 */
export function readOn(plane: DrawnPlane, frame: Pick<FramePlan, 'widthPx' | 'heightPx'>): Beyond | null {
  const facts = factsOfShown(plane.shown);
  const reachPx = (3.2 * plane.blurPx) / 4 + plane.defocusPx / 2 + 2;
  const far = (side: Side): number => {
    if (!facts.cutEdges[side]) return 0;
    const perArtPx = acrossSide(plane.artToFrame, side);
    if (!(perArtPx > 0)) return 0;
    return (
      Math.min(reachPx, Math.max(0, reachPx - inFramePx(plane.artToFrame, facts, side, frame))) / perArtPx
    );
  };
  if (!SIDES.some((side) => facts.cutEdges[side])) return null;
  return { left: far('left'), right: far('right'), top: far('top'), bottom: far('bottom') };
}

/** Frame px across a side, straight, for an art px. */
function acrossSide({ a, b, c, d }: Affine, side: Side): number {
  const determinant = Math.abs(a * d - b * c);
  return ACROSS[side] === 'x' ? determinant / Math.hypot(c, d) : determinant / Math.hypot(a, b);
}

/** How far the frame reaches beyond a side of the art, straight across it, px; negative where the side lies outside. */
function inFramePx(
  artToFrame: Affine,
  { widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number },
  side: Side,
  frame: Pick<FramePlan, 'widthPx' | 'heightPx'>,
): number {
  const ends: Readonly<Record<Side, readonly [Point, Point]>> = {
    left: [
      { x: 0, y: 0 },
      { x: 0, y: heightPx },
    ],
    right: [
      { x: widthPx, y: 0 },
      { x: widthPx, y: heightPx },
    ],
    top: [
      { x: 0, y: 0 },
      { x: widthPx, y: 0 },
    ],
    bottom: [
      { x: 0, y: heightPx },
      { x: widthPx, y: heightPx },
    ],
  };
  const [from, to] = ends[side].map((point) => applyAffine(artToFrame, point)) as [Point, Point];
  const middle = applyAffine(artToFrame, { x: widthPx / 2, y: heightPx / 2 });
  const long = Math.hypot(to.x - from.x, to.y - from.y);
  const beside = ({ x, y }: Point) =>
    ((x - from.x) * (to.y - from.y) - (y - from.y) * (to.x - from.x)) / long;
  // Outside is where the middle of the art is not.
  const outward = beside(middle) > 0 ? -1 : 1;
  const corners = [0, frame.widthPx].flatMap((x) => [0, frame.heightPx].map((y) => ({ x, y })));
  return Math.max(...corners.map((corner) => outward * beside(corner)));
}
