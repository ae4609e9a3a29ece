import { type Affine, applyAffine, type Box, invertAffine, type Point } from '../geometry/index.ts';
import { SIDES, type Side } from '../image/index.ts';
import type { Plane, Scene } from '../scene/index.ts';
import { artToCarrier, placePlane } from '../stage/index.ts';
import { type ArtFacts, factsAt } from '../staging/content/index.ts';
import { cameraPoseAt, repeatsAcross, repeatsDown, stageFrameOf, standingAt } from '../staging/index.ts';

/** A cut edge of the art that comes into frame. */
export interface EdgeGap {
  /** Where it is seen, at its worst, and which side of the art that is: turned and flipped planes show others. */
  readonly side: Side;
  readonly artSide: Side;
  /** Deepest that the edge stands inside the frame, output px straight across it, and where. */
  readonly worstPx: number;
  readonly worstFrame: number;
  readonly firstFrame: number;
  readonly frames: number;
  /** Art px to paint on beyond that side so that it stays out of frame. */
  readonly paintArtPx: number;
}

const SMALLEST_GAP_PX = 0.5;

/** Outward direction of each side of the art, in art px. */
const OUTWARD: Readonly<Record<Side, Point>> = {
  left: { x: -1, y: 0 },
  right: { x: 1, y: 0 },
  top: { x: 0, y: -1 },
  bottom: { x: 0, y: 1 },
};
const isAcross = (side: Side): boolean => side === 'left' || side === 'right';

/**
 * Every cut edge that any frame of the shot shows, of whichever drawing stands there then. Exact for planes of any
 * turn, flip, squash and skew: the frame is laid over the art, and what lies beyond the edge along its own length is
 * measured.
 */
export function edgeGaps(scene: Scene, plane: Plane): EdgeGap[] {
  const gaps = new Map<Side, EdgeGap>();
  for (let frame = 1; frame <= scene.lengthFrames; frame++) {
    const { artToFrame } = placePlane(
      stageFrameOf(scene),
      cameraPoseAt(scene, frame),
      standingAt(scene, plane, frame),
    );
    const back = artToFrame && invertAffine(artToFrame);
    const facts = factsAt(plane.content, frame, scene.rate);
    if (!artToFrame || !back || !facts.painted) continue;
    const seen = frameOnArt(back, scene.frame);
    for (const artSide of SIDES) {
      if (!isCut(plane, artSide, facts)) continue;
      const missing = beyond(seen, facts.painted, artSide, plane);
      const insidePx = missing * acrossPx(artToFrame, artSide);
      if (!(insidePx >= SMALLEST_GAP_PX)) continue;
      const known = gaps.get(artSide);
      const worse = !known || insidePx > known.worstPx;
      gaps.set(artSide, {
        side: worse ? sideSeen(artToFrame, artSide) : known.side,
        artSide,
        worstPx: worse ? insidePx : known.worstPx,
        worstFrame: worse ? frame : known.worstFrame,
        firstFrame: known?.firstFrame ?? frame,
        frames: (known?.frames ?? 0) + 1,
        // What rounding alone adds is not worth a px of paint.
        paintArtPx: Math.max(known?.paintArtPx ?? 0, Math.ceil(missing - 1e-6)),
      });
    }
  }
  return [...gaps.values()].sort((p, q) => q.worstPx - p.worstPx);
}

/** The corners of the frame in art px, in order round it. */
const frameOnArt = (back: Affine, { widthPx, heightPx }: Scene['frame']): Point[] =>
  [
    { x: 0, y: 0 },
    { x: widthPx, y: 0 },
    { x: widthPx, y: heightPx },
    { x: 0, y: heightPx },
  ].map((corner) => applyAffine(back, corner));

/** How far the frame reaches beyond a side of the paint, art px, alongside that side; a tiled axis has no ends. */
function beyond(seen: readonly Point[], painted: Box, side: Side, plane: Plane): number {
  const across = isAcross(side);
  const endless = across ? repeatsDown(plane.repeat) : repeatsAcross(plane.repeat);
  const [low, high] = across ? [painted.y0, painted.y1] : [painted.x0, painted.x1];
  const along = endless ? seen : clipped(seen, across ? 'y' : 'x', low, high);
  const reach = along.map(({ x, y }) => x * OUTWARD[side].x + y * OUTWARD[side].y);
  const edge = { left: -painted.x0, right: painted.x1, top: -painted.y0, bottom: painted.y1 }[side];
  return reach.length === 0 ? 0 : Math.max(...reach) - edge;
}

/** The part of a convex polygon between two values of one coordinate (Sutherland and Hodgman 1974). */
function clipped(polygon: readonly Point[], axis: 'x' | 'y', low: number, high: number): Point[] {
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
function acrossPx({ a, b, c, d }: Affine, side: Side): number {
  const area = Math.abs(a * d - b * c);
  return isAcross(side) ? area / Math.hypot(c, d) : area / Math.hypot(a, b);
}

/** The side of the frame towards which a side of the art looks. */
function sideSeen({ a, b, c, d }: Affine, side: Side): Side {
  // The normal of the edge, not the axis, which skew leans over.
  const along = isAcross(side) ? { x: c, y: d } : { x: a, y: b };
  const outward = OUTWARD[side];
  const towards = { x: a * outward.x + c * outward.y, y: b * outward.x + d * outward.y };
  const sign = Math.sign(towards.x * along.y - towards.y * along.x);
  const normal = { x: sign * along.y, y: -sign * along.x };
  if (Math.abs(normal.x) >= Math.abs(normal.y)) return normal.x < 0 ? 'left' : 'right';
  return normal.y < 0 ? 'top' : 'bottom';
}

/** Whether the paint is cut off at a side of the art: a plane that is tiled that way never ends. */
const isCut = (plane: Plane, artSide: Side, facts: ArtFacts): boolean =>
  !(isAcross(artSide) ? repeatsAcross(plane.repeat) : repeatsDown(plane.repeat)) && facts.cutEdges[artSide];

/** Whether the paint that stands there on a frame is cut off where it is seen at `side` of the picture. */
export function endsAt(scene: Pick<Scene, 'rate'>, plane: Plane, side: Side, frame: number): boolean {
  const map = artToCarrier(plane.transform);
  const artSide = SIDES.find((one) => sideSeen(map, one) === side);
  return artSide !== undefined && isCut(plane, artSide, factsAt(plane.content, frame, scene.rate));
}
