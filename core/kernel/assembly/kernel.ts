import { bandBytes, drawBand } from './blocks';
import { EMPTY, joinKinds, MIXED, OPAQUE, TILE, tileKind } from './cull';
import { align, placeRoom } from './draw';
import * as L from './layer';
import { buildGather } from './upright';

/** What a vector may write past the last pixel. */
const BAND_SPARE: usize = 64;

export { blurAcross, blurDisc, blurDown, copyRows, mapTiles } from './blur';

/**
 * Rows of an output image of `width` × `height` pixels, in `format`, at `out`, in bands of 32. Any number of callers may
 * share them: `taken` is the address of an i32 that counts the bands which somebody has taken on.
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
  height: i32,
  background: u32,
  dither: i32,
  format: i32,
  stop: usize,
  taken: usize,
): void {
  const columns = (width + TILE - 1) / TILE;
  const lanes = scratch;
  let free = align(lanes + bandBytes(width) + BAND_SPARE);
  free = placeRoom(free, width);
  const firstLayer = free;
  free = align(free + <usize>columns * 4);
  const end = layers + <usize>count * L.LAYER_BYTES;
  let turned = false;
  // Modes are of planes on planes: the ground is laid beneath at the end, so that a picture on it is that on clear ground, on it.
  let groundLast = false;
  for (let layer = layers; layer < end; layer += L.LAYER_BYTES) {
    if (L.kind(layer) == L.TURNED) turned = true;
    if (L.mode(layer) != 0) groundLast = true;
    L.setSpans(layer, free);
    free = align(free + <usize>columns * 8 + <usize>columns);
    if (L.kind(layer) == L.UPRIGHT) free = align(buildGather(layer, layers, free, width));
  }
  const ground = v128.shuffle<i64>(
    i16x8.shl(i16x8.extend_low_i8x16_u(i32x4.splat(background)), 7),
    i16x8.shl(i16x8.extend_low_i8x16_u(i32x4.splat(background)), 7),
    0,
    2,
  );
  while (atomic.load<i32>(stop) == 0) {
    const top = atomic.add<i32>(taken, 1) * TILE;
    if (top >= height) return;
    const bottom = min(top + TILE, height);
    planBand(layers, count, firstLayer, width, columns, top, bottom);
    drawBand(layers, end, lanes, turned, width, top, bottom, ground, groundLast && background != 0, out, format, dither != 0);
  }
}

/**
 * Marks with 1 the tiles of a picture of `width` × `height` that one of `count` layers hides: what is behind them leaves no
 * mark there. `covered`: a byte for each tile, row by row, 0 at first.
 */
export function coverTiles(layers: usize, count: i32, width: i32, height: i32, covered: usize): void {
  const end = layers + <usize>count * L.LAYER_BYTES;
  for (let top = 0; top < height; top += TILE) {
    const bottom = min(top + TILE, height);
    for (let left = 0; left < width; left += TILE, covered++) {
      const right = min(left + TILE, width);
      for (let layer = layers; layer < end; layer += L.LAYER_BYTES) {
        // Only paint hides what is behind it, and that of two levels where both do.
        if (L.isSecond(layer) || L.mode(layer) != 0 || tileKind(layer, left, top, right, bottom) != OPAQUE) continue;
        if (L.secondQ15(layer) != 0 && tileKind(layer + L.LAYER_BYTES, left, top, right, bottom) != OPAQUE) continue;
        store<u8>(covered, 1);
        break;
      }
    }
  }
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
      // Where there is no distance to an edge nothing of what is behind is kept: that too is drawn.
      if (!hidden && L.mode(layer) == L.MODE_WITHIN) kind = MIXED;
      store<u8>(kinds + <usize>c, kind);
      // Only paint hides what is behind it.
      if (kind == OPAQUE && L.mode(layer) == 0) store<i32>(known, i);
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
