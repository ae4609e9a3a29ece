import { type Affine, invertAffine, mapBox } from '../../geometry/index.ts';
import type { Repeat } from '../../scene/index.ts';
import { repeatsAcross, repeatsDown } from '../../staging/index.ts';
import { type AlphaMap, levelFor, type SpannedLevel } from '../alpha/alpha-map.ts';
import { CELL_PX, type Grid } from './grid.ts';

/** What of a plane the pass needs. */
export interface CoveringPlane {
  readonly map: AlphaMap;
  readonly artToFrame: Affine;
  readonly opacity: number;
  readonly repeat: Repeat;
}

/** What comes through everything nearer, 0 to 1 a cell, and how many cells of a row still let some through. */
export interface Light {
  readonly cells: Float32Array;
  readonly open: Int32Array;
  /** By row: 1 while nothing has taken anything of its light. */
  readonly whole: Uint8Array;
}

export const newLight = ({ columns, rows }: Grid): Light => ({
  cells: new Float32Array(columns * rows),
  open: new Int32Array(rows),
  whole: new Uint8Array(rows),
});

export const copyOfLight = ({ cells, open, whole }: Light): Light => ({
  cells: cells.slice(),
  open: open.slice(),
  whole: whole.slice(),
});

/** Makes light as it was in a copy. */
export function setLight(light: Light, from: Light): void {
  light.cells.set(from.cells);
  light.open.set(from.open);
  light.whole.set(from.whole);
}

/** As before anything: all comes through. */
export function clearLight({ columns }: Grid, { cells, open, whole }: Light): void {
  cells.fill(1);
  open.fill(columns);
  whole.fill(1);
}

/** Light that less than this of comes through is none: half a level of 8 bits. */
export const NO_LIGHT = 0.5 / 255;
const NO_TURN = 1e-9;

/**
 * Lays a plane over what is nearer: `light` is taken down by its
 * alpha, looked up in the middle of each cell in means about as large as a cell. Returns the output px of it that show.
 */
export function coverCells(grid: Grid, light: Light, plane: CoveringPlane): number {
  const back = invertAffine(plane.artToFrame);
  if (!back || plane.opacity <= 0) return 0;
  const { map, repeat } = plane;
  const level = levelFor(map, CELL_PX * Math.min(Math.hypot(back.a, back.b), Math.hypot(back.c, back.d)));
  const across = repeatsAcross(repeat);
  const down = repeatsDown(repeat);
  const box = mapBox(plane.artToFrame, { x0: 0, y0: 0, x1: map.widthPx, y1: map.heightPx });
  const tiled = across || down;
  const c0 = tiled ? 0 : Math.max(0, Math.floor(box.x0 / CELL_PX));
  const c1 = tiled ? grid.columns : Math.min(grid.columns, Math.ceil(box.x1 / CELL_PX));
  const r0 = tiled ? 0 : Math.max(0, Math.floor(box.y0 / CELL_PX));
  const r1 = tiled ? grid.rows : Math.min(grid.rows, Math.ceil(box.y1 / CELL_PX));
  if (c0 >= c1 || r0 >= r1) return 0;
  const upright = Math.abs(back.b) < NO_TURN && Math.abs(back.c) < NO_TURN;
  const area = { c0, c1, r0, r1 };
  return upright
    ? coverUpright(grid, light, plane, level, back, area)
    : coverTurned(grid, light, plane, level, back, area);
}

interface CellArea {
  readonly c0: number;
  readonly c1: number;
  readonly r0: number;
  readonly r1: number;
}

/** The texel that a place along one axis falls in; −1 where the art has none. */
function texel(at: number, sizePx: number, count: number, endless: boolean): number {
  const within = endless ? at - Math.floor(at / sizePx) * sizePx : at;
  if (!(within >= 0 && within < sizePx)) return -1;
  return Math.min(count - 1, Math.floor((within / sizePx) * count));
}

