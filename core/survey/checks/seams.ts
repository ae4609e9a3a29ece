import { applyAffine, type Point } from '../../geometry/index.ts';
import { SIDES, type Side } from '../../image/index.ts';
import type { PlaneId, Scene } from '../../scene/index.ts';
import { factsOfShown } from '../../staging/content/index.ts';
import { type FramePlan, framePlan, type PlanePlan } from '../../staging/frame/index.ts';
import type { FindingOf } from '../finding.ts';
import { isCut } from '../margins/edge-gaps.ts';
import { SET_UP_FRAME } from '../survey-run.ts';
import { amissWhere } from './frames.ts';

type Drawn = Extract<PlanePlan, { state: 'drawn' }>;

/** A cut side of a plane on the frame; its paint lies to the right of the way from `from` to `to`. */
interface Border {
  readonly plan: Drawn;
  readonly side: Side;
  readonly from: Point;
  readonly to: Point;
}

/** Sides that lie side by side over less than this are only near each other, output px. */
const LEAST_LENGTH_PX = 8;
/** Farther apart than this, or lying over each other by more, they do not abut, output px. */
const ABUT_PX = 0.5;
/** Sine of the angle between borders that still run along each other. */
const PARALLEL = 1e-3;
/** Less than a level of 255 shows through. */
const LEAST_SHARE = 1 / 255;

/**
 * Planes whose cut sides abut where the shot is set up: between the px each covers a share of the px that both border
 * on, and what is behind shows through by the product of what they leave.
 */
export function seamFindings({ scene }: { readonly scene: Scene }): FindingOf<'seam'>[] {
  const pairs = abutting(scene);
  if (pairs.length === 0) return [];
  const shares = pairs.map(() => new Float64Array(scene.lengthFrames));
  for (let frame = 1; frame <= scene.lengthFrames; frame++) {
    const plan = framePlan(scene, frame);
    pairs.forEach(({ near, far }, i) => {
      const [p, q] = [bordersOf(plan, near.plane, near.side)[0], bordersOf(plan, far.plane, far.side)[0]];
      if (p && q) shares[i]![frame - 1] = shownThrough(p, q);
    });
  }
  return pairs.flatMap(({ near, far }, i): FindingOf<'seam'>[] => {
    const amiss = amissWhere(shares[i]!, LEAST_SHARE);
    if (!amiss) return [];
    return [
      {
        id: `seam ${far.plane} ${far.side} ${near.plane}`,
        code: 'seam',
        grade: 'advice',
        planeId: far.plane,
        besideId: near.plane,
        artSide: far.side,
        limit: 0,
        ...amiss,
      },
    ];
  });
}

interface Abutting {
  readonly near: { readonly plane: PlaneId; readonly side: Side };
  readonly far: { readonly plane: PlaneId; readonly side: Side };
}

/** Every two borders of different planes that lie on one line at the set-up frame, paint to either side of it. */
function abutting(scene: Scene): Abutting[] {
  const borders = bordersOf(framePlan(scene, SET_UP_FRAME)).filter((one) => reaches(one, scene));
  return borders.flatMap((far, i) =>
    borders.slice(i + 1).flatMap((near): Abutting[] => {
      if (far.plan.planeId === near.plan.planeId) return [];
      const gap = gapPx(far, near);
      if (gap === null || Math.abs(gap) > ABUT_PX) return [];
      return [
        {
          near: { plane: near.plan.planeId, side: near.side },
          far: { plane: far.plan.planeId, side: far.side },
        },
      ];
    }),
  );
}

/** The cut sides of what is drawn, far to near; of one plane, or one side of it. */
function bordersOf(plan: FramePlan, plane?: PlaneId, only?: Side): Border[] {
  return plan.planes.flatMap((one) => {
    if (one.state !== 'drawn' || (plane && one.planeId !== plane)) return [];
    const facts = factsOfShown(one.shown);
    const { painted } = facts;
    if (!painted) return [];
    const { a, b, c, d } = one.artToFrame;
    const flipped = a * d - b * c < 0;
    const at = (x: number, y: number) => applyAffine(one.artToFrame, { x, y });
    const corners: Record<Side, readonly [Point, Point]> = {
      top: [at(painted.x0, painted.y0), at(painted.x1, painted.y0)],
      right: [at(painted.x1, painted.y0), at(painted.x1, painted.y1)],
      bottom: [at(painted.x1, painted.y1), at(painted.x0, painted.y1)],
      left: [at(painted.x0, painted.y1), at(painted.x0, painted.y0)],
    };
    return SIDES.flatMap((side): Border[] => {
      if ((only && side !== only) || !isCut(one.repeat, side, facts)) return [];
      const [p, q] = corners[side];
      return [{ plan: one, side, from: flipped ? q : p, to: flipped ? p : q }];
    });
  });
}

function reaches({ from, to }: Border, { frame }: Scene): boolean {
  return (
    Math.max(from.x, to.x) > 0 &&
    Math.min(from.x, to.x) < frame.widthPx &&
    Math.max(from.y, to.y) > 0 &&
    Math.min(from.y, to.y) < frame.heightPx
  );
}

/** How far apart two borders stand where they run along each other; less than 0 where they lie over each other. Null elsewhere. */
function gapPx(p: Border, q: Border): number | null {
  const [px, py] = [p.to.x - p.from.x, p.to.y - p.from.y];
  const [qx, qy] = [q.to.x - q.from.x, q.to.y - q.from.y];
  const [long, other] = [Math.hypot(px, py), Math.hypot(qx, qy)];
  if (long < LEAST_LENGTH_PX || other < LEAST_LENGTH_PX) return null;
  const [ux, uy] = [px / long, py / long];
  const facesIt = ux * qx + uy * qy < 0 && Math.abs(ux * qy - uy * qx) < PARALLEL * other;
  if (!facesIt) return null;
  const along = (at: Point) => (at.x - p.from.x) * ux + (at.y - p.from.y) * uy;
  const shared = Math.min(long, along(q.from)) - Math.max(0, along(q.to));
  if (shared < LEAST_LENGTH_PX) return null;
  // Paint lies to the right of the way (y down), so what is to the left of it is away from the paint.
  return (q.from.x - p.from.x) * uy - (q.from.y - p.from.y) * ux;
}

/** The most of what is behind that shows between two borders: of upright ones exactly, of others as half way between px. */
function shownThrough(p: Border, q: Border): number {
  const gap = gapPx(p, q);
  if (gap === null || Math.abs(gap) > 1) return 0;
  const upright = p.from.x === p.to.x || p.from.y === p.to.y;
  if (!upright) return Math.max(0, ((1 - gap) / 2) * ((1 + gap) / 2) + Math.max(0, gap));
  const down = p.from.x === p.to.x;
  const [own, theirs] = [down ? p.from.x : p.from.y, down ? q.from.x : q.from.y];
  // Of the px that a border runs through each plane covers what lies to its own side.
  const [low, high] = ownIsLow(p, down) ? [own, theirs] : [theirs, own];
  return Math.max(...[Math.floor(low), Math.floor(high)].map((px) => through(px, low, high)));
}

/** Whether the paint of a border lies towards the lower coordinates: to the right of its way. */
const ownIsLow = ({ from, to }: Border, down: boolean): boolean => (down ? to.y > from.y : to.x < from.x);

/** What two planes leave of a px together: one ends at `low`, the other begins at `high`. */
function through(px: number, low: number, high: number): number {
  const share = (value: number) => Math.min(1, Math.max(0, value));
  return (1 - share(low - px)) * (1 - share(px + 1 - high));
}
