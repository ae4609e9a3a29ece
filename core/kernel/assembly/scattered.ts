import * as L from './layer';
import { alphaBytes, isFaded, lefts, loadPixels, minusOne, mix, opacityLanes, overFaded, shortfall } from './lanes';

/** One texel of the bordered level in the low half; the high half is of no use. */
@inline function texel(layer: usize, column: i32, row: i32): v128 {
  return loadPixels(L.pixels(layer) + <usize>row * <usize>L.strideBytes(layer) + (<usize>column << 2));
}

/** Columns [x0, x1) of output row y of a layer at any angle and reduction, tiled or not, one pixel at a time to `to`. */
export function drawScattered(layer: usize, to: usize, x0: i32, x1: i32, y: i32, keeps: bool): void {
  const width = L.widthPx(layer);
  const height = L.heightPx(layer);
  const across = L.repeatsX(layer);
  const down = L.repeatsY(layer);
  const faded = isFaded(L.opacityQ15(layer));
  const opacity = opacityLanes(L.opacityQ15(layer));
  for (let x = x0; x < x1; x++, to += 8) {
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
    if (keeps) v128.store64_lane(to, source, 0);
    else overFaded(to, lefts(source, i64x2.splat(0)), faded, opacity, minusOne(), shortfall(), alphaBytes());
  }
}
