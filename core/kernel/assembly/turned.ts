// Over 400 lines: both passes go by the one map that lies below, which is set once for each layer.
import * as L from './layer';
import { alphaBytes, isFaded, marks, minusOne, opacityLanes, overFaded, shortfall } from './lanes';
import {
  earlyBytes,
  fromBytes,
  fromWeighed,
  fromWide,
  halfOfBytes,
  halfOfWeighed,
  halfOfWide,
  lanePairs,
  lateBytes,
  opaque14,
  settled,
  shared,
  weighBytes,
  weighFour,
  weighFourLanes,
  weighLanes,
  weighOne,
} from './weigh';

// A turned layer is read in two passes (../../picture/filter/filter.ts): each row of texels that a block crosses is weighed where the
// lines of the block, its columns or its rows, cross it; then each line is weighed from row to row.

/** Texels are stepped through in fixed point, from the edge of a square: within it never 2⁻¹⁵ texels off. */
const FRACTION: i32 = 20;
const ONE: f64 = 1048576;
/** Bits of a place below its phase, and half a phase, for rounding to the nearest. */
const BELOW_PHASE: i32 = FRACTION - L.PHASE_BITS;
const HALF_PHASE: i64 = 1 << (BELOW_PHASE - 1);

/** 14-bit lanes by line and then by row of texels; with what may be read past the last. */
export const CROSSINGS_BYTES: usize = <usize>(L.SQUARE * (L.MOST_ROWS + 8)) * 8 + 160;
const LINE_BYTES: usize = <usize>L.MOST_ROWS * 8 + 64;

/** The map as it is read: u = uPerLine·line + uPerRow·row + uAt where a line crosses a row, v = vPerLine·line + vAlong·px + vAt. */
let uPerLine: f64 = 0;
let uPerRow: f64 = 0;
let uAt: f64 = 0;
let vPerLine: f64 = 0;
let vAlong: f64 = 0;
let vAt: f64 = 0;

function takeMap(layer: usize): void {
  const rowsAreLines = L.alongRows(layer);
  const uPerPx = rowsAreLines ? L.uPerX(layer) : L.uPerY(layer);
  const uOfLine = rowsAreLines ? L.uPerY(layer) : L.uPerX(layer);
  vAlong = rowsAreLines ? L.vPerX(layer) : L.vPerY(layer);
  vPerLine = rowsAreLines ? L.vPerY(layer) : L.vPerX(layer);
  vAt = L.vAtOrigin(layer);
  uPerRow = uPerPx / vAlong;
  uPerLine = uOfLine - uPerRow * vPerLine;
  uAt = L.uAtOrigin(layer) - uPerRow * vAt;
}

@inline function fixed(value: f64): i64 {
  return <i64>nearest(value * ONE);
}

/**
 * Columns [x0, x1) of rows [top, bottom) of a layer at any angle, within one square: pixel (x0, top) lies at `to`, the next
 * row `pitch` bytes on. `room` has CROSSINGS_BYTES.
 */
