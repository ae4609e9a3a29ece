// Pixels are accumulated in 15-bit lanes: 8-bit value v is v·128 (0 … 32 640), two pixels to a vector.

/**
 * value·weight/32 768 of eight lanes, rounded. Where the processor may have its way with −32 768 · −32 768, which no two
 * of ours ever are, this is one instruction instead of three (Relaxed SIMD, WebAssembly 3.0); all else is the same.
 */
@inline export function times(values: v128, weightsQ15: v128): v128 {
  if (ASC_FEATURE_RELAXED_SIMD) return i16x8.relaxed_q15mulr_s(values, weightsQ15);
  return i16x8.q15mulr_sat_s(values, weightsQ15);
}

/** from + (to − from)·weight, weight in Q15 (0 … 32 767). */
@inline export function mix(from: v128, to: v128, weightQ15: v128): v128 {
  return i16x8.add(from, times(i16x8.sub(to, from), weightQ15));
}

/**
 * What laying over counts with. Loaded before a loop: engines make a constant of the code anew at each use, which takes
 * the same part of the processor as shuffling and more of its time than the sum that it is for.
 */
const NUMBERS: usize = memory.data<u8>(
  [
    0, 128, 0, 128, 0, 128, 0, 128, 0, 128, 0, 128, 0, 128, 0, 128, 129, 0, 129, 0, 129, 0, 129, 0, 129, 0, 129, 0, 129,
    0, 129, 0, 6, 7, 6, 7, 6, 7, 6, 7, 14, 15, 14, 15, 14, 15, 14, 15,
  ],
  16,
);
/** −32 768 in all lanes. */
@inline export function minusOne(): v128 {
  return v128.load(NUMBERS);
}
/** 32 768²/32 640 − 32 768 in all lanes: what lanes fall short of Q15 by. */
@inline export function shortfall(): v128 {
  return v128.load(NUMBERS, 16);
}
/** For every byte of two pixels the byte of their alpha. */
@inline export function alphaBytes(): v128 {
  return v128.load(NUMBERS, 32);
}

/** The bytes of `from` that `places` names; 0 where it names none, with 128. */
@inline export function pick(from: v128, places: v128): v128 {
  if (ASC_FEATURE_RELAXED_SIMD) return i8x16.relaxed_swizzle(from, places);
  return i8x16.swizzle(from, places);
}

/** −(1 − value) in Q15, value · 32 768/32 640 − 32 768: exact where the value is 0 or 1. */
@inline export function minusRest(values: v128, minus1: v128, short: v128): v128 {
  return i16x8.add(i16x8.add(values, minus1), times(values, short));
}

/**
 * Source-over of two premultiplied pixels on those at `at` (W3C Compositing and Blending Level 1, section 5.1): clear
 * paint changes nothing, and opaque paint leaves nothing of what was there. The last three as minusOne() and so on give.
 */
@inline export function over(at: usize, source: v128, minus1: v128, short: v128, alphaAt: v128): void {
  const rest = minusRest(pick(source, alphaAt), minus1, short);
  v128.store(at, i16x8.sub(source, times(v128.load(at), rest)));
}

/** Lays over, faded by the opacity where it is `faded`; the rest as minusOne() and so on give. */
@inline export function overFaded(
  at: usize,
  source: v128,
  faded: bool,
  opacity: v128,
  minus1: v128,
  short: v128,
  alphaAt: v128,
): void {
  over(at, fade(source, faded, opacity), minus1, short, alphaAt);
}

@inline export function isFaded(opacityQ15: i32): bool {
  return opacityQ15 < 32768;
}
/** The opacity for `fade`. */
@inline export function opacityLanes(opacityQ15: i32): v128 {
  return i16x8.splat(<i16>min(opacityQ15, 32767));
}

@inline export function fade(source: v128, faded: bool, opacity: v128): v128 {
  return faded ? times(source, opacity) : source;
}

/** Whether any lane is not 0. */
@inline export function marks(lanes: v128): bool {
  return v128.any_true(lanes);
}

export function fillRow(lanes: usize, width: i32, background: v128): void {
  for (let x = 0; x < width; x += 2) v128.store(lanes + (<usize>x << 3), background);
}
