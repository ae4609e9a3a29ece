import { EMPTY, OPAQUE, TILE, tileKind } from './cull';
import * as L from './layer';
import { fillRow, packRow, packRowDithered } from './lanes';
import { coverRow, drawPaths, sumRow } from './paths';
import { drawRolled } from './rolled';
import { drawScattered } from './scattered';
import { buildGather, drawUnrolled } from './unrolled';

/**
 * Rows [y0, y1) of an output image of `width` pixels, premultiplied RGBA at `out` (row 0 of the image).
 * `layers`: `count` entries of the layer table, far to near. `background`: premultiplied RGBA, first byte lowest.
 * `dither`: 1 where a slow gradient would band. `scratch`: this caller's own area; ../layer-table.ts says how large it must be.
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
): void {
  const columns = (width + TILE - 1) / TILE;
  const lanes = scratch;
  let free = align(lanes + <usize>width * 8 + 32);
  const texels = free;
  free = align(free + <usize>width * 16 + 128);
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
    const bottom = min(top + TILE, y1);
    planBand(layers, count, firstLayer, width, columns, top, bottom);
    for (let y = top; y < bottom; y++) {
      fillRow(lanes, width, ground);
      for (let layer = layers; layer < end; layer += L.LAYER_BYTES) drawLayer(layer, layers, lanes, texels, width, y);
      const to = out + <usize>y * <usize>width * 4;
      if (dither != 0) packRowDithered(lanes, to, width, y);
      else packRow(lanes, to, width);
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
    const kinds = L.spans(layer) + <usize>columns * 8;
    for (let c = 0; c < columns; c++) {
      const known = firstLayer + (<usize>c << 2);
      const hidden = load<i32>(known) > i;
      const kind = hidden ? EMPTY : tileKind(layer, c * TILE, top, min((c + 1) * TILE, width), bottom);
      store<u8>(kinds + <usize>c, kind);
      if (kind == OPAQUE) store<i32>(known, i);
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

@inline function drawLayer(layer: usize, table: usize, lanes: usize, texels: usize, width: i32, y: i32): void {
  const spans = L.spans(layer);
  const count = L.spanCount(layer);
  if (count == 0) return;
  const kind = L.kind(layer);
  if (kind == L.PATHS) {
    coverRow(layer, table, texels, width, y);
    sumRow(texels, width);
  }
  for (let i = 0; i < count; i++) {
    const span = spans + (<usize>i << 3);
    const from = load<i32>(span);
    const to = load<i32>(span, 4);
    if (kind == L.PATHS) drawPaths(layer, table, lanes, texels, from, to, y);
    else if (kind == L.ROLLED) drawRolled(layer, lanes, from, to, y);
    else if (kind == L.SCATTERED) drawScattered(layer, lanes, from, to, y);
    else drawUnrolled(layer, lanes, texels, from, to, y);
  }
}
