import * as L from './layer';
import { emit, KEEP, LAY_OVER, loadPixels, mix } from './lanes';

const ONE: f64 = 4294967296;

/** The span of x in [x0, x1) for which 0 <= start + step·x < limit, one pixel generous; as [low, high) in two halves. */
@inline function lowerX(start: f64, step: f64, limit: f64, x0: i32): i32 {
  if (step == 0) return x0;
  const edge = step > 0 ? -start / step : (limit - start) / step;
  return <i32>max(<f64>x0, min(floor(edge) - 1, 1e9));
}
@inline function upperX(start: f64, step: f64, limit: f64, x1: i32): i32 {
  if (step == 0) return x1;
  const edge = step > 0 ? (limit - start) / step : -start / step;
  return <i32>min(<f64>x1, max(ceil(edge) + 1, -1e9));
}

/** Columns [x0, x1) of output row y of a layer at any angle, stepping in 32.32 so that nothing drifts. */
export function drawRolled(layer: usize, lanes: usize, x0: i32, x1: i32, y: i32, mode: i32): void {
  const uStart = L.uPerY(layer) * <f64>y + L.uAtOrigin(layer);
  const vStart = L.vPerY(layer) * <f64>y + L.vAtOrigin(layer);
  const uLimit = L.widthPx(layer) + 1;
  const vLimit = L.heightPx(layer) + 1;
  let first = max(lowerX(uStart, L.uPerX(layer), <f64>uLimit, x0), lowerX(vStart, L.vPerX(layer), <f64>vLimit, x0));
  let end = min(upperX(uStart, L.uPerX(layer), <f64>uLimit, x1), upperX(vStart, L.vPerX(layer), <f64>vLimit, x1));
  const du = <i64>(L.uPerX(layer) * ONE);
  const dv = <i64>(L.vPerX(layer) * ONE);
  const u0 = <i64>(uStart * ONE);
  const v0 = <i64>(vStart * ONE);
  while (first < end && !inside(u0 + du * <i64>first, v0 + dv * <i64>first, uLimit, vLimit)) first++;
  while (first < end && !inside(u0 + du * <i64>(end - 1), v0 + dv * <i64>(end - 1), uLimit, vLimit)) end--;
  if (first >= end) return;
  const u = u0 + du * <i64>first;
  const v = v0 + dv * <i64>first;
  if (mode == KEEP) step(layer, lanes, first, end, u, v, du, dv, KEEP);
  else step(layer, lanes, first, end, u, v, du, dv, LAY_OVER);
}

@inline function inside(u: i64, v: i64, uLimit: i32, vLimit: i32): bool {
  return u >= 0 && v >= 0 && <i64>(u >> 32) < <i64>uLimit && <i64>(v >> 32) < <i64>vLimit;
}

/** The two texel columns at (u, v), mixed down: left pixel in the low half, right pixel in the high half. */
@inline function columnPair(pixels: usize, stride: usize, u: i64, v: i64): v128 {
  const at = pixels + <usize>(v >> 32) * stride + (<usize>(u >> 32) << 2);
  return mix(loadPixels(at), loadPixels(at + stride), i16x8.splat(<i16>((v >> 17) & 0x7fff)));
}

@inline function step(layer: usize, lanes: usize, first: i32, end: i32, u: i64, v: i64, du: i64, dv: i64, mode: i32): void {
  const pixels = L.pixels(layer);
  const stride = <usize>L.strideBytes(layer);
  const opacity = L.opacityQ15(layer);
  let to = lanes + (<usize>first << 3);
  const stop = lanes + (<usize>end << 3);
  while (to + 16 <= stop) {
    const p = columnPair(pixels, stride, u, v);
    const acrossP = i16x8.splat(<i16>((u >> 17) & 0x7fff));
    u += du;
    v += dv;
    const q = columnPair(pixels, stride, u, v);
    const acrossQ = i16x8.splat(<i16>((u >> 17) & 0x7fff));
    u += du;
    v += dv;
    const across = v128.shuffle<i64>(acrossP, acrossQ, 0, 2);
    const source = mix(v128.shuffle<i64>(p, q, 0, 2), v128.shuffle<i64>(p, q, 1, 3), across);
    if (mode == KEEP || v128.any_true(source)) emit(to, source, opacity, mode);
    to += 16;
  }
  if (to < stop) {
    const p = columnPair(pixels, stride, u, v);
    const source = mix(p, v128.shuffle<i64>(p, p, 1, 1), i16x8.splat(<i16>((u >> 17) & 0x7fff)));
    emit(to, v128.shuffle<i64>(source, i64x2.splat(0), 0, 2), opacity, mode);
  }
}
