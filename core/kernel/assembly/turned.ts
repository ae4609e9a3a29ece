import * as L from './layer';
import {
  alphaBytes,
  isFaded,
  lefts,
  marks,
  minusOne,
  mix,
  opacityLanes,
  overFaded,
  rights,
  shortfall,
} from './lanes';
import { BEFORE_WINDOW, fillWindow, WINDOW, WINDOW_PITCH, WINDOW_SHIFT } from './window';

/**
 * Texels are stepped through in fixed point with 22 bits of fraction, from the left edge of a block: exact for whole
 * steps, and within a block never 2⁻¹⁷ texels off. ../layer-table.ts sees to it that a step is at most 8 texels.
 */
const FRACTION: i32 = 22;
const ONE: f64 = 4194304;
/** 1.5 · 2⁵²: a number below 2⁵¹ that is added to it is rounded to a whole one, which its last bits then hold. */
const ROUNDER: f64 = 6755399441055744;
const ROUNDER_BITS: i64 = 0x4338000000000000;

@inline function fixed(value: f64): i64 {
  return reinterpret<i64>(value * ONE + ROUNDER) - ROUNDER_BITS;
}

/** Where column x (in both lanes) of row y reads, in fixed point: u and v. */
@inline function placeAt(layer: usize, x: v128, y: i32): v128 {
  const place = f64x2.add(
    f64x2.add(f64x2.mul(v128.load(layer), x), f64x2.mul(v128.load(layer, 16), f64x2.splat(<f64>y))),
    v128.load(layer, 32),
  );
  return i64x2.sub(f64x2.add(f64x2.mul(place, f64x2.splat(ONE)), f64x2.splat(ROUNDER)), i64x2.splat(ROUNDER_BITS));
}

@inline function u(place: v128): i64 {
  return i64x2.extract_lane(place, 0);
}
@inline function v(place: v128): i64 {
  return i64x2.extract_lane(place, 1);
}

/**
 * Columns [x0, x1) of rows [top, bottom) of a layer at any angle: pixel (x0, top) lies at `to`, the next row `pitch` bytes
 * on. `blockX` is the left edge of the block that they belong to, from which all of it is counted.
 */
export function drawTurned(
  layer: usize,
  to: usize,
  pitch: usize,
  window: usize,
  blockX: i32,
  x0: i32,
  x1: i32,
  top: i32,
  bottom: i32,
  keeps: bool,
): void {
  const du = fixed(L.uPerX(layer));
  const dv = fixed(L.vPerX(layer));
  const x = f64x2.splat(<f64>blockX);
  const intoBlock = <i64>(x0 - blockX);
  const shift = i64x2.replace_lane(i64x2.splat(du * intoBlock), 1, dv * intoBlock);
  const first = i64x2.add(placeAt(layer, x, top), shift);
  const final = i64x2.add(placeAt(layer, x, bottom - 1), shift);
  const steps = <i64>(x1 - 1 - x0);
  const limitU = <i64>(L.widthPx(layer) + 1) << FRACTION;
  const limitV = <i64>(L.heightPx(layer) + 1) << FRACTION;
  // One unit for each row: between the first and the last they are rounded each by itself.
  const left = min(u(first), u(final)) + min(du * steps, 0) - 1;
  const right = max(u(first), u(final)) + max(du * steps, 0) + 1;
  const high = min(v(first), v(final)) + min(dv * steps, 0) - 1;
  const low = max(v(first), v(final)) + max(dv * steps, 0) + 1;
  if (right < 0 || low < 0 || left >= limitU || high >= limitV) return;
  const column = max(left, 0) >> FRACTION;
  const row = max(high, 0) >> FRACTION;
  const columns = <i32>((min(right, limitU - 1) >> FRACTION) - column) + 2;
  const rows = <i32>((min(low, limitV - 1) >> FRACTION) - row) + 2;
  if (columns > WINDOW || rows > WINDOW) {
    drawParts(layer, to, pitch, window, blockX, x0, x1, top, bottom, keeps);
    return;
  }
  const stride = <usize>L.strideBytes(layer);
  fillWindow(window, L.pixels(layer) + <usize>row * stride + (<usize>column << 2), stride, columns, rows);
  const whole = left >= 0 && high >= 0 && right < limitU && low < limitV;
  const toWindow = i64x2.replace_lane(i64x2.splat(column << FRACTION), 1, row << FRACTION);
  for (let y = top; y < bottom; y++, to += pitch) {
    const place = i64x2.add(placeAt(layer, x, y), shift);
    let from = x0;
    let end = x1;
    if (!whole) {
      from = max(lowerX(u(place), du, limitU, x0), lowerX(v(place), dv, limitV, x0));
      end = min(upperX(u(place), du, limitU, x0, x1), upperX(v(place), dv, limitV, x0, x1));
      while (from < end && !isInside(place, du, dv, from - x0, limitU, limitV)) from++;
      while (from < end && !isInside(place, du, dv, end - 1 - x0, limitU, limitV)) end--;
      if (from >= end) continue;
    }
    const skipped = <i64>(from - x0);
    const start = i64x2.sub(
      i64x2.add(place, i64x2.replace_lane(i64x2.splat(du * skipped), 1, dv * skipped)),
      toWindow,
    );
    const at = to + (<usize>(from - x0) << 3);
    if (keeps) step(layer, at, window, end - from, start, <i32>du, <i32>dv, true);
    else step(layer, at, window, end - from, start, <i32>du, <i32>dv, false);
  }
}

