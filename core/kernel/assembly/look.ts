// What happens to the colours of one source row; the layout is ../layer-layout.ts's. Each part is rounded to lanes.

import { HAS_CURVE, HAS_MATRIX, HAS_VIGNETTE, LOOK_BYTES, LOOK_PARTS, LOOK_VIGNETTE } from './layout';

const FULL: i32 = 32640;
const CURVE_BYTES: usize = 4096 * 2;
/** Share of the half diagonal at which a vignette begins; as in core/look/grade.ts. */
const VIGNETTE_FROM: f32 = 0.35;

/** Changes columns [x0, x1) of `row` (lanes, premultiplied) in place. */
export function applyLook(look: usize, row: usize, x0: i32, x1: i32, y: i32): void {
  const parts = load<i32>(look, LOOK_PARTS);
  const from = row + (<usize>x0 << 3);
  const end = row + (<usize>x1 << 3);
  if (parts & HAS_MATRIX) applyMatrix(look, from, end);
  if (parts & HAS_CURVE) applyCurves(look + LOOK_BYTES, from, end);
  if (parts & HAS_VIGNETTE) applyVignette(look, from, end, x0, y);
}

/** The four lanes of a pixel as numbers. */
@inline function numbersAt(at: usize): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(v128.load64_zero(at)));
}

/** Numbers (0 to 32 640) rounded, to the four lanes at `at`. */
@inline function storeNumbers(at: usize, numbers: v128): void {
  const up = f32x4.add(numbers, f32x4.splat(0.5));
  const whole = ASC_FEATURE_RELAXED_SIMD ? i32x4.relaxed_trunc_f32x4_s(up) : i32x4.trunc_sat_f32x4_s(up);
  v128.store64_lane(at, i16x8.narrow_i32x4_u(whole, whole), 0);
}

/** A column of the matrix, with nothing for the alpha. */
@inline function columnOf(look: usize): v128 {
  const one = f32x4.replace_lane(f32x4.splat(load<f32>(look)), 1, load<f32>(look, 12));
  return f32x4.replace_lane(f32x4.replace_lane(one, 2, load<f32>(look, 24)), 3, 0);
}

function applyMatrix(look: usize, from: usize, end: usize): void {
  const red = columnOf(look);
  const green = columnOf(look + 4);
  const blue = columnOf(look + 8);
  for (let at = from; at < end; at += 8) {
    if (load<u64>(at) == 0) continue;
    const pixel = numbersAt(at);
    const sum = f32x4.add(
      f32x4.add(
        f32x4.mul(red, v128.shuffle<i32>(pixel, pixel, 0, 0, 0, 0)),
        f32x4.mul(green, v128.shuffle<i32>(pixel, pixel, 1, 1, 1, 1)),
      ),
      f32x4.mul(blue, v128.shuffle<i32>(pixel, pixel, 2, 2, 2, 2)),
    );
    const kept = f32x4.max(f32x4.splat(0), f32x4.min(v128.shuffle<i32>(pixel, pixel, 3, 3, 3, 3), sum));
    storeNumbers(at, v128.shuffle<i32>(kept, pixel, 0, 1, 2, 7));
  }
}

/** What a curve makes of a value: straight values without their last three bits are the places in it. */
@inline function onCurve(curve: usize, place: i32): i32 {
  return <i32>load<u16>(curve + (<usize>min<i32>(4080, place) << 1));
}

function applyCurves(curves: usize, from: usize, end: usize): void {
  for (let at = from; at < end; at += 8) {
    const alpha = <i32>load<u16>(at, 6);
    if (alpha == 0) continue;
    if (alpha == FULL) {
      store<u16>(at, <u16>onCurve(curves, (<i32>load<u16>(at) + 4) >> 3));
      store<u16>(at, <u16>onCurve(curves + CURVE_BYTES, (<i32>load<u16>(at, 2) + 4) >> 3), 2);
      store<u16>(at, <u16>onCurve(curves + 2 * CURVE_BYTES, (<i32>load<u16>(at, 4) + 4) >> 3), 4);
      continue;
    }
    const toPlace = <f32>FULL / (<f32>alpha * 8);
    const back = <f32>alpha / <f32>FULL;
    for (let i: usize = 0; i < 3; i++) {
      const lane = at + (i << 1);
      const place = <i32>(<f32>load<u16>(lane) * toPlace + 0.5);
      store<u16>(lane, <u16><i32>(<f32>onCurve(curves + i * CURVE_BYTES, place) * back + 0.5));
    }
  }
}

function applyVignette(look: usize, from: usize, end: usize, x0: i32, y: i32): void {
  const strength = load<f32>(look, LOOK_VIGNETTE);
  const dy = <f32>y - load<f32>(look, LOOK_VIGNETTE + 8);
  const halfDiagonal = load<f32>(look, LOOK_VIGNETTE + 12);
  const centre = load<f32>(look, LOOK_VIGNETTE + 4);
  let x = x0;
  for (let at = from; at < end; at += 8, x++) {
    if (load<u64>(at) == 0) continue;
    const dx = <f32>x - centre;
    const reach = sqrt<f32>(dx * dx + dy * dy) / halfDiagonal;
    const t = max<f32>(0, min<f32>(1, (reach - VIGNETTE_FROM) / (<f32>1 - VIGNETTE_FROM)));
    const left: f32 = <f32>1 - strength * t * t * (<f32>3 - <f32>2 * t);
    storeNumbers(at, f32x4.mul(numbersAt(at), f32x4.replace_lane(f32x4.splat(left), 3, 1)));
  }
}
