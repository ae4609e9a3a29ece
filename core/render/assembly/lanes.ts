// Pixels are accumulated in 15-bit lanes: 8-bit value v is v·128 (0 … 32 640), two pixels to a vector.

/** Eight bytes (two RGBA pixels) to lanes. */
@inline export function loadPixels(at: usize): v128 {
  return i16x8.shl(v128.load8x8_u(at), 7);
}

/** from + (to − from)·weight, weight in Q15 (0 … 32 767). */
@inline export function mix(from: v128, to: v128, weightQ15: v128): v128 {
  return i16x8.add(from, i16x8.q15mulr_sat_s(i16x8.sub(to, from), weightQ15));
}

/**
 * Source-over of two premultiplied pixels on those at `at` (W3C Compositing and Blending Level 1, section 5.1).
 * −(1 − α) in Q15 is found from α·32 640/32 768 so that 0 and 1 are exact: clear paint changes nothing and opaque
 * paint leaves nothing of what was there.
 */
@inline export function over(at: usize, source: v128): void {
  const alpha = v128.shuffle<i8>(source, source, 6, 7, 6, 7, 6, 7, 6, 7, 14, 15, 14, 15, 14, 15, 14, 15);
  const widened = i16x8.add(i16x8.add(alpha, i16x8.shr_s(alpha, 8)), i16x8.shr_s(alpha, 14));
  const minusRest = i16x8.add(widened, i16x8.splat(-32768));
  v128.store(at, i16x8.sub(source, i16x8.q15mulr_sat_s(v128.load(at), minusRest)));
}

/** Screen of two premultiplied pixels: s + d − s·d in every value, the alpha too. */
@inline export function screen(at: usize, source: v128): void {
  const widened = i16x8.add(i16x8.add(source, i16x8.shr_s(source, 8)), i16x8.shr_s(source, 14));
  const minusRest = i16x8.add(widened, i16x8.splat(-32768));
  v128.store(at, i16x8.sub(source, i16x8.q15mulr_sat_s(v128.load(at), minusRest)));
}

/** Where a source goes: laid over the row, or kept as it is for more to be done with it. */
export const LAY_OVER: i32 = 0;
export const KEEP: i32 = 1;

@inline export function emit(at: usize, source: v128, opacityQ15: i32, mode: i32): void {
  if (mode == KEEP) v128.store(at, source);
  else over(at, fade(source, opacityQ15));
}

@inline export function fade(source: v128, opacityQ15: i32): v128 {
  return opacityQ15 >= 32768 ? source : i16x8.q15mulr_sat_s(source, i16x8.splat(<i16>opacityQ15));
}

const HALF: i16 = 64;
/** An opaque lane: 255·128. */
const FULL: i32 = 32640;

/** Rows of an 8 × 8 ordered dither (Bayer 1973), as thresholds of 1/128 level, kept off 0 and 128 by 8. */
const THRESHOLDS: usize = memory.data<u8>([
  8, 92, 29, 113, 13, 97, 34, 118, 64, 36, 85, 57, 69, 41, 90, 62, 22, 106, 15, 99, 27, 111, 20, 104, 78, 50, 71, 43,
  83, 55, 76, 48, 11, 95, 32, 116, 10, 94, 31, 115, 67, 39, 88, 60, 66, 38, 87, 59, 25, 109, 18, 102, 24, 108, 17, 101,
  81, 53, 74, 46, 80, 52, 73, 45,
]);

/** Four pixels from `lanes`, the same threshold for the four values of a pixel. */
@inline function thresholds(row: usize, x: i32): v128 {
  const p = i16x8.splat(<i16>load<u8>(row + <usize>(x & 7)));
  const q = i16x8.splat(<i16>load<u8>(row + <usize>((x + 1) & 7)));
  return v128.shuffle<i64>(p, q, 0, 2);
}

/**
 * As packRow, but rounding up or down by an ordered pattern instead of to the nearest, so that slow gradients do not
 * band. Whole levels come out as they are, whatever the threshold.
 */
