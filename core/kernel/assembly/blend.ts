// Modes by which a source is laid over what is there: W3C Compositing and Blending Level 1, sections 5.8 and 10.1, and
// plus-lighter. Premultiplied lanes: co = S·(1 − αb) + B·(1 − αs) + M, with M = αs·αb·B(cb, cs) of each mode written so that
// nothing is divided where it need not be. The formulas by themselves stand in ../../paint/blend.ts.

import { alphaBytes, fade, isFaded, minusOne, minusRest, opacityLanes, over, pick, shortfall, times } from './lanes';
import {
  MODE_COLOR_BURN,
  MODE_COLOR_DODGE,
  MODE_DARKEN,
  MODE_DIFFERENCE,
  MODE_EXCLUSION,
  MODE_HARD_LIGHT,
  MODE_LIGHTEN,
  MODE_MULTIPLY,
  MODE_OVERLAY,
  MODE_PAINT,
  MODE_PLUS_LIGHTER,
  MODE_SCREEN,
  MODE_SOFT_LIGHT,
  MODE_WITHIN,
} from './layout';

const FULL: f32 = 32640;

/** Lays `bytes` of lanes at `row` over those at `to`; `channel` and `softGain` are of distances to an edge alone. */
export function layOver(
  mode: i32,
  row: usize,
  to: usize,
  bytes: usize,
  opacityQ15: i32,
  channel: i32,
  softGain: f64,
): void {
  if (mode == MODE_WITHIN) return keepWithin(row + (<usize>channel << 1), to, bytes, <f32>softGain);
  const faded = isFaded(opacityQ15);
  const opacity = opacityLanes(opacityQ15);
  const end = row + bytes;
  if (mode == MODE_PAINT) {
    const minus1 = minusOne();
    const short = shortfall();
    const alphaAt = alphaBytes();
    for (; row < end; row += 16, to += 16) over(to, fade(v128.load(row), faded, opacity), minus1, short, alphaAt);
    return;
  }
  if (mode == MODE_COLOR_DODGE || mode == MODE_COLOR_BURN || mode == MODE_SOFT_LIGHT) {
    for (; row < end; row += 16, to += 16) {
      const source = fade(v128.load(row), faded, opacity);
      // Clear paint changes nothing.
      if (!v128.any_true(source)) continue;
      const there = v128.load(to);
      v128.store(to, divided(mode, source, there));
    }
    return;
  }
  for (; row < end; row += 16, to += 16) {
    const source = fade(v128.load(row), faded, opacity);
    if (!v128.any_true(source)) continue;
    v128.store(to, blended(mode, source, v128.load(to)));
  }
}

/** What is at `to` as far as the distances at `row` let it be: softEdgeAt() of ../../image/distance.ts. */
function keepWithin(row: usize, to: usize, bytes: usize, gain: f32): void {
  for (const end = to + bytes; to < end; row += 8, to += 8) {
    if (load<u64>(to) == 0) continue;
    const t = min<f32>(1, (<f32>load<u16>(row) / FULL) * gain);
    if (t >= 1) continue;
    const left = t * t * (<f32>3 - <f32>2 * t);
    const there = f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(v128.load64_zero(to)));
    const kept = f32x4.add(f32x4.mul(there, f32x4.splat(left)), f32x4.splat(0.5));
    const whole = i32x4.trunc_sat_f32x4_s(kept);
    v128.store64_lane(to, i16x8.narrow_i32x4_u(whole, whole), 0);
  }
}

/** The lanes of alpha. */
@inline function alphaLanes(): v128 {
  return i64x2.splat(0xffff000000000000);
}

/** x·v, of lanes. */
@inline function product(x: v128, minusRestOfV: v128): v128 {
  return i16x8.add(x, times(x, minusRestOfV));
}

/** Modes that multiply and add. Sums that leave 16 bits on the way come back into them. */
@inline function blended(mode: i32, s: v128, b: v128): v128 {
  const minus1 = minusOne();
  const short = shortfall();
  const alphaAt = alphaBytes();
  if (mode == MODE_PLUS_LIGHTER) return i16x8.min_s(i16x8.add_sat_s(s, b), i16x8.splat(32640));
  // −(1 − v) of the backdrop: S·(1 − B) is −times(S, minusB).
  const minusB = minusRest(b, minus1, short);
  if (mode == MODE_SCREEN) return i16x8.sub(b, times(s, minusB));
  const alphaS = pick(s, alphaAt);
  const alphaB = pick(b, alphaAt);
  const minusAs = minusRest(alphaS, minus1, short);
  const minusAb = minusRest(alphaB, minus1, short);
  const sOutside = times(s, minusAb);
  const bOutside = times(b, minusAs);
  // S·αb and B·αs: what of each lies within the other.
  const sInside = i16x8.add(s, sOutside);
  const bInside = i16x8.add(b, bOutside);
  let m: v128;
  if (mode == MODE_MULTIPLY) m = product(s, minusB);
  else if (mode == MODE_DARKEN) m = i16x8.min_s(sInside, bInside);
  else if (mode == MODE_LIGHTEN) m = i16x8.max_s(sInside, bInside);
  else if (mode == MODE_DIFFERENCE) {
    const apart = i16x8.sub(i16x8.max_s(sInside, bInside), i16x8.min_s(sInside, bInside));
    m = v128.bitselect(sInside, apart, alphaLanes());
  } else if (mode == MODE_EXCLUSION) {
    const both = product(s, minusB);
    m = v128.bitselect(sInside, i16x8.sub(i16x8.add(sInside, bInside), i16x8.shl(both, 1)), alphaLanes());
  } else {
    // Hard light by the source, overlay by the backdrop: 2·S·B where that is dark, else αs·αb − 2·(αb − B)·(αs − S).
    const dark =
      mode == MODE_HARD_LIGHT
        ? i16x8.le_s(s, i16x8.shr_s(alphaS, 1))
        : i16x8.le_s(b, i16x8.shr_s(alphaB, 1));
    const both = product(alphaS, minusAb);
    const rest = i16x8.sub(alphaB, b);
    const light = i16x8.sub(both, i16x8.shl(product(i16x8.sub(alphaS, s), minusRest(rest, minus1, short)), 1));
    m = v128.bitselect(i16x8.shl(product(s, minusB), 1), light, dark);
  }
  return within(i16x8.sub(i16x8.sub(m, sOutside), bOutside), alphaAt);
}

