import { invertAffine, type Point } from '../../geometry/index.ts';
import type { PlaneId } from '../../scene/index.ts';
import { type FramePlan, framePlan, type PlanePlan } from '../../staging/frame/index.ts';
import { alphaAt, levelFor } from '../alpha/alpha-map.ts';
import type { Finding } from '../finding.ts';
import { frameOnArt } from '../margins/margins.ts';
import { paintNeed } from '../paint-list.ts';
import { clearLight, coverCells, newLight } from '../pass/cover.ts';
import { cellAt, gridOf } from '../pass/grid.ts';
import { type AlphaSource, coveringOf, type SurveyRows } from '../survey-run.ts';
import { type GuideCanvas, guideCanvas } from './guide-canvas.ts';

/** Cells along the longer side of a canvas. */
const SIGHT_CELLS = 240;
/** Half of the light and more counts as seen; half opaque and more as paint. */
const HALF = 0.5;

export const SIGHTS = { never: 0, seen: 1, missing: 2 } as const;

/** Where the frame lies on the art at some frame of the shot: its corners in art px, in order round it. */
export interface FrameOnArt {
  readonly frame: number;
  readonly corners: readonly Point[];
}

/** A plane's own art as the move sees it. */
export interface ArtSight {
  readonly canvas: GuideCanvas;
  /** Art px of a cell, either way; the first cell begins at the canvas' upper left corner. */
  readonly cellPx: number;
  readonly columns: number;
  readonly rows: number;
  /** One of `SIGHTS` a cell. */
  readonly cells: Uint8Array;
  readonly first: FrameOnArt | null;
  /** Where most of it is missing; null where nothing is. */
  readonly worst: FrameOnArt | null;
  readonly last: FrameOnArt | null;
}

/**
 * Looks at a plane's art through every frame: what of the canvas is ever seen, and what of that is missing, beyond the
 * sides that come into frame and where nearer planes uncover what was never painted. Goes a frame a step and yields how
 * many it has looked at; returns null where the plane is never seen. To a cell of the canvas and of the frame.
 */
export function* sightSteps(
  rows: SurveyRows,
  findings: readonly Finding[],
  alphaOf: AlphaSource,
  planeId: PlaneId,
): Generator<number, ArtSight | null> {
  const { scene } = rows;
  const need = paintNeed(rows, planeId, findings);
  if (!need) return null;
  const canvas = guideCanvas(need);
  const cellPx = Math.max(1, Math.max(canvas.widthPx, canvas.heightPx) / SIGHT_CELLS);
  const columns = Math.ceil(canvas.widthPx / cellPx);
  const cells = new Uint8Array(columns * Math.ceil(canvas.heightPx / cellPx));
  const grid = gridOf(scene.frame);
  const light = newLight(grid);
  for (let frame = 1; frame <= scene.lengthFrames; frame++) {
    clearLight(grid, light);
    const { nearer, own } = stackOf(framePlan(scene, frame), planeId);
    if (own) {
      for (const plan of nearer) {
        const plane = coveringOf(plan, alphaOf);
        if (plane) coverCells(grid, light, plane);
      }
      const m = own.artToFrame;
      for (let i = 0; i < cells.length; i++) {
        if (cells[i] !== SIGHTS.never) continue;
        const c = i % columns;
        const x = (c + HALF) * cellPx - canvas.xPx;
        const y = ((i - c) / columns + HALF) * cellPx - canvas.yPx;
        const cell = cellAt(grid, m.a * x + m.c * y + m.e, m.b * x + m.d * y + m.f);
        if (cell >= 0 && light.cells[cell]! >= HALF) cells[i] = SIGHTS.seen;
      }
    }
    yield frame;
  }
  const sight = { canvas, cellPx, columns, rows: cells.length / columns, cells };
  markBeyond(sight, rows, alphaOf);
  markBare(sight, rows);
  const about = findings.filter(
    (one) => (one.code === 'edge' || one.code === 'reveal') && one.planeId === planeId,
  );
  const worst = about.reduce<Finding | null>(
    (most, one) => (most && areaOf(most) >= areaOf(one) ? most : one),
    null,
  );
  const at = (frame: number) => frameAt(rows, planeId, frame);
  return { ...sight, first: at(1), worst: worst && at(worst.worstFrame), last: at(scene.lengthFrames) };
}

const areaOf = (finding: Finding): number =>
  finding.code === 'edge' ? finding.areaPx : finding.code === 'reveal' ? finding.measured : 0;

function stackOf({ planes }: FramePlan, planeId: PlaneId) {
  const isDrawn = (plan: PlanePlan) => plan.state === 'drawn';
  const drawn = planes.filter(isDrawn);
  const at = drawn.findIndex((plan) => plan.planeId === planeId);
  return { own: drawn[at] ?? null, nearer: at < 0 ? [] : drawn.slice(at + 1).toReversed() };
}

type Sight = Omit<ArtSight, 'first' | 'worst' | 'last'>;

/** Beyond the art as it is, where its border lets one expect paint. */
function markBeyond(
  { canvas, cellPx, columns, cells }: Sight,
  { scene }: SurveyRows,
  alphaOf: AlphaSource,
): void {
  const own = stackOf(framePlan(scene, 1), canvas.planeId).own;
  const map = own && coveringOf(own, alphaOf)?.map;
  if (!map) return;
  const level = levelFor(map, cellPx);
  const near = { x: map.widthPx / level.columns / 2, y: map.heightPx / level.rows / 2 };
  const within = (at: number, size: number, half: number) => Math.min(size - half, Math.max(half, at));
  for (let i = 0; i < cells.length; i++) {
    if (cells[i] !== SIGHTS.seen) continue;
    const c = i % columns;
    const x = (c + HALF) * cellPx - canvas.xPx;
    const y = ((i - c) / columns + HALF) * cellPx - canvas.yPx;
    if (x >= 0 && y >= 0 && x < map.widthPx && y < map.heightPx) continue;
    const border = alphaAt(map, level, within(x, map.widthPx, near.x), within(y, map.heightPx, near.y));
    if (border / 255 >= HALF) cells[i] = SIGHTS.missing;
  }
}

/** Where a nearer plane uncovers what was never painted. */
function markBare({ canvas, cellPx, columns, rows, cells }: Sight, { reveals }: SurveyRows): void {
  const bare = reveals.get(canvas.planeId)?.bare;
  if (!bare) return;
  bare.cells.forEach((cell, i) => {
    if (bare.seen[i] !== 1) return;
    const c = cell % bare.columns;
    const r = (cell - c) / bare.columns;
    const from = (index: number, offset: number) => Math.floor((index * bare.cellPx + offset) / cellPx);
    const to = (index: number, offset: number, most: number) =>
      Math.min(most, Math.ceil(((index + 1) * bare.cellPx + offset) / cellPx));
    for (let y = from(r, canvas.yPx); y < to(r, canvas.yPx, rows); y++)
      for (let x = from(c, canvas.xPx); x < to(c, canvas.xPx, columns); x++)
        cells[y * columns + x] = SIGHTS.missing;
  });
}

function frameAt({ scene }: SurveyRows, planeId: PlaneId, frame: number): FrameOnArt | null {
  const { own } = stackOf(framePlan(scene, frame), planeId);
  const back = own && invertAffine(own.artToFrame);
  return back ? { frame, corners: frameOnArt(back, scene.frame) } : null;
}

/** The sight at once, for whoever has nothing else to do. */
export function sightOf(...asked: Parameters<typeof sightSteps>): ArtSight | null {
  const steps = sightSteps(...asked);
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}