export function drawTurned(
  layer: usize,
  table: usize,
  to: usize,
  pitch: usize,
  room: usize,
  x0: i32,
  x1: i32,
  top: i32,
  bottom: i32,
  keeps: bool,
): void {
  takeMap(layer);
  const rowsAreLines = L.alongRows(layer);
  const line0 = rowsAreLines ? top : x0;
  const lines = rowsAreLines ? bottom - top : x1 - x0;
  const px0 = rowsAreLines ? x0 : top;
  const pxs = rowsAreLines ? x1 - x0 : bottom - top;
  const taps = L.tapsV(layer);
  const corner = vPerLine * <f64>line0 + vAlong * <f64>px0 + vAt;
  const overLines = vPerLine * <f64>(lines - 1);
  const overPxs = vAlong * <f64>(pxs - 1);
  const least = corner + min(overLines, 0) + min(overPxs, 0);
  const most = corner + max(overLines, 0) + max(overPxs, 0);
  // One more at both ends: places are rounded to phases.
  const first = Math.floor(least) - <f64>(taps >> 1);
  const count = Math.floor(most) + <f64>(taps >> 1) + 2 - first;
  if (count > L.MOST_ROWS) {
    drawParts(layer, table, to, pitch, room, x0, x1, top, bottom, keeps);
    return;
  }
  const across = L.uPerX(layer) * <f64>(x1 - 1 - x0);
  const down = L.uPerY(layer) * <f64>(bottom - 1 - top);
  const u = L.uPerX(layer) * <f64>x0 + L.uPerY(layer) * <f64>top + L.uAtOrigin(layer);
  const leastU = u + min(across, 0) + min(down, 0);
  const mostU = u + max(across, 0) + max(down, 0);
  const onU = L.repeatsX(layer) ? ALL_ON : sideOf(leastU, mostU, abs(uPerLine), L.left(layer), L.right(layer));
  const onV = L.repeatsY(layer) ? ALL_ON : sideOf(least, most, abs(vAlong), L.top(layer), L.bottom(layer));
  if (onU == NONE_ON || onV == NONE_ON) return;
  const whole = onU == ALL_ON && onV == ALL_ON;
  const middle = 0.5 * overPxs + vAlong * <f64>px0 + vAt;
  const reach = 0.5 * abs(overPxs) + <f64>(taps >> 1) + 2;
  touch(layer, first, <i32>count, middle, reach, line0, lines, room);
  for (let i = 0; i < <i32>count; i++) {
    const row = first + <f64>i;
    const from = firstLine(row, middle, reach, line0, lines);
    const end = endLine(row, middle, reach, line0, lines);
    if (from < end) crossRow(layer, table, room + (<usize>i << 3), row, line0 + from, line0, end - from);
  }
  weighLines(layer, table, to, pitch, room, first, x0, x1, top, bottom, whole, keeps);
}

/** Lines [first, end) that are weighed at a row: those which come within reach of it. */
function firstLine(row: f64, middle: f64, reach: f64, line0: i32, lines: i32): i32 {
  if (vPerLine == 0) return 0;
  const line = min((row - middle - reach) / vPerLine, (row - middle + reach) / vPerLine) - <f64>line0;
  return <i32>max(0, min(<f64>lines, Math.floor(line)));
}
function endLine(row: f64, middle: f64, reach: f64, line0: i32, lines: i32): i32 {
  if (vPerLine == 0) return lines;
  const line = max((row - middle - reach) / vPerLine, (row - middle + reach) / vPerLine) - <f64>line0;
  return <i32>min(<f64>lines, max(0, Math.ceil(line) + 1));
}

/**
 * Reads one texel of every 64 bytes that will be crossed: what little work there is in between lets many lines of far memory
 * be waited for side by side, where weighing would wait for each by itself.
 */
function touch(
  layer: usize,
  first: f64,
  count: i32,
  middle: f64,
  reach: f64,
  line0: i32,
  lines: i32,
  room: usize,
): void {
  if (L.repeatsX(layer) || L.repeatsY(layer)) return;
  const shift = L.isWide(layer) ? 3 : 2;
  const most = <f64>(L.widthPx(layer) - 1);
  let sum = 0;
  for (let i = 0; i < count; i++) {
    const row = first + <f64>i;
    if (row < 0 || row >= <f64>L.heightPx(layer)) continue;
    const p = uPerLine * <f64>(line0 + firstLine(row, middle, reach, line0, lines)) + uPerRow * row + uAt;
    const q = uPerLine * <f64>(line0 + endLine(row, middle, reach, line0, lines)) + uPerRow * row + uAt;
    const texels = L.pixels(layer) + <usize>row * <usize>L.strideBytes(layer);
    const end = texels + (<usize>max(0, min(most, max(p, q) + 2)) << shift);
    for (let at = texels + (<usize>max(0, min(most, min(p, q) - 2)) << shift); at <= end; at += 64) sum += load<i32>(at);
  }
  // Stored, so that no compiler finds the reading to be for nothing.
  store<i32>(room, sum);
}

const NONE_ON: i32 = 0;
const SOME_ON: i32 = 1;
const ALL_ON: i32 = 2;

