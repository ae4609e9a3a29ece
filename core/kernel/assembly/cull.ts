import * as L from './layer';
import { TILE } from './layout';

/** Edge of a culling tile, in output px and in the texels of a level's tile map. */
export { TILE };
export const EMPTY: u8 = 0;
export const MIXED: u8 = 1;
export const OPAQUE: u8 = 2;

/**
 * What a layer can put into output tile [x0, x1) × [y0, y1): nothing, something, or opaque paint all over.
 * Conservative: looks at the tile map under the bounds of the mapped tile.
 */
export function tileKind(layer: usize, x0: i32, y0: i32, x1: i32, y1: i32): u8 {
  if (L.kind(layer) == L.PATHS) {
    const apart = x1 <= L.boundLeft(layer) || x0 >= L.boundRight(layer) || y1 <= L.boundTop(layer) || y0 >= L.boundBottom(layer);
    return apart ? EMPTY : MIXED;
  }
  const ux = L.uPerX(layer) * <f64>(x1 - 1 - x0);
  const uy = L.uPerY(layer) * <f64>(y1 - 1 - y0);
  const vx = L.vPerX(layer) * <f64>(x1 - 1 - x0);
  const vy = L.vPerY(layer) * <f64>(y1 - 1 - y0);
  const u = L.uPerX(layer) * <f64>x0 + L.uPerY(layer) * <f64>y0 + L.uAtOrigin(layer);
  const v = L.vPerX(layer) * <f64>x0 + L.vPerY(layer) * <f64>y0 + L.vAtOrigin(layer);
  // Rows of texels that are weighed lie aslant to the lines; places are rounded to phases, and stepped through.
  const reachV = <f64>(L.tapsV(layer) >> 1) + 0.01;
  const aslant = reachV * abs(L.alongRows(layer) ? L.uPerX(layer) / L.vPerX(layer) : L.uPerY(layer) / L.vPerY(layer));
  const reachU = <f64>(L.tapsU(layer) >> 1) + aslant + 0.01;
  const lowU = u + min(ux, 0) + min(uy, 0);
  const highU = u + max(ux, 0) + max(uy, 0);
  const lowV = v + min(vx, 0) + min(vy, 0);
  const highV = v + max(vx, 0) + max(vy, 0);
  const left = Math.floor(lowU - reachU);
  const right = Math.ceil(highU + reachU);
  const top = Math.floor(lowV - reachV);
  const bottom = Math.ceil(highV + reachV);
  const width = <f64>L.widthPx(layer);
  const height = <f64>L.heightPx(layer);
  if (L.repeatsX(layer) || L.repeatsY(layer)) return tiledKind(layer, left, right, top, bottom);
  const stepV = abs(L.alongRows(layer) ? L.vPerX(layer) : L.vPerY(layer));
  const stepU = abs(L.uPerX(layer) * L.vPerY(layer) - L.uPerY(layer) * L.vPerX(layer)) / stepV;
  const pxU = 0.5 * stepU - 0.5 + 0.01;
  const pxV = 0.5 * stepV - 0.5 + 0.01;
  if (highU + pxU < L.left(layer) - 1 || lowU - pxU > L.right(layer)) return EMPTY;
  if (highV + pxV < L.top(layer) - 1 || lowV - pxV > L.bottom(layer)) return EMPTY;
  const within =
    lowU - pxU >= L.left(layer) &&
    highU + pxU <= L.right(layer) - 1 &&
    lowV - pxV >= L.top(layer) &&
    highV + pxV <= L.bottom(layer) - 1;
  return mapKind(
    layer,
    <i32>max(0, min(left, width - 1)) >> 5,
    <i32>max(0, min(top, height - 1)) >> 5,
    <i32>max(0, min(right, width - 1)) >> 5,
    <i32>max(0, min(bottom, height - 1)) >> 5,
    within && L.opacityQ15(layer) >= 32768,
  );
}

