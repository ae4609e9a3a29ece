import * as L from './layer';
import { emit, loadPixels, mix } from './lanes';

/** One texel of the bordered level in the low half; the high half is of no use. */
@inline function texel(layer: usize, column: i32, row: i32): v128 {
  return loadPixels(L.pixels(layer) + <usize>row * <usize>L.strideBytes(layer) + (<usize>column << 2));
}

/** Columns [x0, x1) of output row y of a tiled layer at any angle and reduction, one pixel at a time. */
export function drawScattered(layer: usize, lanes: usize, x0: i32, x1: i32, y: i32, mode: i32): void {
  const width = L.widthPx(layer);
  const height = L.heightPx(layer);
  const across = L.repeatsX(layer);
  const down = L.repeatsY(layer);
  const opacity = L.opacityQ15(layer);
  for (let x = x0; x < x1; x++) {
    let u = L.uPerX(layer) * <f64>x + L.uPerY(layer) * <f64>y + L.uAtOrigin(layer);
    let v = L.vPerX(layer) * <f64>x + L.vPerY(layer) * <f64>y + L.vAtOrigin(layer);
    if (across) u = L.comeRound(u, width);
    if (down) v = L.comeRound(v, height);
    if (!(u >= 0 && v >= 0 && u < <f64>(width + 1) && v < <f64>(height + 1))) continue;
    const column = <i32>u;
    const row = <i32>v;
    const right = across && column >= width ? 1 : column + 1;
    const below = down && row >= height ? 1 : row + 1;
    const downQ15 = i16x8.splat(<i16>((v - <f64>row) * 32768));
    const left = mix(texel(layer, column, row), texel(layer, column, below), downQ15);
    const next = mix(texel(layer, right, row), texel(layer, right, below), downQ15);
    const source = mix(left, next, i16x8.splat(<i16>((u - <f64>column) * 32768)));
    emit(lanes + (<usize>x << 3), v128.shuffle<i64>(source, i64x2.splat(0), 0, 2), opacity, mode);
  }
}
