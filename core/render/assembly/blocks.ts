import { TILE } from './cull';
import { cover, drawSpans } from './draw';
import * as L from './layer';
import { fillRow } from './lanes';
import { pack } from './pack';

/**
 * Columns of a block. Turned layers read across many rows of their image: within a block these are few enough for the
 * nearest cache and, above all, few pages of memory. A block's own wide rows lie close together for the same reason.
 */
const BLOCK: i32 = 32;
const BLOCK_BYTES: usize = <usize>BLOCK * 8 * <usize>TILE;

/** Bytes of a band of blocks; ../layer-table.ts allows for them. */
@inline export function bandBytes(width: i32): usize {
  return <usize>((width + BLOCK - 1) / BLOCK) * BLOCK_BYTES;
}

/** Where wide pixel 0 of row y would lie if the block at column x0 went on to the left. */
@inline function rowOf(band: usize, x0: i32, row: i32): usize {
  return band + <usize>(x0 / BLOCK) * BLOCK_BYTES + <usize>row * (<usize>BLOCK * 8) - (<usize>x0 << 3);
}

/** Rows [top, bottom) of all layers, block by block; shapes, whose coverage is found along whole rows, row by row. */
export function drawInBlocks(
  layers: usize,
  end: usize,
  band: usize,
  width: i32,
  top: i32,
  bottom: i32,
  ground: v128,
  out: usize,
  format: i32,
  dither: bool,
): void {
  const firstIsShape = layers == end || L.kind(layers) == L.PATHS;
  if (firstIsShape) for (let x0 = 0; x0 < width; x0 += BLOCK) fill(band, x0, width, top, bottom, ground);
  let from = layers;
  let packed = false;
  while (from < end) {
    if (L.kind(from) == L.PATHS) {
      if (L.spanCount(from) > 0) drawShape(from, layers, band, width, top, bottom);
      from += L.LAYER_BYTES;
      continue;
    }
    let to = from + L.LAYER_BYTES;
    while (to < end && L.kind(to) != L.PATHS) to += L.LAYER_BYTES;
    packed = to == end;
    for (let x0 = 0; x0 < width; x0 += BLOCK) {
      // A block that nothing else comes to is begun and ended while it is near.
      if (from == layers) fill(band, x0, width, top, bottom, ground);
      const x1 = min(x0 + BLOCK, width);
      for (let layer = from; layer < to; layer += L.LAYER_BYTES) {
        if (L.spanCount(layer) == 0) continue;
        for (let y = top; y < bottom; y++) drawSpans(layer, layers, rowOf(band, x0, y - top), x0, x1, y);
      }
      if (packed) packBlock(band, x0, width, top, bottom, out, format, dither);
    }
    from = to;
  }
  if (packed) return;
  for (let x0 = 0; x0 < width; x0 += BLOCK) packBlock(band, x0, width, top, bottom, out, format, dither);
}

function fill(band: usize, x0: i32, width: i32, top: i32, bottom: i32, ground: v128): void {
  const columns = min(BLOCK, width - x0);
  for (let y = top; y < bottom; y++) fillRow(rowOf(band, x0, y - top) + (<usize>x0 << 3), columns, ground);
}

function packBlock(band: usize, x0: i32, width: i32, top: i32, bottom: i32, out: usize, format: i32, dither: bool): void {
  const x1 = min(x0 + BLOCK, width);
  for (let y = top; y < bottom; y++) pack(rowOf(band, x0, y - top), out, width, x0, x1, y, format, dither);
}

function drawShape(layer: usize, table: usize, band: usize, width: i32, top: i32, bottom: i32): void {
  for (let y = top; y < bottom; y++) {
    cover(layer, table, width, y);
    for (let x0 = 0; x0 < width; x0 += BLOCK)
      drawSpans(layer, table, rowOf(band, x0, y - top), x0, min(x0 + BLOCK, width), y);
  }
}
