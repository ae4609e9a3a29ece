import type { Affine } from '../../geometry/index.ts';
import { applyAffine, invertAffine } from '../../geometry/index.ts';
import { alphaAt, levelFor } from '../alpha/alpha-map.ts';
import type { CoveringPlane } from './cover.ts';
import { CELL_PX, cellAt, type Grid } from './grid.ts';

/** Cells of a plane's own grid along its longer side. */
const ART_CELLS = 160;
/** Half covered or more counts as hidden; half opaque or more as paint. */
const HALF = 0.5;
/** Relaxation of the membrane, and how often it is gone over. */
const MEMBRANE = { over: 1.7, coarsest: 200, rounds: 30 } as const;

/** Paint that one would expect of a plane where it was hidden at the set-up frame, and that is not there. */
export interface BarePaint {
  /** Cells of the art's own grid. */
  readonly columns: number;
  readonly rows: number;
  /** Art px of a cell, either way. */
  readonly cellPx: number;
  /** Cells that are expected to have paint and have none. */
  readonly cells: readonly number[];
  /** 1 as soon as a cell of `cells` has been seen. */
  readonly seen: Uint8Array;
  /** By cell of `cells`: index of the plane that hid it, in drawing order; −1 where none. */
  readonly hiddenBy: Int16Array;
  /** Clear patches of about that size show openly at set-up: nets, leaves. */
  readonly isLace: boolean;
}

/**
 * Looks at a plane at the set-up frame: `light` is what comes through everything nearer, `coveredBy` the plane that took
 * it below half. Where it is hidden its paint is taken to go on as a membrane stretched over what shows round about:
 * Laplace's equation with the alpha that shows as its border. Null where nothing that is hidden is bare.
 */
export function barePaintOf(
  grid: Grid,
  light: Float32Array,
  coveredBy: Int16Array,
  { map, artToFrame }: CoveringPlane,
): BarePaint | null {
  const cellPx = Math.max(1, Math.max(map.widthPx, map.heightPx) / ART_CELLS);
  const [columns, rows] = [Math.ceil(map.widthPx / cellPx), Math.ceil(map.heightPx / cellPx)];
  const level = levelFor(map, cellPx);
  const alpha = new Float32Array(columns * rows);
  const hidden = new Uint8Array(columns * rows);
  const by = new Int16Array(columns * rows).fill(-1);
  let count = 0;
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const i = r * columns + c;
      const [x, y] = [(c + 0.5) * cellPx, (r + 0.5) * cellPx];
      alpha[i] = alphaAt(map, level, Math.min(map.widthPx - 1e-3, x), Math.min(map.heightPx - 1e-3, y)) / 255;
      const at = applyAffine(artToFrame, { x, y });
      const cell = cellAt(grid, at.x, at.y);
      if (cell < 0 || light[cell]! >= HALF) continue;
      hidden[i] = 1;
      by[i] = coveredBy[cell]!;
      if (alpha[i]! < HALF) count += 1;
    }
  if (count === 0) return null;
  const expected = membrane(alpha, hidden, columns, rows);
  const cells: number[] = [];
  for (let i = 0; i < expected.length; i++)
    if (hidden[i] === 1 && expected[i]! >= HALF && alpha[i]! < HALF) cells.push(i);
  if (cells.length === 0) return null;
  return {
    columns,
    rows,
    cellPx,
    cells,
    seen: new Uint8Array(cells.length),
    hiddenBy: Int16Array.from(cells, (i) => by[i]!),
    isLace: hasOpenPatches(alpha, hidden, columns, rows),
  };
}

/** Grids of fewer cells are relaxed from nothing. */
const COARSEST_CELLS = 200;

/**
 * Solves Laplace's equation in the hidden cells by successive over-relaxation, begun from the solution on a grid half as
 * fine (nested iteration, so that few rounds suffice); borders of the art let nothing through.
 */