/** Whether px from `least` to `most`, each of them `step` wide, lie between `first` and `last`. */
function sideOf(least: f64, most: f64, step: f64, first: f64, last: f64): i32 {
  const low = L.shareOf(least, step, first, last);
  const high = L.shareOf(most, step, first, last);
  if (low == 1 && high == 1) return ALL_ON;
  return low == 0 && high == 0 && (most < first || least > last - 1) ? NONE_ON : SOME_ON;
}

/** What crosses too many rows, in halves along the side that crosses more of them. */
function drawParts(
  layer: usize,
  table: usize,
  to: usize,
  pitch: usize,
  room: usize,
  x0: i32,
  x1: i32,
  top: i32,
  bottom: i32,
  keeps: bool,
): void {
  const wide = x1 - x0;
  const high = bottom - top;
  if (high > 1 && (wide <= 2 || abs(L.vPerY(layer)) * <f64>high >= abs(L.vPerX(layer)) * <f64>wide)) {
    const y = (top + bottom) >> 1;
    drawTurned(layer, table, to, pitch, room, x0, x1, top, y, keeps);
    drawTurned(layer, table, to + <usize>(y - top) * pitch, pitch, room, x0, x1, y, bottom, keeps);
  } else {
    const x = x0 + (wide <= 2 ? 1 : max(2, (wide >> 2) << 1));
    drawTurned(layer, table, to, pitch, room, x0, x, top, bottom, keeps);
    drawTurned(layer, table, to + (<usize>(x - x0) << 3), pitch, room, x, x1, top, bottom, keeps);
  }
}

/** One row of texels at lines [from, from + count): the crossing with `line0` at `to`, the next LINE_BYTES on. */
function crossRow(layer: usize, table: usize, to: usize, row: f64, from: i32, line0: i32, count: i32): void {
  const size = L.widthPx(layer);
  const taps = L.tapsU(layer);
  const high = <f64>L.heightPx(layer);
  const stored = L.repeatsY(layer) ? row - Math.floor(row / high) * high : max(0, min(high - 1, row));
  const texels = L.pixels(layer) + <usize>stored * <usize>L.strideBytes(layer);
  const filter = table + L.filterU(layer);
  // Counted from the edge of the square, so that it does not matter which part of it is drawn.
  const edge = from & -L.SQUARE;
  const u = uPerLine * <f64>edge + uPerRow * row + uAt;
  const by = fixed(uPerLine);
  let round: f64 = 0;
  if (L.repeatsX(layer)) round = Math.floor(u / <f64>size) * <f64>size;
  let place = fixed(u - round) + by * <i64>(from - edge) + HALF_PHASE;
  const last = place + by * <i64>(count - 1);
  const reach = max(<f64>(taps >> 1), 0.5 * abs(uPerLine) + 1);
  const low = <i64>(reach * ONE);
  const high2 = (<i64>(size - 1) << FRACTION) - low;
  let at = to + <usize>(from - line0) * LINE_BYTES;
  if (min(place, last) >= low && max(place, last) < high2 && abs(uPerLine) < 32) {
    const offset = <i32>((min(place, last) >> FRACTION) + 1 - (taps >> 1));
    const toFirst = <i64>offset + (taps >> 1) - 1;
    cross(layer, texels, offset, filter, at, <i32>(place - (toFirst << FRACTION)), <i32>by, count, taps);
    return;
  }
  for (let i = 0; i < count; i++, at += LINE_BYTES, place += by) crossOne(layer, texels, filter, at, place, taps);
}

/** Of a place in fixed point: bytes to its texel of four bytes, or of four lanes, and to its four weights. */
@inline function fourTexels(place: i32): usize {
  return <usize>((place >> (FRACTION - 2)) & -4);
}
@inline function fourLaneTexels(place: i32): usize {
  return <usize>((place >> (FRACTION - 3)) & -8);
}
@inline function fourWeights(place: i32): usize {
  return <usize>((place >> (BELOW_PHASE - 3)) & ((L.PHASES - 1) << 3));
}

