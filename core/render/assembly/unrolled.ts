import * as L from './layer';
import { emit, KEEP, LAY_OVER, loadPixels, mix } from './lanes';

/** Column tables of a layer whose map does not turn: for each output column a texel column and its Q15 weight. */
export function buildGather(layer: usize, at: usize, width: i32): usize {
  const offsets = at;
  const weights = at + ((<usize>width * 4 + 15) & ~15);
  const limit = <f64>(L.widthPx(layer) + 1);
  let first = width;
  let end = 0;
  const tiled = L.repeatsX(layer);
  for (let x = 0; x < width; x++) {
    let u = L.uPerX(layer) * <f64>x + L.uAtOrigin(layer);
    if (tiled) u = L.comeRound(u, L.widthPx(layer));
    if (!(u >= 0 && u < limit)) continue;
    if (x < first) first = x;
    end = x + 1;
    const column = <i32>u;
    store<i32>(offsets + (<usize>x << 2), column);
    const weight = <i16>((u - <f64>column) * 32768);
    store<i64>(weights + (<usize>x << 3), i64x2.extract_lane(i16x8.splat(weight), 0));
  }
  L.setGather(layer, offsets, weights);
  L.setRangeX(layer, first, end);
  return weights + <usize>width * 8;
}

/** Columns [x0, x1) of output row y: two texel rows mixed into `scratch`, then gathered across. `mode`: LAY_OVER or KEEP. */
export function drawUnrolled(layer: usize, lanes: usize, scratch: usize, x0: i32, x1: i32, y: i32, mode: i32): void {
  let v = L.vPerY(layer) * <f64>y + L.vAtOrigin(layer);
  if (L.repeatsY(layer)) v = L.comeRound(v, L.heightPx(layer));
  if (!(v >= 0 && v < <f64>(L.heightPx(layer) + 1))) return;
  x0 = max(x0, L.firstX(layer));
  x1 = min(x1, L.endX(layer));
  if (x0 >= x1) return;
  const row = <i32>v;
  const downQ15 = i16x8.splat(<i16>((v - <f64>row) * 32768));
  if (L.repeatsX(layer)) drawCopies(layer, lanes, scratch, x0, x1, row, downQ15, mode);
  else drawRun(layer, lanes, scratch, x0, x1, row, downQ15, mode);
}

/** Columns [x0, x1), all of one copy of the image: their texels follow one another. */
function drawRun(layer: usize, lanes: usize, scratch: usize, x0: i32, x1: i32, row: i32, downQ15: v128, mode: i32): void {
  const offsets = L.gatherOffsets(layer);
  const left = load<i32>(offsets + (<usize>x0 << 2));
  const right = load<i32>(offsets + (<usize>(x1 - 1) << 2));
  const base = min(left, right);
  const last = max(left, right) + 1;
  mixRows(layer, row, base, last + 1 - base, downQ15, scratch);
  const texels = scratch - (<usize>base << 3);
  // Past the last texel of a tiled row comes the first one again.
  if (L.repeatsX(layer) && last > L.widthPx(layer)) {
    const first = mixRow(layer, row, 1, downQ15);
    store<i64>(texels + (<usize>last << 3), i64x2.extract_lane(first, 0));
  }
  if (mode == KEEP) gather(layer, lanes, texels, x0, x1, KEEP);
  else gather(layer, lanes, texels, x0, x1, LAY_OVER);
}

/** Columns [x0, x1) of a tiled image, copy by copy. */
function drawCopies(layer: usize, lanes: usize, scratch: usize, x0: i32, x1: i32, row: i32, downQ15: v128, mode: i32): void {
  const offsets = L.gatherOffsets(layer);
  const forward = L.uPerX(layer) >= 0;
  let from = x0;
  let before = load<i32>(offsets + (<usize>x0 << 2));
  for (let x = x0 + 1; x < x1; x++) {
    const column = load<i32>(offsets + (<usize>x << 2));
    if (forward ? column < before : column > before) {
      drawRun(layer, lanes, scratch, from, x, row, downQ15, mode);
      from = x;
    }
    before = column;
  }
  drawRun(layer, lanes, scratch, from, x1, row, downQ15, mode);
}

/** The row under `row`, which of a tiled image may be its first again. */
@inline function rowBelow(layer: usize, row: i32): i32 {
  return L.repeatsY(layer) && row >= L.heightPx(layer) ? 1 : row + 1;
}

@inline function mixRow(layer: usize, row: i32, column: i32, downQ15: v128): v128 {
  const stride = <usize>L.strideBytes(layer);
  const from = L.pixels(layer) + (<usize>column << 2);
  return mix(
    loadPixels(from + <usize>row * stride),
    loadPixels(from + <usize>rowBelow(layer, row) * stride),
    downQ15,
  );
}

function mixRows(layer: usize, row: i32, column: i32, texels: i32, downQ15: v128, to: usize): void {
  const stride = <usize>L.strideBytes(layer);
  let from = L.pixels(layer) + <usize>row * stride + (<usize>column << 2);
  const below = <usize>(rowBelow(layer, row) - row) * stride;
  const end = to + (<usize>texels << 3);
  do {
    v128.store(to, mix(loadPixels(from), loadPixels(from + below), downQ15));
    from += 8;
    to += 16;
  } while (to < end);
}

/** Two pixels whose texels lie at texels + the two offsets. */
@inline function across(texels: usize, offset: usize, weight: usize): v128 {
  const p = v128.load(texels + (<usize>load<i32>(offset) << 3));
  const q = v128.load(texels + (<usize>load<i32>(offset, 4) << 3));
  return mix(v128.shuffle<i64>(p, q, 0, 2), v128.shuffle<i64>(p, q, 1, 3), v128.load(weight));
}

@inline function gather(layer: usize, lanes: usize, texels: usize, x0: i32, x1: i32, mode: i32): void {
  const opacity = L.opacityQ15(layer);
  let offset = L.gatherOffsets(layer) + (<usize>x0 << 2);
  let weight = L.gatherWeights(layer) + (<usize>x0 << 3);
  let to = lanes + (<usize>x0 << 3);
  const end = lanes + (<usize>x1 << 3);
  for (; to + 32 <= end; to += 32, offset += 16, weight += 32) {
    const early = across(texels, offset, weight);
    const late = across(texels, offset + 8, weight + 16);
    if (mode == KEEP || v128.any_true(v128.or(early, late))) {
      emit(to, early, opacity, mode);
      emit(to + 16, late, opacity, mode);
    }
  }
  for (; to + 16 <= end; to += 16, offset += 8, weight += 16) emit(to, across(texels, offset, weight), opacity, mode);
  if (to < end) {
    const p = v128.load(texels + (<usize>load<i32>(offset) << 3));
    const source = mix(p, v128.shuffle<i64>(p, p, 1, 1), v128.load64_zero(weight));
    emit(to, v128.shuffle<i64>(source, i64x2.splat(0), 0, 2), opacity, mode);
  }
}
