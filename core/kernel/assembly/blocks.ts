import { TILE } from './cull';
import { layUnder } from './blend';
import { cover, drawSpans } from './draw';
import * as L from './layer';
import { LOW, SQUARE, WIDE } from './layout';
import { fillRow } from './lanes';
import { pack } from './pack';

// A block is small and square where something turns: turned reading goes across many rows of its image, and within a block
// these are few enough for the nearest cache and, above all, few pages of memory. Where nothing turns it is wide and low,
// for then the processor sees what is read next and fetches it ahead.

/** Bytes of the wide rows of a band, or of a strip of it, in blocks; ../layer-table.ts allows for both. */
@inline export function bandBytes(width: i32): usize {
  const square = <usize>((width + SQUARE - 1) / SQUARE) * <usize>(SQUARE * TILE) * 8;
  const wide = <usize>((width + WIDE - 1) / WIDE) * <usize>(WIDE * LOW) * 8;
  return max(square, wide);
}

/** The wide rows: block behind block, each with its own rows close together. */
let band: usize = 0;
let columns: i32 = SQUARE;
let rows: i32 = TILE;
/** Whether the ground is laid beneath at the end, and what it is. */
let under: bool = false;
let groundLanes: v128 = i64x2.splat(0);

/** Bytes from a row of a block to the next. */
@inline function pitch(): usize {
  return <usize>columns << 3;
}

/** Where the first pixel of the block at column x0 lies. */
@inline function blockAt(x0: i32): usize {
  return band + <usize>(x0 / columns) * <usize>rows * pitch();
}

/** Rows [top, bottom) of a band of all layers, which begins at `at`. */
export function drawBand(
  layers: usize,
  end: usize,
  at: usize,
  turned: bool,
  width: i32,
  top: i32,
  bottom: i32,
  ground: v128,
  groundLast: bool,
  out: usize,
  format: i32,
  dither: bool,
): void {
  band = at;
  under = groundLast;
  const first = groundLast ? i64x2.splat(0) : ground;
  groundLanes = ground;
  columns = turned ? SQUARE : WIDE;
  rows = turned ? TILE : LOW;
  for (let y = top; y < bottom; y += rows)
    drawStrip(layers, end, width, y, min(y + rows, bottom), first, out, format, dither);
}

/** Rows [top, bottom), block by block; shapes, whose coverage is found along whole rows, row by row. */
function drawStrip(
  layers: usize,
  end: usize,
  width: i32,
  top: i32,
  bottom: i32,
  ground: v128,
  out: usize,
  format: i32,
  dither: bool,
): void {
  const firstIsShape = layers == end || L.kind(layers) == L.PATHS;
  if (firstIsShape) for (let x0 = 0; x0 < width; x0 += columns) fill(x0, width, top, bottom, ground);
  let from = layers;
  let packed = false;
  while (from < end) {
    if (L.kind(from) == L.PATHS) {
      if (L.spanCount(from) > 0) drawShape(from, layers, width, top, bottom);
      from += L.LAYER_BYTES;
      continue;
    }
    let to = from + L.LAYER_BYTES;
    while (to < end && L.kind(to) != L.PATHS) to += L.LAYER_BYTES;
    packed = to == end;
    for (let x0 = 0; x0 < width; x0 += columns) {
      // A block that nothing else comes to is begun and ended while it is near.
      if (from == layers) fill(x0, width, top, bottom, ground);
      const x1 = min(x0 + columns, width);
      for (let layer = from; layer < to; layer += L.LAYER_BYTES)
        if (L.spanCount(layer) > 0) drawSpans(layer, layers, blockAt(x0), pitch(), x0, x1, top, bottom);
      if (packed) packBlock(x0, width, top, bottom, out, format, dither);
    }
    from = to;
  }
  if (packed) return;
  for (let x0 = 0; x0 < width; x0 += columns) packBlock(x0, width, top, bottom, out, format, dither);
}

function fill(x0: i32, width: i32, top: i32, bottom: i32, ground: v128): void {
  const count = min(columns, width - x0);
  let row = blockAt(x0);
  for (let y = top; y < bottom; y++, row += pitch()) fillRow(row, count, ground);
}

function packBlock(x0: i32, width: i32, top: i32, bottom: i32, out: usize, format: i32, dither: bool): void {
  const x1 = min(x0 + columns, width);
  let row = blockAt(x0) - (<usize>x0 << 3);
  for (let y = top; y < bottom; y++, row += pitch()) {
    if (under) layUnder(row + (<usize>x0 << 3), <usize>(x1 - x0) << 3, groundLanes);
    pack(row, out, width, x0, x1, y, format, dither);
  }
}

function drawShape(layer: usize, table: usize, width: i32, top: i32, bottom: i32): void {
  for (let y = top; y < bottom; y++) {
    cover(layer, table, width, y);
    for (let x0 = 0; x0 < width; x0 += columns) {
      const row = blockAt(x0) + <usize>(y - top) * pitch();
      drawSpans(layer, table, row, pitch(), x0, min(x0 + columns, width), y, y + 1);
    }
  }
}
