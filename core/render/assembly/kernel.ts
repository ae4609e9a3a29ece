import { EMPTY, joinKinds, OPAQUE, TILE, tileKind } from './cull';
import * as L from './layer';
import { fade, fillRow, KEEP, LAY_OVER, mix, over, packRow, packRowDithered, packStraight, packStraight16, screen } from './lanes';
import { applyLook } from './look';
import { coverRow, drawPaths, sumRow } from './paths';
import { drawRolled } from './rolled';
import { drawScattered } from './scattered';
import { buildGather, drawUnrolled } from './unrolled';

export { blurAcross, blurDisc, blurDown, copyRows, mapTiles } from './blur';

/** What is written, RGBA: 8 bit premultiplied, 8 bit straight, or else 16 bit straight. */
const PREMULTIPLIED8: i32 = 0;
const STRAIGHT8: i32 = 1;

/**
 * Rows [y0, y1) of an output image of `width` pixels, in `format`, at `out` (row 0 of the image).
 * `layers`: `count` entries of the layer table, far to near. `background`: premultiplied RGBA, first byte lowest.
 * `dither`: 1 where a slow gradient would band. `scratch`: this caller's own area; ../layer-table.ts says how large it must be.
 * `stop`: address of an i32 that is looked at before each band of rows; not 0 ends the work there.
 */
export function renderRows(
  layers: usize,
  count: i32,
  scratch: usize,
  out: usize,
  width: i32,
  y0: i32,
  y1: i32,
  background: u32,
  dither: i32,
  format: i32,
  stop: usize,
): void {
  const columns = (width + TILE - 1) / TILE;
  const lanes = scratch;
  let free = align(lanes + <usize>width * 8 + 32);
  const texels = free;
  free = align(free + <usize>width * 16 + 128);
  const source = free;
  free = align(free + <usize>width * 8 + 32);
  const second = free;
  free = align(free + <usize>width * 8 + 32);
  const firstLayer = free;
  free = align(free + <usize>columns * 4);
  const end = layers + <usize>count * L.LAYER_BYTES;
  for (let layer = layers; layer < end; layer += L.LAYER_BYTES) {
    L.setSpans(layer, free);
    free = align(free + <usize>columns * 8 + <usize>columns);
    if (L.kind(layer) == L.UNROLLED) free = align(buildGather(layer, free, width));
  }
  const ground = v128.shuffle<i64>(
    i16x8.shl(i16x8.extend_low_i8x16_u(i32x4.splat(background)), 7),
    i16x8.shl(i16x8.extend_low_i8x16_u(i32x4.splat(background)), 7),
    0,
    2,
  );
  for (let top = y0; top < y1; top += TILE) {
    if (atomic.load<i32>(stop) != 0) return;
    const bottom = min(top + TILE, y1);
    planBand(layers, count, firstLayer, width, columns, top, bottom);
    for (let y = top; y < bottom; y++) {
      fillRow(lanes, width, ground);
      for (let layer = layers; layer < end; layer += L.LAYER_BYTES) {
        drawLayer(layer, layers, lanes, texels, source, second, width, y);
      }
      if (format == PREMULTIPLIED8) {
        const to = out + <usize>y * <usize>width * 4;
        if (dither != 0) packRowDithered(lanes, to, width, y);
        else packRow(lanes, to, width);
      } else if (format == STRAIGHT8) packStraight(lanes, out + <usize>y * <usize>width * 4, width, y, dither != 0);
      else packStraight16(lanes, out + <usize>y * <usize>width * 8, width);
    }
  }
}

@inline function align(at: usize): usize {
  return (at + 15) & ~15;
}

/** Which spans of a band of rows each layer must draw: not where it is empty, nor where a nearer one hides it. */
function planBand(layers: usize, count: i32, firstLayer: usize, width: i32, columns: i32, top: i32, bottom: i32): void {
  memory.fill(firstLayer, 0, <usize>columns * 4);
  for (let i = count - 1; i >= 0; i--) {
    const layer = layers + <usize>i * L.LAYER_BYTES;
    L.setSpanCount(layer, 0);
    if (L.isSecond(layer)) continue;
    const kinds = L.spans(layer) + <usize>columns * 8;
    for (let c = 0; c < columns; c++) {
      const known = firstLayer + (<usize>c << 2);
      const hidden = load<i32>(known) > i;
      const right = min((c + 1) * TILE, width);
      let kind = hidden ? EMPTY : tileKind(layer, c * TILE, top, right, bottom);
      if (!hidden && L.secondQ15(layer) != 0)
        kind = joinKinds(kind, tileKind(layer + L.LAYER_BYTES, c * TILE, top, right, bottom));
      store<u8>(kinds + <usize>c, kind);
      // What screens lets everything behind it through.
      if (kind == OPAQUE && !L.screens(layer)) store<i32>(known, i);
    }
    joinSpans(layer, kinds, width, columns);
  }
}

function joinSpans(layer: usize, kinds: usize, width: i32, columns: i32): void {
  let count = 0;
  let c = 0;
  while (c < columns) {
    if (load<u8>(kinds + <usize>c) == EMPTY) {
      c++;
      continue;
    }
    const start = c;
    while (c < columns && load<u8>(kinds + <usize>c) != EMPTY) c++;
    const span = L.spans(layer) + (<usize>count << 3);
    store<i32>(span, start * TILE);
    store<i32>(span, min(c * TILE, width), 4);
    count++;
  }
  L.setSpanCount(layer, count);
}

@inline function drawLayer(
  layer: usize,
  table: usize,
  lanes: usize,
  texels: usize,
  source: usize,
  second: usize,
  width: i32,
  y: i32,
): void {
  const spans = L.spans(layer);
  const count = L.spanCount(layer);
  if (count == 0) return;
  if (L.kind(layer) == L.PATHS) {
    coverRow(layer, table, texels, width, y);
    sumRow(texels, width);
  }
  const plain = !L.isWorkedOn(layer);
  for (let i = 0; i < count; i++) {
    const span = spans + (<usize>i << 3);
    const from = load<i32>(span);
    const to = load<i32>(span, 4);
    if (plain) drawSpan(layer, table, lanes, texels, from, to, y, LAY_OVER);
    else drawWorkedOn(layer, table, lanes, texels, source, second, from, to, y);
  }
}

@inline function drawSpan(layer: usize, table: usize, to: usize, texels: usize, x0: i32, x1: i32, y: i32, mode: i32): void {
  const kind = L.kind(layer);
  if (kind == L.PATHS) drawPaths(layer, table, to, texels, x0, x1, y, mode);
  else if (kind == L.ROLLED) drawRolled(layer, to, x0, x1, y, mode);
  else if (kind == L.SCATTERED) drawScattered(layer, to, x0, x1, y, mode);
  else drawUnrolled(layer, to, texels, x0, x1, y, mode);
}

/** Columns [x0, x1) of a layer whose source is mixed from two levels, changed in colour, or screened. */
function drawWorkedOn(
  layer: usize,
  table: usize,
  lanes: usize,
  texels: usize,
  source: usize,
  second: usize,
  x0: i32,
  x1: i32,
  y: i32,
): void {
  const bytes = <usize>(x1 - x0) << 3;
  const from = <usize>x0 << 3;
  memory.fill(source + from, 0, bytes + 16);
  drawSpan(layer, table, source, texels, x0, x1, y, KEEP);
  const weight = L.secondQ15(layer);
  if (weight != 0) {
    memory.fill(second + from, 0, bytes + 16);
    drawSpan(layer + L.LAYER_BYTES, table, second, texels, x0, x1, y, KEEP);
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
