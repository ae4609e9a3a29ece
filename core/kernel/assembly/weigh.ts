// Weighing texels. Sources are bytes or 15-bit lanes; what is weighed is in 14-bit lanes (byte v is v·64), signed, since the
// kernel swings past its texels; `settled` ends that. Weights are Q14, two neighbours to 32 bits, as ../../picture/filter/filter.ts makes them.

import { pick, times } from './lanes';

/**
 * Masks that bring two texels side by side into pairs of the same channel: of bytes the first two and the last two of four, of
 * lanes two. In memory, like NUMBERS of lanes.ts.
 */
const PAIRS: usize = memory.data<u8>(
  [
    0, 128, 4, 128, 1, 128, 5, 128, 2, 128, 6, 128, 3, 128, 7, 128, 8, 128, 12, 128, 9, 128, 13, 128, 10, 128, 14, 128, 11,
    128, 15, 128, 0, 1, 8, 9, 2, 3, 10, 11, 4, 5, 12, 13, 6, 7, 14, 15,
  ],
  16,
);
@inline export function earlyBytes(): v128 {
  return v128.load(PAIRS);
}
@inline export function lateBytes(): v128 {
  return v128.load(PAIRS, 16);
}
@inline export function lanePairs(): v128 {
  return v128.load(PAIRS, 32);
}

/** The sums of four texels of bytes by four weights, times 2¹⁴. */
@inline export function weighFour(texels: v128, weights: usize, early: v128, late: v128): v128 {
  return i32x4.add(
    i32x4.dot_i16x8_s(pick(texels, early), v128.load32_splat(weights)),
    i32x4.dot_i16x8_s(pick(texels, late), v128.load32_splat(weights, 4)),
  );
}

/** The same of four texels of lanes at `texels`. */
@inline export function weighFourLanes(texels: usize, weights: usize, pairs: v128): v128 {
  return i32x4.add(
    i32x4.dot_i16x8_s(pick(v128.load(texels), pairs), v128.load32_splat(weights)),
    i32x4.dot_i16x8_s(pick(v128.load(texels, 16), pairs), v128.load32_splat(weights, 4)),
  );
}

/** What rounds sums of bytes, of 15-bit lanes and of 14-bit lanes; an opaque 14-bit lane. In memory for the same reason. */
const ROUNDERS: usize = memory.data<i32>(
  [128, 128, 128, 128, 16384, 16384, 16384, 16384, 8192, 8192, 8192, 8192, 0x3fc03fc0, 0x3fc03fc0, 0x3fc03fc0, 0x3fc03fc0],
  16,
);
@inline export function halfOfBytes(): v128 {
  return v128.load(ROUNDERS);
}
@inline export function halfOfWide(): v128 {
  return v128.load(ROUNDERS, 16);
}
@inline export function halfOfWeighed(): v128 {
  return v128.load(ROUNDERS, 32);
}
@inline export function opaque14(): v128 {
  return v128.load(ROUNDERS, 48);
}

/** Sums rounded to 14-bit lanes in 32 bits; the second as the functions above give it. */
@inline export function fromBytes(sum: v128, half: v128): v128 {
  return i32x4.shr_s(i32x4.add(sum, half), 8);
}
@inline export function fromWide(sum: v128, half: v128): v128 {
  return i32x4.shr_s(i32x4.add(sum, half), 15);
}
@inline export function fromWeighed(sum: v128, half: v128): v128 {
  return i32x4.shr_s(i32x4.add(sum, half), 14);
}

/** As many texels as there are weights, a multiple of four. */
export function weighBytes(texels: usize, weights: usize, taps: i32): v128 {
  let sum = i32x4.splat(0);
  for (let k = 0; k < taps; k += 4, texels += 16, weights += 8)
    sum = i32x4.add(sum, weighFour(v128.load(texels), weights, earlyBytes(), lateBytes()));
  return sum;
}
export function weighLanes(texels: usize, weights: usize, taps: i32): v128 {
  let sum = i32x4.splat(0);
  for (let k = 0; k < taps; k += 4, texels += 32, weights += 8)
    sum = i32x4.add(sum, weighFourLanes(texels, weights, lanePairs()));
  return sum;
}

/** What a texel at `at` adds, times its weight: bytes or 15-bit lanes. */
@inline export function weighOne(at: usize, isWide: bool, weight: i16): v128 {
  const lanes = isWide ? v128.load64_zero(at) : i16x8.extend_low_i8x16_u(v128.load32_zero(at));
  return i32x4.extmul_low_i16x8_s(lanes, i16x8.splat(weight));
}

/** Two weighed pixels as 15-bit lanes: alpha within 0 and 1, no colour below 0 or above its alpha. `opaque` as opaque14() gives it. */
@inline export function settled(lanes: v128, alphaAt: v128, opaque: v128): v128 {
  const above = i16x8.max_s(lanes, i16x8.splat(0));
  return i16x8.shl(i16x8.min_s(above, i16x8.min_s(pick(above, alphaAt), opaque)), 1);
}

/** The share of a row or of a pixel that lies on the image, in Q15, for `shared`. */
@inline export function shared(lanes: v128, shareQ15: i32): v128 {
  return shareQ15 >= 32768 ? lanes : times(lanes, i16x8.splat(<i16>shareQ15));
}
