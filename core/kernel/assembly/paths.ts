import * as L from './layer';
import { alphaBytes, minusOne, over, shortfall, times } from './lanes';

/** One edge: four f32, x0 y0 x1 y1, clipped to the image. */
const EDGE_BYTES: usize = 16;

/**
 * Fills `coverage` (f32, width + 2) with the signed steps of covered area along output row y: its running sum is the
 * exact area of each pixel inside the outlines. Every row is found from the edges alone, whoever draws it.
 */
export function coverRow(layer: usize, table: usize, coverage: usize, width: i32, y: i32): void {
  memory.fill(coverage, 0, (<usize>width + 2) << 2);
  const top = <f64>y;
  const bottom = top + 1;
  let edge = table + L.edgesFrom(layer);
  const end = edge + <usize>L.edgeCount(layer) * EDGE_BYTES;
  for (; edge < end; edge += EDGE_BYTES) {
    const y0 = <f64>load<f32>(edge, 4);
    const y1 = <f64>load<f32>(edge, 12);
    const from = max(top, min(y0, y1));
    const to = min(bottom, max(y0, y1));
    if (from >= to) continue;
    const x0 = <f64>load<f32>(edge);
    const slope = (<f64>load<f32>(edge, 8) - x0) / (y1 - y0);
    const p = x0 + (from - y0) * slope;
    const q = x0 + (to - y0) * slope;
    addEdge(coverage, min(p, q), max(p, q), y0 < y1 ? to - from : from - to, <f64>width);
  }
}

@inline function add(coverage: usize, column: i32, value: f64): void {
  const at = coverage + (<usize>column << 2);
  store<f32>(at, load<f32>(at) + <f32>value);
}

/** An edge that crosses `height` (signed) of a row between columns p ≤ q: the area to its right is covered. */
function addEdge(coverage: usize, from: f64, to: f64, height: f64, width: f64): void {
  const p = max(0, min(width, from));
  const q = max(0, min(width, to));
  const first = floor(p);
  const column = <i32>first;
  const last = <i32>ceil(q);
  if (last <= column + 1) {
    const middle = 0.5 * (p + q) - first;
    add(coverage, column, height * (1 - middle));
    add(coverage, column + 1, height * middle);
    return;
  }
  const perColumn = 1 / (q - p);
  const intoFirst = p - first;
  const areaFirst = 0.5 * perColumn * (1 - intoFirst) * (1 - intoFirst);
  const intoLast = q - <f64>last + 1;
  const areaLast = 0.5 * perColumn * intoLast * intoLast;
  add(coverage, column, height * areaFirst);
  if (last == column + 2) add(coverage, column + 1, height * (1 - areaFirst - areaLast));
  else {
    const second = perColumn * (1.5 - intoFirst);
    add(coverage, column + 1, height * (second - areaFirst));
    for (let c = column + 2; c < last - 1; c++) add(coverage, c, height * perColumn);
    const before = second + <f64>(last - column - 3) * perColumn;
    add(coverage, last - 1, height * (1 - before - areaLast));
  }
  add(coverage, last, height * areaLast);
}

/** The running sum of `coverage` in place: covered share of each pixel, 0 to 1, whichever way outlines turn. */
export function sumRow(coverage: usize, width: i32): void {
  let sum: f32 = 0;
  const end = coverage + (<usize>width << 2);
  for (let at = coverage; at < end; at += 4) {
    sum += load<f32>(at);
    store<f32>(at, min<f32>(1, abs(sum)));
  }
}

/** Paints columns [x0, x1) of row y where `coverage` says, two pixels at a time. */
export function drawPaths(layer: usize, table: usize, lanes: usize, coverage: usize, x0: i32, x1: i32, y: i32, keeps: bool): void {
  const opacity = <f64>L.opacityQ15(layer);
  const minus1 = minusOne();
  const short = shortfall();
  const alphaAt = alphaBytes();
  for (let x = x0; x < x1; x += 2) {
    const p = load<f32>(coverage + (<usize>x << 2));
    const q = x + 1 < x1 ? load<f32>(coverage + (<usize>(x + 1) << 2)) : 0;
    if (p == 0 && q == 0) continue;
    const source = i64x2.replace_lane(
      i64x2.splat(p > 0 ? load<i64>(colourAt(layer, table, x, y)) : 0),
      1,
      q > 0 ? load<i64>(colourAt(layer, table, x + 1, y)) : 0,
    );
    const shareP = <i32>(opacity * <f64>p + 0.5);
    const shareQ = <i32>(opacity * <f64>q + 0.5);
    const whole = shareP >= 32768 && shareQ >= 32768;
    const shares = v128.shuffle<i64>(
      i16x8.splat(<i16>min(shareP, 32767)),
      i16x8.splat(<i16>min(shareQ, 32767)),
      0,
      2,
    );
    const covering = whole ? source : times(source, shares);
    if (keeps) v128.store(lanes + (<usize>x << 3), covering);
    else over(lanes + (<usize>x << 3), covering, minus1, short, alphaAt);
  }
}

/** Address of the ramp's colour (four lanes) at the centre of a pixel. */
@inline function colourAt(layer: usize, table: usize, x: i32, y: i32): usize {
  const ramp = table + L.rampFrom(layer);
  const length = L.rampLength(layer);
  if (length == 1) return ramp;
  const u = L.uPerX(layer) * <f64>x + L.uPerY(layer) * <f64>y + L.uAtOrigin(layer);
  let t = u;
  if (L.isRadial(layer)) {
    const v = L.vPerX(layer) * <f64>x + L.vPerY(layer) * <f64>y + L.vAtOrigin(layer);
    t = Math.sqrt(u * u + v * v);
  }
  const at = <i32>max(0, min(<f64>(length - 1), floor(t * <f64>length)));
  return ramp + (<usize>at << 3);
}
