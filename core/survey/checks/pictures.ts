import { planeOf, planesOf } from '../../scene/records/index.ts';
import type { FindingOf } from '../finding.ts';
import type { Reveal, SurveyRows } from '../survey-run.ts';
import { amissWhere } from './frames.ts';

/** Less than this is the rounding of cells, output px². */
const LEAST_HOLE_PX = 1;
/** Bare spots of fewer cells of the art's own grid, or narrower ones, are the rounding of its border. */
const LEAST_CELLS = 12;
const LEAST_WIDTH = 3;
/** Share of the frame that a plane must fill for its passing to be seen as a jump. */
const FILLS = 0.5;

/** Where the picture is not opaque. An empty stage is no hole. */
export function holeFindings({ scene, holePx, holeBoxes }: SurveyRows): FindingOf<'hole'>[] {
  const amiss = amissWhere(holePx, LEAST_HOLE_PX);
  const box = amiss && holeBoxes[amiss.worstFrame - 1];
  if (!amiss || !box || planesOf(scene).every((plane) => plane.hidden)) return [];
  return [{ id: 'hole', code: 'hole', grade: 'wrong', limit: 0, ...amiss, box }];
}

/** What nearer planes uncover that was never painted. */
export function revealFindings({ reveals, setUpOrder }: SurveyRows): FindingOf<'reveal'>[] {
  return [...reveals].flatMap(([planeId, reveal]): FindingOf<'reveal'>[] => {
    const { bare } = reveal;
    const seen = bare.cells.filter((_, i) => bare.seen[i] === 1);
    if (seen.length < LEAST_CELLS || widestRun(seen, bare.columns) < LEAST_WIDTH) return [];
    const worst = reveal.shown.reduce((most, count, i) => (count > reveal.shown[most]! ? i : most), 0);
    return [
      {
        id: `reveal ${planeId}`,
        code: 'reveal',
        grade: bare.isLace ? 'advice' : 'wrong',
        planeId,
        byId: setUpOrder[mostFrequent([...bare.hiddenBy].filter((_, i) => bare.seen[i] === 1))] ?? null,
        firstFrame: reveal.firstFrame,
        worstFrame: worst + 1,
        lastFrame: reveal.lastFrame,
        measured: seen.length * bare.cellPx ** 2,
        limit: 0,
        widestArtPx: widestRun(seen, bare.columns) * bare.cellPx,
        box: boxOf(reveal, seen),
      },
    ];
  });
}

function mostFrequent(values: readonly number[]): number {
  const counts = new Map<number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts].sort((p, q) => q[1] - p[1])[0]?.[0] ?? -1;
}

/** Cells in a row, at most. */
function widestRun(cells: readonly number[], columns: number): number {
  let [widest, run] = [0, 0];
  cells.forEach((cell, i) => {
    const follows = i > 0 && cells[i - 1] === cell - 1 && cell % columns !== 0;
    run = follows ? run + 1 : 1;
    widest = Math.max(widest, run);
  });
  return widest;
}

function boxOf({ bare: { columns, cellPx } }: Reveal, cells: readonly number[]) {
  const xs = cells.map((cell) => cell % columns);
  const ys = cells.map((cell) => Math.floor(cell / columns));
  return {
    x0: Math.min(...xs) * cellPx,
    y0: Math.min(...ys) * cellPx,
    x1: (Math.max(...xs) + 1) * cellPx,
    y1: (Math.max(...ys) + 1) * cellPx,
  };
}

/** Planes that the camera passes while they fill the frame, without a fade. */
export function passFindings({ scene, planes }: SurveyRows): FindingOf<'pass'>[] {
  const whole = scene.frame.widthPx * scene.frame.heightPx;
  return [...planes.values()].flatMap(({ planeId, passed, seenPx }): FindingOf<'pass'>[] => {
    if (planeOf(scene, planeId)?.passing) return [];
    const at = passed.findIndex((now, i) => i > 0 && now !== passed[i - 1]);
    if (at < 0) return [];
    const share = Math.max(seenPx[at - 1]!, seenPx[at]!) / whole;
    if (share < FILLS) return [];
    const frames = { firstFrame: at, worstFrame: at, lastFrame: at + 1 };
    return [
      {
        id: `pass ${planeId}`,
        code: 'pass',
        grade: 'wrong',
        planeId,
        ...frames,
        measured: share,
        limit: FILLS,
      },
    ];
  });
}

/** Planes with paint that no frame shows. */
export function unseenFindings({ scene, planes }: SurveyRows): FindingOf<'unseen'>[] {
  return [...planes.values()].flatMap(({ planeId, seenPx, inFrame }): FindingOf<'unseen'>[] => {
    if (seenPx.some((px) => px >= 1) || !planeOf(scene, planeId)) return [];
    return [
      {
        id: `unseen ${planeId}`,
        code: 'unseen',
        grade: 'advice',
        planeId,
        why: inFrame.some((there) => there === 1) ? 'behind' : 'outside',
        firstFrame: 1,
        worstFrame: 1,
        lastFrame: scene.lengthFrames,
        measured: 0,
        limit: 0,
      },
    ];
  });
}
