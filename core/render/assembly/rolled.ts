import * as L from './layer';
import { emit, KEEP, LAY_OVER, loadPixels, mix } from './lanes';

/**
 * Texels are stepped through in 10.22 from a texel near the block: exact for whole steps, and within a block never
 * 2⁻¹⁷ texels off. ../layer-table.ts sees to it that a step is at most 8 texels, so that a block fits.
 */
const FRACTION: i32 = 22;
const ONE: f64 = 4194304;

/** The span of x in [x0, x1) for which 0 <= start + step·(x − x0) < limit, one pixel generous; as [low, high) in two halves. */
@inline function lowerX(start: i64, step: i64, limit: i64, x0: i32): i32 {
  if (step == 0) return x0;
  const edge = step > 0 ? <f64>-start / <f64>step : <f64>(limit - start) / <f64>step;
  return x0 + <i32>max(0, min(floor(edge) - 1, 1e8));
}
@inline function upperX(start: i64, step: i64, limit: i64, x0: i32, x1: i32): i32 {
  if (step == 0) return x1;
  const edge = step > 0 ? <f64>(limit - start) / <f64>step : <f64>-start / <f64>step;
  return x0 + <i32>min(<f64>(x1 - x0), max(ceil(edge) + 1, -1e8));
}

@inline function fixed(value: f64): i64 {
  return <i64>nearest(value * ONE);
}

@inline function inside(at: i64, limit: i64): bool {
  return at >= 0 && at < limit;
}

/** Columns [x0, x1), all of one block, of output row y of a layer at any angle. */
export function drawRolled(layer: usize, lanes: usize, x0: i32, x1: i32, y: i32, mode: i32): void {
  const x = <f64>x0;
  let u = fixed(L.uPerX(layer) * x + L.uPerY(layer) * <f64>y + L.uAtOrigin(layer));
  let v = fixed(L.vPerX(layer) * x + L.vPerY(layer) * <f64>y + L.vAtOrigin(layer));
  const du = fixed(L.uPerX(layer));
  const dv = fixed(L.vPerX(layer));
  const uLimit = <i64>(L.widthPx(layer) + 1) << FRACTION;
  const vLimit = <i64>(L.heightPx(layer) + 1) << FRACTION;
  let first = x0;
  let end = x1;
  const steps = <i64>(x1 - 1 - x0);
  // Along a row the image is one piece: where both ends are in it, all is.
  if (!(inside(u, uLimit) && inside(v, vLimit) && inside(u + du * steps, uLimit) && inside(v + dv * steps, vLimit))) {
    first = max(lowerX(u, du, uLimit, x0), lowerX(v, dv, vLimit, x0));
    end = min(upperX(u, du, uLimit, x0, x1), upperX(v, dv, vLimit, x0, x1));
    while (first < end && !(inside(u + du * <i64>(first - x0), uLimit) && inside(v + dv * <i64>(first - x0), vLimit))) first++;
    while (first < end && !(inside(u + du * <i64>(end - 1 - x0), uLimit) && inside(v + dv * <i64>(end - 1 - x0), vLimit))) end--;
    if (first >= end) return;
    u += du * <i64>(first - x0);
    v += dv * <i64>(first - x0);
  }
  const last = <i64>(end - 1 - first);
  const column = min(u, u + du * last) >> FRACTION;
  const row = min(v, v + dv * last) >> FRACTION;
  const near = L.pixels(layer) + <usize>row * <usize>L.strideBytes(layer) + (<usize>column << 2);
  const uNear = <i32>(u - (column << FRACTION));
  const vNear = <i32>(v - (row << FRACTION));
  if (mode == KEEP) step(layer, lanes, first, end, near, uNear, vNear, <i32>du, <i32>dv, KEEP);
  else step(layer, lanes, first, end, near, uNear, vNear, <i32>du, <i32>dv, LAY_OVER);
}

/** start, start + by, start + 2·by, start + 3·by. */
@inline function four(start: i32, by: i32): v128 {
  return i32x4.add(i32x4.splat(start), i32x4.mul(i32x4.splat(by), i32x4(0, 1, 2, 3)));
}

/** The fractions of four places as Q15, each twice over in its 32 bits. */
@inline function fractions(at: v128): v128 {
  const q15 = v128.and(i32x4.shr_u(at, 7), i32x4.splat(0x7fff));
  return v128.or(q15, i32x4.shl(q15, 16));
}

/** The two texel columns at `at`, mixed down: left pixel in the low half, right pixel in the high half. */
@inline function columnPair(at: usize, stride: usize, down: v128): v128 {
  return mix(loadPixels(at), loadPixels(at + stride), down);
}

@inline function step(
  layer: usize,
  lanes: usize,
  first: i32,
  end: i32,
  near: usize,
  uNear: i32,
  vNear: i32,
  du: i32,
  dv: i32,
  mode: i32,
): void {
  const stride = L.strideBytes(layer);
  const opacity = L.opacityQ15(layer);
  const strides = i32x4.splat(stride);
  const start = i32x4.splat(<i32>near);
  const uStep = i32x4.splat(du << 2);
  const vStep = i32x4.splat(dv << 2);
  let u = four(uNear, du);
  let v = four(vNear, dv);
  let to = lanes + (<usize>first << 3);
  const stop = lanes + (<usize>end << 3);
  while (to < stop) {
    const rows = i32x4.mul(i32x4.shr_u(v, FRACTION), strides);
    const columns = i32x4.shl(i32x4.shr_u(u, FRACTION), 2);
    const at = i32x4.add(start, i32x4.add(rows, columns));
    const across = fractions(u);
    const down = fractions(v);
    u = i32x4.add(u, uStep);
    v = i32x4.add(v, vStep);
    const p = columnPair(<usize>i32x4.extract_lane(at, 0), stride, v128.shuffle<i32>(down, down, 0, 0, 0, 0));
    if (to + 16 > stop) {
      const one = mix(p, v128.shuffle<i64>(p, p, 1, 1), v128.shuffle<i32>(across, across, 0, 0, 0, 0));
      emit(to, v128.shuffle<i64>(one, i64x2.splat(0), 0, 2), opacity, mode);
      return;
    }
    const q = columnPair(<usize>i32x4.extract_lane(at, 1), stride, v128.shuffle<i32>(down, down, 1, 1, 1, 1));
    const early = mix(
      v128.shuffle<i64>(p, q, 0, 2),
      v128.shuffle<i64>(p, q, 1, 3),
      v128.shuffle<i32>(across, across, 0, 0, 1, 1),
    );
    if (mode == KEEP || v128.any_true(early)) emit(to, early, opacity, mode);
    if (to + 16 == stop) return;
    const r = columnPair(<usize>i32x4.extract_lane(at, 2), stride, v128.shuffle<i32>(down, down, 2, 2, 2, 2));
    if (to + 32 > stop) {
      const one = mix(r, v128.shuffle<i64>(r, r, 1, 1), v128.shuffle<i32>(across, across, 2, 2, 2, 2));
      emit(to + 16, v128.shuffle<i64>(one, i64x2.splat(0), 0, 2), opacity, mode);
      return;
    }
    const s = columnPair(<usize>i32x4.extract_lane(at, 3), stride, v128.shuffle<i32>(down, down, 3, 3, 3, 3));
    const late = mix(
      v128.shuffle<i64>(r, s, 0, 2),
      v128.shuffle<i64>(r, s, 1, 3),
      v128.shuffle<i32>(across, across, 2, 2, 3, 3),
    );
    if (mode == KEEP || v128.any_true(late)) emit(to + 16, late, opacity, mode);
    to += 32;
  }
}