function coverUpright(
  grid: Grid,
  light: Light,
  { map, opacity, repeat }: CoveringPlane,
  level: SpannedLevel,
  back: Affine,
  { c0, c1, r0, r1 }: CellArea,
): number {
  const endless = repeatsAcross(repeat);
  const columns = new Int32Array(c1 - c0);
  for (let c = c0; c < c1; c++)
    columns[c - c0] = texel(back.a * grid.columnMid[c]! + back.e, map.widthPx, level.columns, endless);
  const gain = opacity / 255;
  const { data } = level;
  const { cells, open, whole } = light;
  let shown = 0;
  for (let r = r0; r < r1; r++) {
    if (open[r] === 0) continue;
    const row = texel(back.d * grid.rowMid[r]! + back.f, map.heightPx, level.rows, repeatsDown(repeat));
    if (row < 0 || level.to[row] === 0) continue;
    let [first, last] = [c0, c1];
    if (!endless) {
      const [from, to] = [level.from[row]!, level.to[row]!];
      const isClear = (c: number) => columns[c - c0]! < from || columns[c - c0]! >= to;
      while (first < last && isClear(first)) first += 1;
      while (last > first && isClear(last - 1)) last -= 1;
      if (first === last) continue;
    }
    const k0 = r * grid.columns;
    const isSolid = opacity === 1 && !endless && level.solid[row] === 1;
    const taken = isSolid
      ? takeAll(grid, light, r, first, last)
      : takeSome(grid, cells, k0, columns, c0, first, last, data, row * level.columns, gain);
    whole[r] = 0;
    open[r]! -= taken.shut;
    shown += taken.px * grid.rowPx[r]!;
  }
  return shown;
}

/** How many px of a row's light were taken, weighed by the widths of its cells, and how many cells let none through since. */
interface Taken {
  readonly px: number;
  readonly shut: number;
}

/** Everything of a row from one cell to before another. */
function takeAll(grid: Grid, { cells, whole }: Light, row: number, first: number, last: number): Taken {
  const k0 = row * grid.columns;
  const narrower = last === grid.columns ? CELL_PX - grid.columnPx[last - 1]! : 0;
  let [px, shut] = [0, 0];
  if (whole[row] === 1) {
    shut = last - first;
    px = shut * CELL_PX - narrower;
  } else {
    for (let k = k0 + first; k < k0 + last; k++) {
      const t = cells[k]!;
      if (t < NO_LIGHT) continue;
      px += t;
      shut += 1;
    }
    px = px * CELL_PX - narrower * cells[k0 + last - 1]!;
  }
  cells.fill(0, k0 + first, k0 + last);
  return { px, shut };
}

/** What the alpha of a row's texels takes; `from` is where they begin in `data`. */
function takeSome(
  grid: Grid,
  cells: Float32Array,
  k0: number,
  columns: Int32Array,
  c0: number,
  first: number,
  last: number,
  data: Uint8Array,
  from: number,
  gain: number,
): Taken {
  let px = 0;
  let shut = 0;
  for (let c = first; c < last; c++) {
    const t = cells[k0 + c]!;
    if (t < NO_LIGHT) continue;
    const column = columns[c - c0]!;
    if (column < 0) continue;
    const v = data[from + column]! * gain * t;
    if (v === 0) continue;
    const left = t - v;
    cells[k0 + c] = left;
    if (left < NO_LIGHT) shut += 1;
    px += v * grid.columnPx[c]!;
  }
  return { px, shut };
}

function coverTurned(
  grid: Grid,
  light: Light,
  { map, opacity, repeat }: CoveringPlane,
  level: SpannedLevel,
  back: Affine,
  { c0, c1, r0, r1 }: CellArea,
): number {
  const [across, down] = [repeatsAcross(repeat), repeatsDown(repeat)];
  const gain = opacity / 255;
  const { data } = level;
  let seen = 0;
  const { cells, open, whole } = light;
  for (let r = r0; r < r1; r++) {
    if (open[r] === 0) continue;
    whole[r] = 0;
    const y = grid.rowMid[r]!;
    let k = r * grid.columns + c0;
    let sum = 0;
    for (let c = c0; c < c1; c++, k++) {
      const t = cells[k]!;
      if (t < NO_LIGHT) continue;
      const x = grid.columnMid[c]!;
      const column = texel(back.a * x + back.c * y + back.e, map.widthPx, level.columns, across);
      if (column < 0) continue;
      const row = texel(back.b * x + back.d * y + back.f, map.heightPx, level.rows, down);
      if (row < 0) continue;
      const a = data[row * level.columns + column]!;
      if (a === 0) continue;
      const v = a * gain * t;
      const left = t - v;
      cells[k] = left;
      if (left < NO_LIGHT) open[r]! -= 1;
      sum += v * grid.columnPx[c]!;
    }
    seen += sum * grid.rowPx[r]!;
  }
  return seen;
}