export function packRowDithered(lanes: usize, out: usize, width: i32, y: i32): void {
  const row = THRESHOLDS + (<usize>(y & 7) << 3);
  for (let x = 0; x < width; x += 2) {
    const sum = i16x8.shr_s(i16x8.add_sat_s(v128.load(lanes), thresholds(row, x)), 7);
    const bytes = i8x16.narrow_i16x8_u(sum, sum);
    if (x + 1 < width) store<i64>(out, i64x2.extract_lane(bytes, 0));
    else store<i32>(out, i32x4.extract_lane(bytes, 0));
    lanes += 16;
    out += 8;
  }
}

/** Lanes to bytes, rounded once, for one output row of `width` pixels. */
export function packRow(lanes: usize, out: usize, width: i32): void {
  const half = i16x8.splat(HALF);
  let x = 0;
  for (; x + 4 <= width; x += 4) {
    const low = i16x8.shr_s(i16x8.add(v128.load(lanes), half), 7);
    const high = i16x8.shr_s(i16x8.add(v128.load(lanes, 16), half), 7);
    v128.store(out, i8x16.narrow_i16x8_u(low, high));
    lanes += 32;
    out += 16;
  }
  for (; x < width; x++) {
    const one = i16x8.shr_s(i16x8.add(v128.load64_zero(lanes), half), 7);
    store<i32>(out, i32x4.extract_lane(i8x16.narrow_i16x8_u(one, one), 0));
    lanes += 8;
    out += 4;
  }
}

/** Straight-alpha bytes, each value rounded once from its lanes; with `dither` by the ordered pattern. */
export function packStraight(lanes: usize, out: usize, width: i32, y: i32, dither: bool): void {
  const row = THRESHOLDS + (<usize>(y & 7) << 3);
  for (let x = 0; x < width; x++, lanes += 8, out += 4) {
    const a = <i32>load<u16>(lanes, 6);
    // Most pictures are opaque nearly everywhere: two pixels at once, as packRow does it.
    if (a == FULL && x + 1 < width && <i32>load<u16>(lanes, 14) == FULL) {
      const rounding = dither ? thresholds(row, x) : i16x8.splat(HALF);
      const sum = i16x8.shr_s(i16x8.add_sat_s(v128.load(lanes), rounding), 7);
      store<i64>(out, i64x2.extract_lane(i8x16.narrow_i16x8_u(sum, sum), 0));
      x++;
      lanes += 8;
      out += 4;
      continue;
    }
    const half = dither ? <f64>load<u8>(row + <usize>(x & 7)) / 128 : 0.5;
    const alpha = min(255, <i32>(<f64>a / 128 + half));
    // Where nothing is left of the alpha there is no colour either.
    if (alpha == 0) {
      store<u32>(out, 0);
      continue;
    }
    const k = 255 / <f64>a;
    store<u8>(out, min(255, <i32>(<f64>load<u16>(lanes) * k + half)));
    store<u8>(out, min(255, <i32>(<f64>load<u16>(lanes, 2) * k + half)), 1);
    store<u8>(out, min(255, <i32>(<f64>load<u16>(lanes, 4) * k + half)), 2);
    store<u8>(out, alpha, 3);
  }
}

/** Straight-alpha 16-bit values: the lanes themselves, stretched from 32 640 to 65 535. */
export function packStraight16(lanes: usize, out: usize, width: i32): void {
  for (let x = 0; x < width; x++, lanes += 8, out += 8) {
    const a = <i32>load<u16>(lanes, 6);
    if (a == 0) {
      store<u64>(out, 0);
      continue;
    }
    const k = 65535 / <f64>a;
    store<u16>(out, <u16>min(65535, <i32>(<f64>load<u16>(lanes) * k + 0.5)));
    store<u16>(out, <u16>min(65535, <i32>(<f64>load<u16>(lanes, 2) * k + 0.5)), 2);
    store<u16>(out, <u16>min(65535, <i32>(<f64>load<u16>(lanes, 4) * k + 0.5)), 4);
    store<u16>(out, <u16>(<f64>a * (65535.0 / 32640.0) + 0.5), 6);
  }
}

export function fillRow(lanes: usize, width: i32, background: v128): void {
  for (let x = 0; x < width; x += 2) v128.store(lanes + (<usize>x << 3), background);
}