function membrane(alpha: Float32Array, hidden: Uint8Array, columns: number, rows: number): Float32Array {
  const value = alpha.slice();
  const unknown: number[] = [];
  for (let i = 0; i < hidden.length; i++) if (hidden[i] === 1) unknown.push(i);
  const isCoarsest = columns * rows <= COARSEST_CELLS;
  const from = isCoarsest ? null : halfMembrane(alpha, hidden, columns, rows);
  for (const i of unknown) {
    const c = i % columns;
    const r = (i - c) / columns;
    value[i] = from ? from[(r >> 1) * ((columns + 1) >> 1) + (c >> 1)]! : 0;
  }
  for (let round = 0; round < (isCoarsest ? MEMBRANE.coarsest : MEMBRANE.rounds); round++) {
    let most = 0;
    for (const i of unknown) {
      const c = i % columns;
      const r = (i - c) / columns;
      let sum = 0;
      let n = 0;
      if (c > 0) [sum, n] = [sum + value[i - 1]!, n + 1];
      if (c < columns - 1) [sum, n] = [sum + value[i + 1]!, n + 1];
      if (r > 0) [sum, n] = [sum + value[i - columns]!, n + 1];
      if (r < rows - 1) [sum, n] = [sum + value[i + columns]!, n + 1];
      if (n === 0) continue;
      const change = MEMBRANE.over * (sum / n - value[i]!);
      value[i]! += change;
      most = Math.max(most, Math.abs(change));
    }
    if (most < 1e-3) break;
  }
  return value;
}

/** The membrane on a grid half as fine, where a cell is hidden once all of its four are. */
function halfMembrane(alpha: Float32Array, hidden: Uint8Array, columns: number, rows: number): Float32Array {
  const [wide, high] = [(columns + 1) >> 1, (rows + 1) >> 1];
  const coarse = new Float32Array(wide * high);
  const covered = new Uint8Array(wide * high);
  for (let r = 0; r < high; r++)
    for (let c = 0; c < wide; c++) {
      let [sum, n] = [0, 0];
      for (const y of [2 * r, Math.min(rows - 1, 2 * r + 1)])
        for (const x of [2 * c, Math.min(columns - 1, 2 * c + 1)]) {
          const i = y * columns + x;
          if (hidden[i] === 1) continue;
          sum += alpha[i]!;
          n += 1;
        }
      if (n === 0) covered[r * wide + c] = 1;
      else coarse[r * wide + c] = sum / n;
    }
  return membrane(coarse, covered, wide, high);
}

/** Patches at most so large, as a share of the grid, count as the holes of lace; so many make a plane one. */
const LACE = { largestShare: 0.02, least: 4 } as const;

/** Whether clear patches within the paint show openly, several of them. */
function hasOpenPatches(alpha: Float32Array, hidden: Uint8Array, columns: number, rows: number): boolean {
  const known = new Uint8Array(alpha.length);
  const isOpen = (i: number) => hidden[i] === 0 && alpha[i]! < HALF;
  let patches = 0;
  for (let start = 0; start < alpha.length; start++) {
    if (known[start] === 1 || !isOpen(start)) continue;
    const stack = [start];
    known[start] = 1;
    let size = 0;
    let enclosed = true;
    while (stack.length > 0) {
      const i = stack.pop()!;
      size += 1;
      const c = i % columns;
      const r = (i - c) / columns;
      if (c === 0 || c === columns - 1 || r === 0 || r === rows - 1) enclosed = false;
      for (const [n, there] of [
        [i - 1, c > 0],
        [i + 1, c < columns - 1],
        [i - columns, r > 0],
        [i + columns, r < rows - 1],
      ] as const)
        if (there && known[n] === 0 && isOpen(n)) {
          known[n] = 1;
          stack.push(n);
        }
    }
    if (enclosed && size <= LACE.largestShare * alpha.length) patches += 1;
  }
  return patches >= LACE.least;
}