/** Crossings whose texels all lie on the image: the first of them at texel `offset` and on, at the place `rel` beyond it. */
function cross(
  layer: usize,
  texels: usize,
  offset: i32,
  filter: usize,
  at: usize,
  rel: i32,
  by: i32,
  count: i32,
  taps: i32,
): void {
  const end = at + <usize>count * LINE_BYTES;
  if (taps == 4 && !L.isWide(layer)) {
    const early = earlyBytes();
    const late = lateBytes();
    const half = halfOfBytes();
    const base = texels + (<usize>offset << 2);
    for (; at + LINE_BYTES < end; at += 2 * LINE_BYTES) {
      const p = fromBytes(weighFour(v128.load(base + fourTexels(rel)), filter + fourWeights(rel), early, late), half);
      rel += by;
      const q = fromBytes(weighFour(v128.load(base + fourTexels(rel)), filter + fourWeights(rel), early, late), half);
      rel += by;
      const lanes = i16x8.narrow_i32x4_s(p, q);
      v128.store64_lane(at, lanes, 0);
      v128.store64_lane(at + LINE_BYTES, lanes, 1);
    }
    if (at < end) {
      const p = fromBytes(weighFour(v128.load(base + fourTexels(rel)), filter + fourWeights(rel), early, late), half);
      v128.store64_lane(at, i16x8.narrow_i32x4_s(p, p), 0);
    }
    return;
  }
  const pairs = lanePairs();
  const isWide = L.isWide(layer);
  const half = isWide ? halfOfWide() : halfOfBytes();
  if (taps == 4) {
    const first = texels + (<usize>offset << 3);
    for (; at + LINE_BYTES < end; at += 2 * LINE_BYTES) {
      const p = fromWide(weighFourLanes(first + fourLaneTexels(rel), filter + fourWeights(rel), pairs), half);
      rel += by;
      const q = fromWide(weighFourLanes(first + fourLaneTexels(rel), filter + fourWeights(rel), pairs), half);
      rel += by;
      const lanes = i16x8.narrow_i32x4_s(p, q);
      v128.store64_lane(at, lanes, 0);
      v128.store64_lane(at + LINE_BYTES, lanes, 1);
    }
    if (at < end) {
      const p = fromWide(weighFourLanes(first + fourLaneTexels(rel), filter + fourWeights(rel), pairs), half);
      v128.store64_lane(at, i16x8.narrow_i32x4_s(p, p), 0);
    }
    return;
  }
  const base = texels + (<usize>offset << (isWide ? 3 : 2));
  for (; at < end; at += LINE_BYTES, rel += by) {
    const weights = filter + <usize>((((rel >> BELOW_PHASE) & (L.PHASES - 1)) * taps) << 1);
    const from = base + (<usize>(rel >> FRACTION) << (isWide ? 3 : 2));
    const sum = !isWide
      ? fromBytes(weighBytes(from, weights, taps), half)
      : fromWide(weighLanes(from, weights, taps), half);
    v128.store64_lane(at, i16x8.narrow_i32x4_s(sum, sum), 0);
  }
}

/** A crossing near or past the border, or at the seam of what is tiled. */
function crossOne(layer: usize, texels: usize, filter: usize, at: usize, place: i64, taps: i32): void {
  const size = L.widthPx(layer);
  const repeats = L.repeatsX(layer);
  const isWide = L.isWide(layer);
  const weights = filter + <usize>(((<i32>(place >> BELOW_PHASE) & (L.PHASES - 1)) * taps) << 1);
  const texel = place >> FRACTION;
  const near = <i32>(repeats ? texel % <i64>size : max(<i64>-L.MOST_TAPS, min(texel, <i64>(size + L.MOST_TAPS))));
  const first = near + 1 - (taps >> 1);
  let sum = i32x4.splat(0);
  for (let k = 0; k < taps; k++) {
    const column = repeats ? L.wrapped(first + k, size) : L.clamped(first + k, size);
    sum = i32x4.add(sum, weighOne(texels + (<usize>column << (isWide ? 3 : 2)), isWide, load<i16>(weights + <usize>(k << 1))));
  }
  const lanes = isWide ? fromWide(sum, halfOfWide()) : fromBytes(sum, halfOfBytes());
  v128.store64_lane(at, i16x8.narrow_i32x4_s(lanes, lanes), 0);
}