/** As tileKind for a tiled layer: the texels seen are looked up in the one copy that is stored. */
function tiledKind(layer: usize, left: f64, right: f64, top: f64, bottom: f64): u8 {
  const width = <f64>L.widthPx(layer);
  const height = <f64>L.heightPx(layer);
  if (!L.repeatsX(layer) && (right < 0 || left >= width)) return EMPTY;
  if (!L.repeatsY(layer) && (bottom < 0 || top >= height)) return EMPTY;
  const whole = L.opacityQ15(layer) >= 32768;
  const within = whole && (L.repeatsX(layer) || (left >= 0 && right < width)) && (L.repeatsY(layer) || (top >= 0 && bottom < height));
  let c0 = <i32>max(left, 0);
  let c1 = <i32>min(right, width - 1);
  let r0 = <i32>max(top, 0);
  let r1 = <i32>min(bottom, height - 1);
  let acrossSeam = false;
  let downSeam = false;
  if (L.repeatsX(layer)) {
    const from = left - Math.floor(left / width) * width;
    const to = from + right - left;
    acrossSeam = to >= width && to - width < from;
    c0 = to - width >= from ? 0 : <i32>from;
    c1 = to - width >= from ? L.widthPx(layer) - 1 : acrossSeam ? <i32>(to - width) : <i32>min(to, width - 1);
  }
  if (L.repeatsY(layer)) {
    const from = top - Math.floor(top / height) * height;
    const to = from + bottom - top;
    downSeam = to >= height && to - height < from;
    r0 = to - height >= from ? 0 : <i32>from;
    r1 = to - height >= from ? L.heightPx(layer) - 1 : downSeam ? <i32>(to - height) : <i32>min(to, height - 1);
  }
  const lastC = (L.widthPx(layer) - 1) >> 5;
  const lastR = (L.heightPx(layer) - 1) >> 5;
  c0 = min(c0 >> 5, lastC);
  r0 = min(r0 >> 5, lastR);
  c1 = c1 >> 5;
  r1 = r1 >> 5;
  if (acrossSeam && c1 >= c0) {
    c0 = 0;
    c1 = lastC;
    acrossSeam = false;
  }
  if (downSeam && r1 >= r0) {
    r0 = 0;
    r1 = lastR;
    downSeam = false;
  }
  if (!acrossSeam && !downSeam) return mapKind(layer, c0, r0, c1, r1, within);
  if (!downSeam) return joinKinds(mapKind(layer, c0, r0, lastC, r1, within), mapKind(layer, 0, r0, c1, r1, within));
  if (!acrossSeam) return joinKinds(mapKind(layer, c0, r0, c1, lastR, within), mapKind(layer, c0, 0, c1, r1, within));
  return joinKinds(
    joinKinds(mapKind(layer, c0, r0, lastC, lastR, within), mapKind(layer, 0, r0, c1, lastR, within)),
    joinKinds(mapKind(layer, c0, 0, lastC, r1, within), mapKind(layer, 0, 0, c1, r1, within)),
  );
}

@inline export function joinKinds(p: u8, q: u8): u8 {
  return p == q ? p : MIXED;
}

/** Tile map cells [c0, c1] × [r0, r1]: EMPTY if all are, OPAQUE if all are and `mayHide`, else MIXED. */
function mapKind(layer: usize, c0: i32, r0: i32, c1: i32, r1: i32, mayHide: bool): u8 {
  let anyPaint = false;
  let allOpaque = mayHide;
  for (let r = r0; r <= r1; r++) {
    let at = L.tiles(layer) + <usize>(r * L.tileColumns(layer) + c0);
    for (let c = c0; c <= c1; c++) {
      const kind = load<u8>(at++);
      if (kind != EMPTY) anyPaint = true;
      if (kind != OPAQUE) allOpaque = false;
    }
    if (anyPaint && !allOpaque) return MIXED;
  }
  return allOpaque ? OPAQUE : anyPaint ? MIXED : EMPTY;
}