/** What does not fit a window, in halves. Four pixels of a row always fit. */
function drawParts(
  layer: usize,
  to: usize,
  pitch: usize,
  window: usize,
  blockX: i32,
  x0: i32,
  x1: i32,
  top: i32,
  bottom: i32,
  keeps: bool,
): void {
  if (bottom - top > 1 && (x1 - x0 <= 4 || bottom - top > x1 - x0)) {
    const y = (top + bottom) >> 1;
    drawTurned(layer, to, pitch, window, blockX, x0, x1, top, y, keeps);
    drawTurned(layer, to + <usize>(y - top) * pitch, pitch, window, blockX, x0, x1, y, bottom, keeps);
  } else {
    const x = x0 + max(4, ((x1 - x0) >> 3) << 2);
    drawTurned(layer, to, pitch, window, blockX, x0, x, top, bottom, keeps);
    drawTurned(layer, to + (<usize>(x - x0) << 3), pitch, window, blockX, x, x1, top, bottom, keeps);
  }
}

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

@inline function isInside(place: v128, du: i64, dv: i64, steps: i32, limitU: i64, limitV: i64): bool {
  const atU = u(place) + du * <i64>steps;
  const atV = v(place) + dv * <i64>steps;
  return atU >= 0 && atU < limitU && atV >= 0 && atV < limitV;
}

/** start, start + by, start + 2·by, start + 3·by. */
@inline function four(start: v128, by: i32): v128 {
  return i32x4.add(start, i32x4.mul(i32x4.splat(by), i32x4(0, 1, 2, 3)));
}

/** The fractions of four places as Q15, each twice over in its 32 bits. */
@inline function fractions(at: v128): v128 {
  const q15 = i32x4.shr_u(i32x4.shl(at, 32 - FRACTION), 17);
  return v128.or(q15, i32x4.shl(q15, 16));
}

/** Two texel columns mixed down, at the place that stands at `work`, by the weight that stands 16 bytes behind it. */
@inline function columnPair(work: usize): v128 {
  const at = <usize>load<u32>(work);
  return mix(v128.load(at), v128.load(at, WINDOW_PITCH), v128.load32_splat(work, 16));
}

/** `count` pixels at `to`, read in the window from `start` on. */
@inline function step(layer: usize, to: usize, window: usize, count: i32, start: v128, du: i32, dv: i32, keeps: bool): void {
  const faded = isFaded(L.opacityQ15(layer));
  const opacity = opacityLanes(L.opacityQ15(layer));
  const minus1 = minusOne();
  const short = shortfall();
  const alphaAt = alphaBytes();
  // Loaded rather than made from numbers, for the same reason as those: what is before the window is of this caller.
  const work = window - BEFORE_WINDOW;
  v128.store(work, i32x4.splat(<i32>window), 32);
  v128.store(work, i32x4.splat(du << 2), 48);
  v128.store(work, i32x4.splat(dv << 2), 64);
  const base = v128.load(work, 32);
  const uStep = v128.load(work, 48);
  const vStep = v128.load(work, 64);
  let us = four(v128.shuffle<i32>(start, start, 0, 0, 0, 0), du);
  let vs = four(v128.shuffle<i32>(start, start, 2, 2, 2, 2), dv);
  const stop = to + (<usize>count << 3);
  for (; to < stop; to += 32) {
    const rows = i32x4.shl(i32x4.shr_u(vs, FRACTION), WINDOW_SHIFT);
    const columns = i32x4.shl(i32x4.shr_u(us, FRACTION), 3);
    const across = fractions(us);
    v128.store(work, i32x4.add(base, i32x4.add(rows, columns)));
    v128.store(work, fractions(vs), 16);
    us = i32x4.add(us, uStep);
    vs = i32x4.add(vs, vStep);
    if (to + 32 > stop) {
      finish(layer, to, <i32>(stop - to) >> 3, work, across, keeps);
      return;
    }
    const p = columnPair(work);
    const q = columnPair(work + 4);
    const r = columnPair(work + 8);
    const s = columnPair(work + 12);
    const early = mix(lefts(p, q), rights(p, q), v128.shuffle<i32>(across, across, 0, 0, 1, 1));
    const late = mix(lefts(r, s), rights(r, s), v128.shuffle<i32>(across, across, 2, 2, 3, 3));
    if (keeps) {
      v128.store(to, early);
      v128.store(to, late, 16);
    } else if (marks(v128.or(early, late))) {
      overFaded(to, early, faded, opacity, minus1, short, alphaAt);
      overFaded(to + 16, late, faded, opacity, minus1, short, alphaAt);
    }
  }
}

/** The last one to three pixels of a row; what stands at `work` behind theirs may lie anywhere. */
function finish(layer: usize, to: usize, count: i32, work: usize, across: v128, keeps: bool): void {
  for (let i = 0; i < count; i++, to += 8) {
    const p = columnPair(work + (<usize>i << 2));
    const one = lefts(mix(p, rights(p, p), v128.shuffle<i32>(across, across, 0, 0, 0, 0)), i64x2.splat(0));
    across = v128.shuffle<i32>(across, across, 1, 2, 3, 0);
    if (keeps) v128.store64_lane(to, one, 0);
    else {
      const opacity = opacityLanes(L.opacityQ15(layer));
      overFaded(to, one, isFaded(L.opacityQ15(layer)), opacity, minusOne(), shortfall(), alphaBytes());
    }
  }
}
