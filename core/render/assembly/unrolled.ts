import * as L from './layer';
import { fade, loadPixels, mix, over } from './lanes';

/** Column tables of a layer whose map does not turn: for each output column a texel column and its Q15 weight. */
export function buildGather(layer: usize, at: usize, width: i32): usize {
  const offsets = at;
  const weights = at + ((<usize>width * 4 + 15) & ~15);
  const limit = <f64>(L.widthPx(layer) + 1);
  let first = width;
  let end = 0;
  for (let x = 0; x < width; x++) {
    const u = L.uPerX(layer) * <f64>x + L.uAtOrigin(layer);
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

/** Columns [x0, x1) of output row y: two texel rows mixed into `scratch`, then gathered across. */
export function drawUnrolled(layer: usize, lanes: usize, scratch: usize, x0: i32, x1: i32, y: i32): void {
  const v = L.vPerY(layer) * <f64>y + L.vAtOrigin(layer);
  if (!(v >= 0 && v < <f64>(L.heightPx(layer) + 1))) return;
  x0 = max(x0, L.firstX(layer));
  x1 = min(x1, L.endX(layer));
  if (x0 >= x1) return;
  const row = <i32>v;
  const downQ15 = i16x8.splat(<i16>((v - <f64>row) * 32768));
  const offsets = L.gatherOffsets(layer);
  const left = load<i32>(offsets + (<usize>x0 << 2));
  const right = load<i32>(offsets + (<usize>(x1 - 1) << 2));
  const base = min(left, right);
  mixRows(layer, row, base, max(left, right) + 2 - base, downQ15, scratch);
  gather(layer, lanes, scratch - (<usize>base << 3), x0, x1);
}

function mixRows(layer: usize, row: i32, column: i32, texels: i32, downQ15: v128, to: usize): void {
  const stride = <usize>L.strideBytes(layer);
  let from = L.pixels(layer) + <usize>row * stride + (<usize>column << 2);
  const end = to + (<usize>texels << 3);
  do {
    v128.store(to, mix(loadPixels(from), loadPixels(from + stride), downQ15));
    from += 8;
    to += 16;
  } while (to < end);
}

function gather(layer: usize, lanes: usize, texels: usize, x0: i32, x1: i32): void {
  const opacity = L.opacityQ15(layer);
  let offset = L.gatherOffsets(layer) + (<usize>x0 << 2);
  let weight = L.gatherWeights(layer) + (<usize>x0 << 3);
  let to = lanes + (<usize>x0 << 3);
  const end = lanes + (<usize>x1 << 3);
  while (to + 16 <= end) {
    const p = v128.load(texels + (<usize>load<i32>(offset) << 3));
    const q = v128.load(texels + (<usize>load<i32>(offset, 4) << 3));
    const source = mix(v128.shuffle<i64>(p, q, 0, 2), v128.shuffle<i64>(p, q, 1, 3), v128.load(weight));
    if (v128.any_true(source)) over(to, fade(source, opacity));
    offset += 8;
    weight += 16;
    to += 16;
  }
  if (to < end) {
    const p = v128.load(texels + (<usize>load<i32>(offset) << 3));
    const source = mix(p, v128.shuffle<i64>(p, p, 1, 1), v128.load64_zero(weight));
    over(to, fade(v128.shuffle<i64>(source, i64x2.splat(0), 0, 2), opacity));
  }
}
