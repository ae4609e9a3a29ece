import { type Affine, applyAffine, type Box, type Point } from '../../geometry/index.ts';
import type { PlaneId, Scene } from '../../scene/index.ts';
import { factsOfShown } from '../../staging/content/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import type { Finding } from '../finding.ts';
import { stripBeyond } from '../pass/missing.ts';
import type { SurveyRows } from '../survey-run.ts';

/** Bare spots that the shot shows, by plane, as boxes in art px. */
export function bareBoxes({ reveals }: SurveyRows): Map<PlaneId, Box[]> {
  const bare = new Map<PlaneId, Box[]>();
  for (const [planeId, { bare: spot }] of reveals)
    bare.set(
      planeId,
      spot.cells.flatMap((cell, i): Box[] => {
        if (spot.seen[i] !== 1) return [];
        const [c, r] = [cell % spot.columns, Math.floor(cell / spot.columns)];
        const { cellPx } = spot;
        return [{ x0: c * cellPx, y0: r * cellPx, x1: (c + 1) * cellPx, y1: (r + 1) * cellPx }];
      }),
    );
  return bare;
}

/** Where a fault lies at a frame, as polygons in output px. */
export function faultOn(
  scene: Scene,
  frame: number,
  finding: Finding,
  bare: ReadonlyMap<PlaneId, readonly Box[]>,
): Point[][] {
  if (finding.code === 'hole') return [cornersOf(finding.box)];
  if (!('planeId' in finding)) return [];
  const plan = framePlan(scene, frame).planes.find(({ planeId }) => planeId === finding.planeId);
  if (plan?.state !== 'drawn') return [];
  const facts = factsOfShown(plan.shown);
  const onFrame = (m: Affine, points: readonly Point[]) => points.map((p) => applyAffine(m, p));
  if (finding.code === 'edge') {
    const strip = stripBeyond({ map: facts, artToFrame: plan.artToFrame }, finding.artSide, scene.frame);
    return strip.length < 3 ? [] : [onFrame(plan.artToFrame, strip)];
  }
  if (finding.code === 'reveal')
    return (bare.get(finding.planeId) ?? []).map((box) => onFrame(plan.artToFrame, cornersOf(box)));
  return [];
}

const cornersOf = ({ x0, y0, x1, y1 }: Box): Point[] => [
  { x: x0, y: y0 },
  { x: x1, y: y0 },
  { x: x1, y: y1 },
  { x: x0, y: y1 },
];
