import { applyAffine, type Point } from '../../geometry/index.ts';
import { SIDES, type Side } from '../../image/index.ts';
import { factsOfShown } from '../../staging/content/index.ts';
import { framePlan, type PlanePlan } from '../../staging/frame/index.ts';
import type { FindingOf, SurveyLimits } from '../finding.ts';
import { isAcross } from '../margins/margins.ts';
import type { PlaneRows } from '../rows.ts';
import { SET_UP_FRAME, type SurveyRows } from '../survey-run.ts';

/** Less missing paint than this does not show, output px². */
export const LEAST_MISSING_PX = 4;
/** A plane that is narrower than this share of the frame, with both its ends in it, is a thing and no ground. */
const THING_SHARE = 0.9;

/** A side that stands in the frame by more than this share of it where the shot is set up is seen there, and meant. */
const MEANT_SHARE = 0.05;

/**
 * Cut sides that come into frame and show. What stands in the frame openly where the shot is set up is meant so: a
 * horizon, a thing with both its ends.
 */
export function edgeFindings({ scene, planes }: SurveyRows, limits: SurveyLimits): FindingOf<'edge'>[] {
  const setUp = new Map(framePlan(scene, SET_UP_FRAME).planes.map((plan) => [plan.planeId, plan]));
  return [...planes.values()].flatMap((rows) => {
    const things = thingAxes(setUp.get(rows.planeId), scene.frame);
    return SIDES.flatMap((side): FindingOf<'edge'>[] => {
      if (things.has(isAcross(side) ? 'across' : 'down') || isMeant(rows, side, scene.frame)) return [];
      const found = sideFinding(rows, side, limits.gapPx);
      return found ? [found] : [];
    });
  });
}

function isMeant(
  rows: PlaneRows,
  artSide: Side,
  { widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number },
): boolean {
  const looksTo = SIDES[rows.looksTo[artSide][SET_UP_FRAME - 1]!]!;
  const inside = rows.inside[artSide][SET_UP_FRAME - 1]!;
  return inside > MEANT_SHARE * (isAcross(looksTo) ? widthPx : heightPx);
}

function sideFinding(rows: PlaneRows, artSide: Side, gapPx: number): FindingOf<'edge'> | null {
  const [inside, missing, short] = [rows.inside[artSide], rows.missing[artSide], rows.shortArtPx[artSide]];
  let [first, worst, last] = [0, 0, 0];
  let paint = 0;
  for (let i = 0; i < inside.length; i++) {
    if (!(inside[i]! >= gapPx && missing[i]! >= LEAST_MISSING_PX)) continue;
    first ||= i + 1;
    last = i + 1;
    if (worst === 0 || inside[i]! > inside[worst - 1]!) worst = i + 1;
    paint = Math.max(paint, short[i]!);
  }
  if (worst === 0) return null;
  return {
    id: `edge ${rows.planeId} ${artSide}`,
    code: 'edge',
    grade: 'wrong',
    planeId: rows.planeId,
    side: SIDES[rows.looksTo[artSide][worst - 1]!]!,
    artSide,
    firstFrame: first,
    worstFrame: worst,
    lastFrame: last,
    measured: inside[worst - 1]!,
    limit: gapPx,
    areaPx: missing[worst - 1]!,
    // What rounding alone adds is not worth a px of paint.
    paintArtPx: Math.ceil(paint - 1e-4),
  };
}

/** Along which axes of its art a plane stands in the frame whole, as a thing does. */
function thingAxes(
  plan: PlanePlan | undefined,
  frame: { readonly widthPx: number; readonly heightPx: number },
): ReadonlySet<'across' | 'down'> {
  const axes = new Set<'across' | 'down'>();
  if (plan?.state !== 'drawn') return axes;
  const { painted } = factsOfShown(plan.shown);
  if (!painted) return axes;
  const { x0, y0, x1, y1 } = painted;
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
  const at = (x: number, y: number) => applyAffine(plan.artToFrame, { x, y });
  const within = ({ x, y }: Point) => x > 0 && x < frame.widthPx && y > 0 && y < frame.heightPx;
  const small = (p: Point, q: Point) =>
    Math.abs(p.x - q.x) < THING_SHARE * frame.widthPx && Math.abs(p.y - q.y) < THING_SHARE * frame.heightPx;
  const [west, east, north, south] = [at(x0, cy), at(x1, cy), at(cx, y0), at(cx, y1)];
  if (within(west) && within(east) && small(west, east)) axes.add('across');
  if (within(north) && within(south) && small(north, south)) axes.add('down');
  return axes;
}
