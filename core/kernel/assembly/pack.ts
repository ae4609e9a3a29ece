// From lanes to what is written, each value rounded once.

/** What is written, RGBA: 8 bit premultiplied, 8 bit straight, the lanes themselves, or else 16 bit straight; or red alone. */
const PREMULTIPLIED8: i32 = 0;
const STRAIGHT8: i32 = 1;
const LANES15: i32 = 3;
const RED8: i32 = 4;

/** Columns [x0, x1) of row y, whose wide pixel x lies at lanes + 8·x, to an image of `width` at `out`; x0 a multiple of 8. */
export function pack(
  lanes: usize,
  out: usize,
  width: i32,
  x0: i32,
  x1: i32,
  y: i32,
  format: i32,
  dither: bool,
): void {
  const from = lanes + (<usize>x0 << 3);
  const place = <usize>y * <usize>width + <usize>x0;
  const count = x1 - x0;
  if (format == PREMULTIPLIED8) {
    if (dither) packRowDithered(from, out + place * 4, count, y);
    else packRow(from, out + place * 4, count);
  } else if (format == STRAIGHT8) packStraight(from, out + place * 4, count, y, dither);
  else if (format == LANES15) memory.copy(out + place * 8, from, <usize>count << 3);
  else if (format == RED8) packRed(from, out + place, count);
  else packStraight16(from, out + place * 8, count, y, dither);
}

const HALF: i16 = 64;
/** An opaque lane: 255·128. */
const FULL: i16 = 32640;

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
function packRowDithered(lanes: usize, out: usize, width: i32, y: i32): void {
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
function packRow(lanes: usize, out: usize, width: i32): void {
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

/** What the rounding of many planes over opaque paint may have taken off its alpha, 1/16 of a byte's step. */
const ROUNDED_OFF: i16 = 8;
/** The lanes of a vector that hold no alpha. */
const COLOURS: v128 = i16x8(-1, -1, -1, 0, -1, -1, -1, 0);

/** Straight-alpha bytes, each value rounded once from its lanes; with `dither` by the ordered pattern. */
function packStraight(lanes: usize, out: usize, width: i32, y: i32, dither: bool): void {
  const row = THRESHOLDS + (<usize>(y & 7) << 3);
  const half = i16x8.splat(HALF);
  const full = i16x8.splat(FULL - ROUNDED_OFF);
  let x = 0;
  while (x < width) {
    // Most pictures are opaque or clear nearly everywhere: four pixels at once, as packRow does it.
    if (x + 4 <= width) {
      const p = v128.load(lanes);
      const q = v128.load(lanes, 16);
      const whole = v128.and(i16x8.ge_s(p, full), i16x8.ge_s(q, full));
      if (i16x8.all_true(v128.or(whole, COLOURS))) {
        const low = i16x8.shr_s(i16x8.add_sat_s(p, dither ? thresholds(row, x) : half), 7);
        const high = i16x8.shr_s(i16x8.add_sat_s(q, dither ? thresholds(row, x + 2) : half), 7);
        v128.store(out, i8x16.narrow_i16x8_u(low, high));
        x += 4;
        lanes += 32;
        out += 16;
        continue;
      }
      if (!v128.any_true(v128.or(p, q))) {
        v128.store(out, i64x2.splat(0));
        x += 4;
        lanes += 32;
        out += 16;
        continue;
      }
    }
    // The other four, or what is left of the row.
    const end = min(width, x + 4);
    for (; x < end; x++, lanes += 8, out += 4) {
      store<u32>(out, straightPixel(lanes, dither ? <f64>load<u8>(row + <usize>(x & 7)) / 128 : 0.5));
    }
  }
}

/** The alpha of a pixel: opaque where it is so but for rounding, whatever lies beside it. */
@inline function alphaOf(lanes: usize): i32 {
  const alpha = <i32>load<u16>(lanes, 6);
  return alpha >= FULL - ROUNDED_OFF ? FULL : alpha;
}

/** The red of each pixel as a byte, premultiplied and to the nearest: a matte is not dithered. */
function packRed(lanes: usize, out: usize, width: i32): void {
  const half = i16x8.splat(HALF);
  let x = 0;
  for (; x + 8 <= width; x += 8) {
    const left = v128.shuffle<i16>(v128.load(lanes), v128.load(lanes, 16), 0, 4, 8, 12, 0, 4, 8, 12);
    const right = v128.shuffle<i16>(v128.load(lanes, 32), v128.load(lanes, 48), 0, 4, 8, 12, 0, 4, 8, 12);
    const reds = i16x8.shr_s(i16x8.add_sat_s(v128.shuffle<i64>(left, right, 0, 2), half), 7);
    store<i64>(out + <usize>x, i64x2.extract_lane(i8x16.narrow_i16x8_u(reds, reds), 0));
    lanes += 64;
  }
  for (; x < width; x++, lanes += 8)
    store<u8>(out + <usize>x, <u8>min(255, (<i32>load<u16>(lanes) + HALF) >> 7));
}

function straightPixel(lanes: usize, half: f64): u32 {
  const a = alphaOf(lanes);
  const alpha = min(255, <i32>(<f64>a / 128 + half));
  // Where nothing is left of the alpha there is no colour either.
  if (alpha == 0) return 0;
  const k = 255 / <f64>a;
  const r = min(255, <i32>(<f64>load<u16>(lanes) * k + half));
  const g = min(255, <i32>(<f64>load<u16>(lanes, 2) * k + half));
  const b = min(255, <i32>(<f64>load<u16>(lanes, 4) * k + half));
  return r | (g << 8) | (b << 16) | (alpha << 24);
}

/** Straight-alpha 16-bit values: the lanes themselves, stretched from 32 640 to 65 535; with `dither` by the same pattern. */
function packStraight16(lanes: usize, out: usize, width: i32, y: i32, dither: bool): void {
  const row = THRESHOLDS + (<usize>(y & 7) << 3);
  for (let x = 0; x < width; x++, lanes += 8, out += 8) {
    const half = dither ? <f64>load<u8>(row + <usize>(x & 7)) / 128 : 0.5;
    const a = alphaOf(lanes);
    if (a == 0) {
      store<u64>(out, 0);
      continue;
    }
    const k = 65535 / <f64>a;
    store<u16>(out, <u16>min(65535, <i32>(<f64>load<u16>(lanes) * k + half)));
    store<u16>(out, <u16>min(65535, <i32>(<f64>load<u16>(lanes, 2) * k + half)), 2);
    store<u16>(out, <u16>min(65535, <i32>(<f64>load<u16>(lanes, 4) * k + half)), 4);
    store<u16>(out, <u16>min(65535, <i32>(<f64>a * (65535.0 / 32640.0) + half)), 6);
  }
}
