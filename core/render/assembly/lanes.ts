// Pixels are accumulated in 15-bit lanes: 8-bit value v is v·128 (0 … 32 640), two pixels to a vector.

/** Eight bytes (two RGBA pixels) to lanes. */
@inline export function loadPixels(at: usize): v128 {
  return i16x8.shl(v128.load8x8_u(at), 7);
}

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

/** −(1 − value) in Q15, value · 32 768/32 640 − 32 768: exact where the value is 0 or 1. */
@inline function minusRest(values: v128): v128 {
  return i16x8.add(i16x8.add(values, i16x8.splat(-32768)), times(values, i16x8.splat(129)));
}

/**
 * Source-over of two premultiplied pixels on those at `at` (W3C Compositing and Blending Level 1, section 5.1): clear
 * paint changes nothing, and opaque paint leaves nothing of what was there.
 */
@inline export function over(at: usize, source: v128): void {
  const alpha = v128.shuffle<i8>(source, source, 6, 7, 6, 7, 6, 7, 6, 7, 14, 15, 14, 15, 14, 15, 14, 15);
  v128.store(at, i16x8.sub(source, times(v128.load(at), minusRest(alpha))));
}

/** Screen of two premultiplied pixels: s + d − s·d in every value, the alpha too. */
@inline export function screen(at: usize, source: v128): void {
  v128.store(at, i16x8.sub(source, times(v128.load(at), minusRest(source))));
}

/** Where a source goes: laid over the row, or kept as it is for more to be done with it. */
export const LAY_OVER: i32 = 0;
export const KEEP: i32 = 1;

@inline export function emit(at: usize, source: v128, opacityQ15: i32, mode: i32): void {
  if (mode == KEEP) v128.store(at, source);
  else over(at, fade(source, opacityQ15));
}

@inline export function fade(source: v128, opacityQ15: i32): v128 {
  return opacityQ15 >= 32768 ? source : times(source, i16x8.splat(<i16>opacityQ15));
}

export function fillRow(lanes: usize, width: i32, background: v128): void {
  for (let x = 0; x < width; x += 2) v128.store(lanes + (<usize>x << 3), background);
}