/** What rounding has taken past nothing, or past the alpha. */
@inline function within(lanes: v128, alphaAt: v128): v128 {
  const least = i16x8.max_s(lanes, i16x8.splat(0));
  const alpha = i16x8.min_s(pick(least, alphaAt), i16x8.splat(32640));
  return i16x8.min_s(least, alpha);
}

/** Modes that divide: two pixels as numbers from 0 to 1. */
function divided(mode: i32, s: v128, b: v128): v128 {
  const low = dividedPixel(mode, i32x4.extend_low_i16x8_u(s), i32x4.extend_low_i16x8_u(b));
  const high = dividedPixel(mode, i32x4.extend_high_i16x8_u(s), i32x4.extend_high_i16x8_u(b));
  return within(i16x8.narrow_i32x4_s(low, high), alphaBytes());
}

@inline function toShare(whole: v128): v128 {
  return f32x4.div(f32x4.convert_i32x4_s(whole), f32x4.splat(FULL));
}

@inline function dividedPixel(mode: i32, source: v128, there: v128): v128 {
  const s = toShare(source);
  const b = toShare(there);
  const alphaS = v128.shuffle<i32>(s, s, 3, 3, 3, 3);
  const alphaB = v128.shuffle<i32>(b, b, 3, 3, 3, 3);
  const one = f32x4.splat(1);
  const none = f32x4.splat(0);
  const both = f32x4.mul(alphaS, alphaB);
  let m: v128;
  if (mode == MODE_COLOR_DODGE) {
    const part = f32x4.div(f32x4.mul(f32x4.mul(alphaS, alphaS), b), f32x4.sub(alphaS, s));
    const kept = v128.bitselect(both, f32x4.pmin(part, both), f32x4.ge(s, alphaS));
    m = v128.bitselect(none, kept, f32x4.eq(b, none));
  } else if (mode == MODE_COLOR_BURN) {
    const part = f32x4.div(f32x4.mul(f32x4.mul(alphaS, alphaS), f32x4.sub(alphaB, b)), s);
    const kept = v128.bitselect(none, f32x4.sub(both, f32x4.pmin(part, both)), f32x4.eq(s, none));
    m = v128.bitselect(both, kept, f32x4.ge(b, alphaB));
  } else m = softLight(s, b, alphaS, alphaB, both);
  // Of the alpha, and where either is clear, it is what both cover.
  m = f32x4.replace_lane(m, 3, f32x4.extract_lane(both, 0));
  m = v128.bitselect(none, m, f32x4.eq(both, none));
  const outside = f32x4.add(f32x4.mul(s, f32x4.sub(one, alphaB)), f32x4.mul(b, f32x4.sub(one, alphaS)));
  const sum = f32x4.add(f32x4.mul(f32x4.add(outside, m), f32x4.splat(FULL)), f32x4.splat(0.5));
  return i32x4.trunc_sat_f32x4_s(sum);
}

@inline function softLight(s: v128, b: v128, alphaS: v128, alphaB: v128, both: v128): v128 {
  const one = f32x4.splat(1);
  const cs = f32x4.div(s, alphaS);
  const cb = f32x4.div(b, alphaB);
  const twice = f32x4.sub(f32x4.add(cs, cs), one);
  const quarter = f32x4.mul(
    f32x4.add(
      f32x4.mul(f32x4.sub(f32x4.mul(f32x4.splat(16), cb), f32x4.splat(12)), cb),
      f32x4.splat(4),
    ),
    cb,
  );
  const d = v128.bitselect(quarter, f32x4.sqrt(cb), f32x4.le(cb, f32x4.splat(0.25)));
  const darker = f32x4.add(cb, f32x4.mul(twice, f32x4.mul(cb, f32x4.sub(one, cb))));
  const lighter = f32x4.add(cb, f32x4.mul(twice, f32x4.sub(d, cb)));
  return f32x4.mul(both, v128.bitselect(darker, lighter, f32x4.le(cs, f32x4.splat(0.5))));
}

/** Lays the ground under `bytes` of lanes. */
export function layUnder(row: usize, bytes: usize, ground: v128): void {
  const minus1 = minusOne();
  const short = shortfall();
  const alphaAt = alphaBytes();
  for (const end = row + bytes; row < end; row += 16) {
    const there = v128.load(row);
    v128.store(row, i16x8.sub(there, times(ground, minusRest(pick(there, alphaAt), minus1, short))));
  }
}
