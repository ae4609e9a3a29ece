import * as L from './layer';
import { fade, KEEP, LAY_OVER, mix, over, screen } from './lanes';
import { applyLook } from './look';
import { coverRow, drawPaths, sumRow } from './paths';
import { drawRolled } from './rolled';
import { drawScattered } from './scattered';
import { drawUnrolled } from './unrolled';

/** What one caller works with beside its wide row: a row of texels or coverage, and two of sources. */
let texels: usize = 0;
let source: usize = 0;
let second: usize = 0;

/** Lays the rows of work out from `at` on; gives back what lies behind them. */
export function placeRows(at: usize, width: i32): usize {
  texels = at;
  source = align(texels + <usize>width * 16 + 128);
  second = align(source + <usize>width * 8 + 32);
  return align(second + <usize>width * 8 + 32);
}

@inline export function align(at: usize): usize {
  return (at + 15) & ~15;
}

/** Finds what share of each pixel of row y a layer of paths covers; drawSpans paints it. */
export function cover(layer: usize, table: usize, width: i32, y: i32): void {
  coverRow(layer, table, texels, width, y);
  sumRow(texels, width);
}

/** What a layer has in columns [x0, x1) of row y, whose wide pixel x lies at lanes + 8·x. */
export function drawSpans(layer: usize, table: usize, lanes: usize, x0: i32, x1: i32, y: i32): void {
  const count = L.spanCount(layer);
  const plain = !L.isWorkedOn(layer);
  for (let i = 0; i < count; i++) {
    const span = L.spans(layer) + (<usize>i << 3);
    const from = max(x0, load<i32>(span));
    const to = min(x1, load<i32>(span, 4));
    if (from >= to) continue;
    if (plain) drawSpan(layer, table, lanes, from, to, y, LAY_OVER);
    else drawWorkedOn(layer, table, lanes, from, to, y);
  }
}

@inline function drawSpan(layer: usize, table: usize, to: usize, x0: i32, x1: i32, y: i32, mode: i32): void {
  const kind = L.kind(layer);
  if (kind == L.PATHS) drawPaths(layer, table, to, texels, x0, x1, y, mode);
  else if (kind == L.ROLLED) drawRolled(layer, to, x0, x1, y, mode);
  else if (kind == L.SCATTERED) drawScattered(layer, to, x0, x1, y, mode);
  else drawUnrolled(layer, to, texels, x0, x1, y, mode);
}

/** Columns [x0, x1) of a layer whose source is mixed from two levels, changed in colour, or screened. */
function drawWorkedOn(layer: usize, table: usize, lanes: usize, x0: i32, x1: i32, y: i32): void {
  const bytes = <usize>(x1 - x0) << 3;
  const from = <usize>x0 << 3;
  memory.fill(source + from, 0, bytes + 16);
  drawSpan(layer, table, source, x0, x1, y, KEEP);
  const weight = L.secondQ15(layer);
  if (weight != 0) {
    memory.fill(second + from, 0, bytes + 16);
    drawSpan(layer + L.LAYER_BYTES, table, second, x0, x1, y, KEEP);
    const share = i16x8.splat(<i16>min(weight, 32767));
    for (let at = from; at < from + bytes; at += 16)
      v128.store(source + at, mix(v128.load(source + at), v128.load(second + at), share));
  }
  const look = L.lookFrom(layer);
  if (look != 0) applyLook(table + look, source, x0, x1, y);
  // The opacity of a path is in its coverage already.
  const opacity = L.kind(layer) == L.PATHS ? 32768 : L.opacityQ15(layer);
  // An odd span ends in half a vector: what follows it is not the layer's.
  if ((x1 - x0) & 1) store<u64>(source + from + bytes, 0);
  if (L.screens(layer)) {
    for (let at = from; at < from + bytes; at += 16) screen(lanes + at, fade(v128.load(source + at), opacity));
  } else {
    for (let at = from; at < from + bytes; at += 16) over(lanes + at, fade(v128.load(source + at), opacity));
  }
}