/** Where pixel (x, y) reads on its line, from row `first` on, in fixed point and with half a phase. */
@inline function placeOn(x: i32, y: i32, rowsAreLines: bool, first: f64): i32 {
  const line = rowsAreLines ? y : x;
  const px = rowsAreLines ? x : y;
  return <i32>(fixed(vPerLine * <f64>line + vAlong * <f64>px + vAt - first) + HALF_PHASE);
}

/** The second pass: `room` has the crossings of all lines with the rows from `first` on. */
function weighLines(
  layer: usize,
  table: usize,
  to: usize,
  pitch: usize,
  room: usize,
  first: f64,
  x0: i32,
  x1: i32,
  top: i32,
  bottom: i32,
  whole: bool,
  keeps: bool,
): void {
  const rowsAreLines = L.alongRows(layer);
  const taps = L.tapsV(layer);
  const filter = table + L.filterV(layer);
  const by = <i32>fixed(L.vPerX(layer));
  const edge = abs(L.vPerX(layer)) > 32 ? x0 : x0 & -L.SQUARE;
  // Taps begin so many rows before the place.
  const before = <usize>((taps >> 1) - 1) << 3;
  const nextLine: usize = rowsAreLines ? 0 : LINE_BYTES;
  const faded = isFaded(L.opacityQ15(layer));
  const opacity = opacityLanes(L.opacityQ15(layer));
  const minus1 = minusOne();
  const short = shortfall();
  const alphaAt = alphaBytes();
  const pairs = lanePairs();
  const half = halfOfWeighed();
  const opaque = opaque14();
  for (let y = top; y < bottom; y++, to += pitch) {
    let place = placeOn(edge, y, rowsAreLines, first) + by * (x0 - edge);
    let line = room - before + (rowsAreLines ? <usize>(y - top) * LINE_BYTES : 0);
    let at = to;
    for (let x = x0; x < x1; x += 2, at += 16) {
      const one = lineAt(line, filter, place, taps, pairs, half);
      place += by;
      line += nextLine;
      const isLast = x + 1 == x1;
      const two = isLast ? i32x4.splat(0) : lineAt(line, filter, place, taps, pairs, half);
      place += by;
      line += nextLine;
      let lanes = i16x8.narrow_i32x4_s(one, two);
      if (!keeps && !marks(lanes)) continue;
      if (whole) lanes = settled(lanes, alphaAt, opaque);
      else lanes = onImage(layer, settled(onImage(layer, lanes, x, y, false), alphaAt, opaque), x, y, true);
      if (!keeps) overFaded(at, lanes, faded, opacity, minus1, short, alphaAt);
      else if (isLast) v128.store64_lane(at, lanes, 0);
      else v128.store(at, lanes);
    }
  }
}

@inline function lineAt(line: usize, filter: usize, place: i32, taps: i32, pairs: v128, half: v128): v128 {
  const from = line + fourLaneTexels(place);
  if (taps == 4) return fromWeighed(weighFourLanes(from, filter + fourWeights(place), pairs), half);
  const phase = (place >> BELOW_PHASE) & (L.PHASES - 1);
  return fromWeighed(weighLanes(from, filter + <usize>((phase * taps) << 1), taps), half);
}

/** Pixels x and x + 1 by their share of the image along its rows, or down. */
function onImage(layer: usize, lanes: v128, x: i32, y: i32, down: bool): v128 {
  if (down ? L.repeatsY(layer) : L.repeatsX(layer)) return lanes;
  return v128.shuffle<i64>(shared(lanes, shareAt(layer, x, y, down)), shared(lanes, shareAt(layer, x + 1, y, down)), 0, 3);
}

/** In Q15. */
function shareAt(layer: usize, x: i32, y: i32, down: bool): i32 {
  const u = L.uPerX(layer) * <f64>x + L.uPerY(layer) * <f64>y + L.uAtOrigin(layer);
  const v = L.vPerX(layer) * <f64>x + L.vPerY(layer) * <f64>y + L.vAtOrigin(layer);
  const share = down
    ? L.shareOf(v, abs(vAlong), L.top(layer), L.bottom(layer))
    : L.shareOf(u, abs(uPerLine), L.left(layer), L.right(layer));
  return <i32>(share * 32768 + 0.5);
}