/** The bare cells that show at a frame, a bit each in their order: what is nearer lets at least half of the light through there. */
export function bareShowing(
  grid: Grid,
  light: Float32Array,
  bare: BarePaint,
  artToFrame: Affine,
): Uint8Array {
  const showing = new Uint8Array(Math.ceil(bare.cells.length / 8));
  bare.cells.forEach((cell, i) => {
    const c = cell % bare.columns;
    const r = (cell - c) / bare.columns;
    const at = applyAffine(artToFrame, { x: (c + 0.5) * bare.cellPx, y: (r + 0.5) * bare.cellPx });
    const k = cellAt(grid, at.x, at.y);
    if (k >= 0 && light[k]! >= HALF) showing[i >> 3]! |= 1 << (i & 7);
  });
  return showing;
}

/** A plane that stands on another: where they touch, output px of the set-up frame. */
export interface Contact {
  readonly plane: number;
  readonly on: number;
  readonly x: number;
  readonly y: number;
}

/** Share of a plane's height on screen, from below, that counts as its foot, and how much of it must stand on one plane. */
const FOOT = { height: 0.15, share: 0.4, leastCells: 3, clearShare: 0.05 } as const;

/**
 * Which planes stand on which, by what shows in front at the set-up frame: `front` names the plane that shows in each
 * cell, −1 none, far to near. A plane stands on another where its own paint ends, low down, before a farther one.
 */
export function contactsOf(grid: Grid, front: Int16Array, planes: readonly CoveringPlane[]): Contact[] {
  const { columns, rows } = grid;
  const feet = new Map<number, { c: number; r: number; on: number }[]>();
  const tops = new Map<number, number>();
  for (let c = 0; c < columns; c++)
    for (let r = 0; r < rows - 1; r++) {
      const p = front[r * columns + c]!;
      if (p < 0) continue;
      tops.set(p, Math.min(tops.get(p) ?? rows, r));
      const q = front[(r + 1) * columns + c]!;
      // Planes are numbered far to near: what it stands on lies behind it.
      if (q < 0 || q >= p || !endsBelow(planes[p]!, c, r)) continue;
      feet.set(p, [...(feet.get(p) ?? []), { c, r, on: q }]);
    }
  return [...feet].flatMap(([plane, ends]): Contact[] => {
    const low = Math.max(...ends.map(({ r }) => r));
    const height = low - (tops.get(plane) ?? 0);
    const foot = ends.filter(({ r }) => r >= low - FOOT.height * height);
    const counts = new Map<number, number>();
    for (const { on } of foot) counts.set(on, (counts.get(on) ?? 0) + 1);
    const [on, count] = [...counts].sort((p, q) => q[1] - p[1])[0] ?? [-1, 0];
    if (on < 0 || count < FOOT.leastCells || count < FOOT.share * foot.length) return [];
    const there = foot.filter((end) => end.on === on);
    const mean = (of: 'c' | 'r') => there.reduce((sum, end) => sum + end[of], 0) / there.length;
    return [{ plane, on, x: (mean('c') + 0.5) * CELL_PX, y: (mean('r') + 1) * CELL_PX }];
  });
}

/** Whether a plane has no paint under a cell for the rest of a foot's height: it stands there, it is no gap in it. */
function endsBelow({ map, artToFrame }: CoveringPlane, column: number, row: number): boolean {
  const back = invertAffine(artToFrame);
  if (!back) return false;
  const level = levelFor(map, CELL_PX * Math.hypot(back.a, back.b));
  const [first, most] = [
    row + 1,
    row + Math.max(2, Math.ceil((FOOT.clearShare * map.heightPx) / (CELL_PX * Math.hypot(back.c, back.d)))),
  ];
  for (let r = first; r <= most; r++) {
    const at = applyAffine(back, { x: (column + 0.5) * CELL_PX, y: (r + 0.5) * CELL_PX });
    if (alphaAt(map, level, at.x, at.y) >= 128) return false;
  }
  return true;
}
