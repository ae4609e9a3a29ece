import * as L from './layer';
import { LOW, SQUARE, WIDE } from './layout';
import { layOver } from './blend';
import { mix } from './lanes';
import { applyLook } from './look';
import { coverRow, drawPaths, sumRow } from './paths';
import { CROSSINGS_BYTES, drawTurned } from './turned';
import { drawUpright, ROWS_BYTES } from './upright';

/** Bytes of the larger kind, with what is left between its rows for a vector at their ends. */
const SOURCE_BYTES: usize = <usize>WIDE * 8 * <usize>LOW + 16 * <usize>SQUARE;

/** What one caller works with beside its wide rows: a row of coverage, gathered rows, crossings, sources of a block. */
let coverage: usize = 0;
let texelRows: usize = 0;
let crossings: usize = 0;
let source: usize = 0;
let second: usize = 0;

/** Lays the room for work out from `at` on; gives back what lies behind it. ../layer-table.ts allows for it. */
export function placeRoom(at: usize, width: i32): usize {
  coverage = at;
  texelRows = align(coverage + <usize>width * 4 + 16);
  // A vector may begin before the first crossing.
  crossings = align(texelRows + ROWS_BYTES) + 64;
  source = align(crossings + CROSSINGS_BYTES);
  second = align(source + SOURCE_BYTES);
  return align(second + SOURCE_BYTES);
}

@inline export function align(at: usize): usize {
  return (at + 15) & ~15;
}

/** Finds what share of each pixel of row y a layer of paths covers; drawSpans paints it. */
export function cover(layer: usize, table: usize, width: i32, y: i32): void {
  coverRow(layer, table, coverage, width, y);
  sumRow(coverage, width);
}

/**
 * What a layer has in columns [x0, x1) of rows [top, bottom), all of one block: pixel (x0, top) lies at `to`, the next row
 * `pitch` bytes on. Of a layer of paths the row that was covered last.
 */
export function drawSpans(layer: usize, table: usize, to: usize, pitch: usize, x0: i32, x1: i32, top: i32, bottom: i32): void {
  const count = L.spanCount(layer);
  const plain = !L.isWorkedOn(layer);
  for (let i = 0; i < count; i++) {
    const span = L.spans(layer) + (<usize>i << 3);
    const from = max(x0, load<i32>(span));
    const end = min(x1, load<i32>(span, 4));
    if (from >= end) continue;
    const at = to + (<usize>(from - x0) << 3);
    if (plain) drawSpan(layer, table, at, pitch, from, end, top, bottom, false);
    else drawWorkedOn(layer, table, at, pitch, from, end, top, bottom);
  }
}

function drawSpan(
  layer: usize,
  table: usize,
  to: usize,
  pitch: usize,
  x0: i32,
  x1: i32,
  top: i32,
  bottom: i32,
  keeps: bool,
): void {
  const kind = L.kind(layer);
  if (kind == L.PATHS) drawPaths(layer, table, to - (<usize>x0 << 3), coverage, x0, x1, top, keeps);
  else if (kind == L.TURNED) drawTurned(layer, table, to, pitch, crossings, x0, x1, top, bottom, keeps);
  else drawUpright(layer, table, to, pitch, texelRows, x0, x1, top, bottom, keeps);
}

/** A part of a layer whose source is mixed from two levels, changed in colour, or laid over by another mode. */
function drawWorkedOn(
  layer: usize,
  table: usize,
  to: usize,
  pitch: usize,
  x0: i32,
  x1: i32,
  top: i32,
  bottom: i32,
): void {
  const bytes = <usize>(x1 - x0) << 3;
  const apart = align(bytes) + 16;
  const room = apart * <usize>(bottom - top);
  memory.fill(source, 0, room);
  drawSpan(layer, table, source, apart, x0, x1, top, bottom, true);
  const weight = L.secondQ15(layer);
  if (weight != 0) {
    memory.fill(second, 0, room);
    drawSpan(layer + L.LAYER_BYTES, table, second, apart, x0, x1, top, bottom, true);
  }
  const look = L.lookFrom(layer);
  let row = source;
  for (let y = top; y < bottom; y++, row += apart, to += pitch) {
    if (weight != 0) mixIn(row, row - source + second, bytes, weight);
    if (look != 0) applyLook(table + look, row - (<usize>x0 << 3), x0, x1, y);
    // An odd row ends in half a vector: what follows it is not the layer's.
    if ((x1 - x0) & 1) store<u64>(row + bytes, 0);
    // The opacity of a path is in its coverage already.
    layOver(L.mode(layer), row, to, bytes, L.kind(layer) == L.PATHS ? 32768 : L.opacityQ15(layer), L.channel(layer), L.softGain(layer));
  }
}

function mixIn(row: usize, other: usize, bytes: usize, weight: i32): void {
  const share = i16x8.splat(<i16>min(weight, 32767));
  const end = row + bytes;
  for (; row < end; row += 16, other += 16)
    v128.store(row, mix(v128.load(row), v128.load(other), share));
}
