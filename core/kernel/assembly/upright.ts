import * as L from './layer';
import { alphaBytes, isFaded, minusOne, opacityLanes, overFaded, shortfall, times } from './lanes';
import {
  earlyBytes,
  fromBytes,
  fromWide,
  halfOfBytes,
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

/** What is known of a column: where its first texel lies in a row (i32), the same texel where it lies apart (i32), its weights. */
const HEAD: usize = 8;
const TOGETHER: i32 = -1;
@inline function columnBytes(taps: i32): usize {
  return HEAD + (<usize>taps << 1);
}

/** Columns that are gathered at once: there are as many past the last one. */
const AT_ONCE: i32 = 8;

/** Bytes behind a gathered row: for what comes along, and for whether there is paint in each eight pixels. */
export const ROW_SPARE: usize = 64 + 192;

/** Gathered rows, which row of texels each of them is (i32), and those that are weighed against another: of this caller alone. */
let rows: usize = 0;
let pitchOfRows: usize = 0;
let kept: usize = 0;
let others: usize = 0;
const KEPT_BYTES: usize = <usize>L.MOST_TAPS * 4;
const OTHERS_BYTES: usize = <usize>L.MOST_TAPS * 8;
export const ROWS_BYTES: usize = KEPT_BYTES + OTHERS_BYTES + <usize>L.MOST_TAPS * (<usize>L.WIDE * 8 + ROW_SPARE);
const NO_ROW: i32 = i32.MIN_VALUE;

/** Columns of a layer whose map does not turn, for every output column; gives back what lies behind them. */
export function buildGather(layer: usize, table: usize, at: usize, width: i32): usize {
  const taps = L.tapsU(layer);
  const bytes = columnBytes(taps);
  const columns = (width + AT_ONCE - 1) & -AT_ONCE;
  L.setGather(layer, at);
  let anyApart = false;
  for (let x = 0; x < columns; x++, at += bytes)
    if (placeColumn(layer, table, at, taps, x)) anyApart = true;
  L.setHasApart(layer, anyApart);
  return at;
}

/** Tells whether its texels lie apart: at both ends of a tiled row. */
function placeColumn(layer: usize, table: usize, at: usize, taps: i32, x: i32): bool {
  memory.fill(at, 0, columnBytes(taps));
  store<i32>(at, TOGETHER, 4);
  const size = L.widthPx(layer);
  const u = L.uPerX(layer) * <f64>x + L.uAtOrigin(layer);
  const repeats = L.repeatsX(layer);
  const share = repeats ? 1 : L.shareOf(u, abs(L.uPerX(layer)), L.left(layer), L.right(layer));
  if (share == 0) return false;
  const places = L.inPhases(u);
  const texel = Math.floor(places / L.PHASES);
  const weights = table + L.filterU(layer) + <usize>((<i32>(places - texel * L.PHASES) * taps) << 1);
  const texelShift = L.isWide(layer) ? 3 : 2;
  if (repeats) {
    const round = texel - Math.floor(texel / <f64>size) * <f64>size;
    const first = L.wrapped(<i32>round + 1 - (taps >> 1), size);
    memory.copy(at + HEAD, weights, <usize>taps << 1);
    if (first + taps <= size) {
      store<i32>(at, first << texelShift);
      return false;
    }
    store<i32>(at, first, 4);
    return true;
  }
  // Weights of texels past the border fall on the last one before it.
  const first = <i32>max(<f64>-L.MOST_TAPS, min(texel, <f64>(size + L.MOST_TAPS))) + 1 - (taps >> 1);
  const base = max(0, min(first, size - taps));
  store<i32>(at, base << texelShift);
  for (let k = 0; k < taps; k++) {
    const slot = at + HEAD + <usize>((L.clamped(first + k, size) - base) << 1);
    const weight = <f64>load<i16>(weights + <usize>(k << 1));
    store<i16>(slot, load<i16>(slot) + <i16>nearest(weight * share));
  }
  return false;
}

/**
 * Columns [x0, x1), x0 even, of rows [top, bottom): pixel (x0, top) lies at `to`, the next row `pitch` bytes on. Texel rows
 * are gathered across, each once, and weighed down: laid over, or kept as they are. `room` has ROWS_BYTES.
 */
export function drawUpright(
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
  if (isInPlace(layer)) {
    drawInPlace(layer, to, pitch, x0, x1, top, bottom, keeps);
    return;
  }
  const bytes = <usize>(x1 - x0) << 3;
  const taps = L.tapsV(layer);
  const size = L.heightPx(layer);
  const repeats = L.repeatsY(layer);
  kept = room;
  others = kept + KEPT_BYTES;
  rows = others + OTHERS_BYTES;
  pitchOfRows = bytes + ROW_SPARE;
  for (let k = 0; k < taps; k++) store<i32>(kept + (<usize>k << 2), NO_ROW);
  for (let y = top; y < bottom; y++, to += pitch) {
    const v = L.vPerY(layer) * <f64>y + L.vAtOrigin(layer);
    const share = repeats ? 1 : L.shareOf(v, abs(L.vPerY(layer)), L.top(layer), L.bottom(layer));
    if (share == 0) continue;
    const places = L.inPhases(v);
    const texel = Math.floor(places / L.PHASES);
    const weights = table + L.filterV(layer) + <usize>((<i32>(places - texel * L.PHASES) * taps) << 1);
    const near = repeats
      ? texel - Math.floor(texel / <f64>size) * <f64>size
      : max(<f64>-L.MOST_TAPS, min(texel, <f64>(size + L.MOST_TAPS)));
    const first = <i32>near + 1 - (taps >> 1);
    for (let row = first; row < first + taps; row++) takeRow(layer, row, taps, x0, x1);
    arrange(first, taps, weights);
    const shareQ15 = <i32>(share * 32768 + 0.5);
    if (keeps) keep(to, bytes, taps, shareQ15);
    else layOver(layer, to, bytes, taps, shareQ15);
  }
}

/** Whether every px lies on just one texel, so that nothing is to be weighed. */
function isInPlace(layer: usize): bool {
  if (L.uPerX(layer) != 1 || L.vPerY(layer) != 1 || L.repeatsX(layer) || L.repeatsY(layer)) return false;
  const ends =
    L.left(layer) == 0 && L.top(layer) == 0 && L.right(layer) == <f64>L.widthPx(layer) && L.bottom(layer) == <f64>L.heightPx(layer);
  return ends && isWhole(L.uAtOrigin(layer)) && isWhole(L.vAtOrigin(layer));
}
/** To a phase. */
@inline function isWhole(at: f64): bool {
  return abs(at - nearest(at)) < 0.5 / <f64>L.PHASES;
}

function drawInPlace(layer: usize, to: usize, pitch: usize, x0: i32, x1: i32, top: i32, bottom: i32, keeps: bool): void {
  const u = <i32>max<f64>(-65536, min<f64>(65536, nearest(L.uAtOrigin(layer))));
  const v = <i32>max<f64>(-65536, min<f64>(65536, nearest(L.vAtOrigin(layer))));
  const from = max(x0, -u);
  const end = min(x1, L.widthPx(layer) - u);
  if (from >= end) return;
  const faded = isFaded(L.opacityQ15(layer));
  const opacity = opacityLanes(L.opacityQ15(layer));
  const minus1 = minusOne();
  const short = shortfall();
  const alphaAt = alphaBytes();
  const isWide = L.isWide(layer);
  const bytes = <usize>(end - from) << 3;
  for (let y = top; y < bottom; y++, to += pitch) {
    const row = y + v;
    if (row < 0 || row >= L.heightPx(layer)) continue;
    let texels = L.pixels(layer) + <usize>row * <usize>L.strideBytes(layer) + (<usize>(from + u) << (isWide ? 3 : 2));
    const at = to + (<usize>(from - x0) << 3);
    for (let i: usize = 0; i < bytes; i += 16) {
      let lanes = isWide ? v128.load(texels) : i16x8.shl(v128.load8x8_u(texels), 7);
      texels += isWide ? 16 : 8;
      // An odd row ends in half a vector: what follows it is not the layer's.
      if (i + 8 >= bytes) lanes = v128.and(lanes, i64x2(-1, 0));
      if (!v128.any_true(lanes)) continue;
      if (keeps) v128.store(at + i, lanes);
      else overFaded(at + i, lanes, faded, opacity, minus1, short, alphaAt);
    }
  }
}

@inline function slotOf(row: i32, taps: i32): i32 {
  return L.wrapped(row, taps);
}

/** Sees to it that a texel row, counted on beyond the border, is among those that are kept. */
@inline function takeRow(layer: usize, row: i32, taps: i32, x0: i32, x1: i32): void {
  const slot = <usize>slotOf(row, taps);
  if (load<i32>(kept + (slot << 2)) == row) return;
  store<i32>(kept + (slot << 2), row);
  const size = L.heightPx(layer);
  const texels = L.pixels(layer) + <usize>(L.repeatsY(layer) ? L.wrapped(row, size) : L.clamped(row, size)) * <usize>L.strideBytes(layer);
  gatherRow(layer, texels, rows + slot * pitchOfRows, x0, x1);
}

/** Where it stands, a byte for every eight pixels of a gathered row, whether there may be paint in them. */
@inline function paintOf(row: usize, bytes: usize): usize {
  return row + bytes + 64;
}

/** Columns [x0, x1) of one texel row as they are seen across; up to seven more come along. */
function gatherRow(layer: usize, texels: usize, to: usize, x0: i32, x1: i32): void {
  const taps = L.tapsU(layer);
  const column = L.gather(layer) + <usize>x0 * columnBytes(taps);
  const bytes = <usize>(x1 - x0) << 3;
  if (L.isWide(layer) || taps > 4) gatherAny(texels, to, bytes, column, taps, L.isWide(layer));
  else gatherBytes(texels, to, bytes, column, L.hasApart(layer));
  if (L.hasApart(layer)) joinApart(layer, texels, to, x0, x1, taps);
}

@inline function fourAt(texels: usize, column: usize): v128 {
  return v128.load(texels + <usize>load<i32>(column));
}

/** By four weights each, of bytes: eight columns at once, so that clear ones cost little. */
function gatherBytes(texels: usize, to: usize, bytes: usize, column: usize, anyApart: bool): void {
  const early = earlyBytes();
  const late = lateBytes();
  const half = halfOfBytes();
  const end = to + bytes;
  let paint = paintOf(to, bytes);
  for (let at = to; at < end; at += 64, column += 128, paint++) {
    const k = fourAt(texels, column);
    const l = fourAt(texels, column + 16);
    const m = fourAt(texels, column + 32);
    const n = fourAt(texels, column + 48);
    const p = fourAt(texels, column + 64);
    const q = fourAt(texels, column + 80);
    const r = fourAt(texels, column + 96);
    const s = fourAt(texels, column + 112);
    const any = v128.or(v128.or(v128.or(k, l), v128.or(m, n)), v128.or(v128.or(p, q), v128.or(r, s)));
    if (anyApart || v128.any_true(any)) {
      store<u8>(paint, 1);
      v128.store(at, twoOf(k, l, column + HEAD, early, late, half));
      v128.store(at, twoOf(m, n, column + 32 + HEAD, early, late, half), 16);
      v128.store(at, twoOf(p, q, column + 64 + HEAD, early, late, half), 32);
      v128.store(at, twoOf(r, s, column + 96 + HEAD, early, late, half), 48);
    } else {
      store<u8>(paint, 0);
      memory.fill(at, 0, 64);
    }
  }
}

@inline function twoOf(p: v128, q: v128, weights: usize, early: v128, late: v128, half: v128): v128 {
  return i16x8.narrow_i32x4_s(
    fromBytes(weighFour(p, weights, early, late), half),
    fromBytes(weighFour(q, weights + 16, early, late), half),
  );
}

/** By any number of weights, of bytes or lanes. */
function gatherAny(texels: usize, to: usize, bytes: usize, column: usize, taps: i32, isWide: bool): void {
  const next = columnBytes(taps);
  const end = to + bytes;
  const pairs = lanePairs();
  const half = isWide ? halfOfWide() : halfOfBytes();
  memory.fill(paintOf(to, bytes), 1, (bytes + 63) >> 6);
  for (; to < end; to += 16, column += 2 * next) {
    const p = texels + <usize>load<i32>(column);
    const q = texels + <usize>load<i32>(column + next);
    if (!isWide)
      v128.store(
        to,
        i16x8.narrow_i32x4_s(
          fromBytes(weighBytes(p, column + HEAD, taps), half),
          fromBytes(weighBytes(q, column + next + HEAD, taps), half),
        ),
      );
    else if (taps == 4)
      v128.store(
        to,
        i16x8.narrow_i32x4_s(
          fromWide(weighFourLanes(p, column + HEAD, pairs), half),
          fromWide(weighFourLanes(q, column + next + HEAD, pairs), half),
        ),
      );
    else
      v128.store(
        to,
        i16x8.narrow_i32x4_s(
          fromWide(weighLanes(p, column + HEAD, taps), half),
          fromWide(weighLanes(q, column + next + HEAD, taps), half),
        ),
      );
  }
}

/** The columns whose texels lie apart: where a tiled row begins again. */
function joinApart(layer: usize, texels: usize, to: usize, x0: i32, x1: i32, taps: i32): void {
  const bytes = columnBytes(taps);
  const isWide = L.isWide(layer);
  const size = L.widthPx(layer);
  let column = L.gather(layer) + <usize>x0 * bytes;
  for (let x = x0; x < x1; x++, to += 8, column += bytes) {
    const first = load<i32>(column, 4);
    if (first == TOGETHER) continue;
    let sum = i32x4.splat(0);
    for (let k = 0; k < taps; k++) {
      const place = <usize>L.wrapped(first + k, size) << (isWide ? 3 : 2);
      sum = i32x4.add(sum, weighOne(texels + place, isWide, load<i16>(column + HEAD + <usize>(k << 1))));
    }
    const lanes = isWide ? fromWide(sum, halfOfWide()) : fromBytes(sum, halfOfBytes());
    v128.store64_lane(to, i16x8.narrow_i32x4_s(lanes, lanes), 0);
  }
}

/** The row with the greatest weight, and the others with theirs (Q15): the sum of what they differ by from it is exact where it is alone. */
let base: usize = 0;

function arrange(first: i32, taps: i32, weights: usize): void {
  let most = 0;
  for (let k = 1; k < taps; k++)
    if (load<i16>(weights + <usize>(k << 1)) > load<i16>(weights + <usize>(most << 1))) most = k;
  let at = others;
  for (let k = 0; k < taps; k++) {
    const row = rows + <usize>slotOf(first + k, taps) * pitchOfRows;
    if (k == most) base = row;
    else {
      store<u32>(at, <u32>row);
      store<i32>(at, <i32>load<i16>(weights + <usize>(k << 1)) * 2, 4);
      at += 8;
    }
  }
}

@inline function otherRow(k: usize): usize {
  return <usize>load<u32>(others + (k << 3));
}
@inline function otherWeight(k: usize): v128 {
  return i16x8.splat(<i16>load<i32>(others + (k << 3), 4));
}

@inline function away(row: usize, from: v128, weight: v128): v128 {
  return times(i16x8.sub(v128.load(row), from), weight);
}

/** Four rows weighed, `on` bytes further. */
@inline function fourRows(from: usize, p: usize, q: usize, r: usize, on: usize, byP: v128, byQ: v128, byR: v128): v128 {
  const most = v128.load(from + on);
  const one = times(i16x8.sub(v128.load(p + on), most), byP);
  const two = times(i16x8.sub(v128.load(q + on), most), byQ);
  const three = times(i16x8.sub(v128.load(r + on), most), byR);
  return i16x8.add(i16x8.add(most, one), i16x8.add(two, three));
}

/** The rows weighed, at `at` bytes from their beginning, as 14-bit lanes. */
function weighed(at: usize, taps: i32): v128 {
  const from = v128.load(base + at);
  let sum = from;
  for (let k = 0; k < taps - 1; k++) sum = i16x8.add(sum, away(otherRow(k) + at, from, otherWeight(k)));
  return sum;
}

/** The rows weighed, to `to`; an even count of pixels. */
function keep(to: usize, bytes: usize, taps: i32, shareQ15: i32): void {
  const alphaAt = alphaBytes();
  const opaque = opaque14();
  for (let at: usize = 0; at < bytes; at += 16) v128.store(to + at, shared(settled(weighed(at, taps), alphaAt, opaque), shareQ15));
}

/** The rows weighed, over what is at `to`. */
function layOver(layer: usize, to: usize, bytes: usize, taps: i32, shareQ15: i32): void {
  const fadeQ15 = shareQ15 >= 32768 ? L.opacityQ15(layer) : (L.opacityQ15(layer) * shareQ15 + 16384) >> 15;
  const faded = isFaded(fadeQ15);
  const opacity = opacityLanes(fadeQ15);
  const minus1 = minusOne();
  const short = shortfall();
  const alphaAt = alphaBytes();
  const opaque = opaque14();
  let at: usize = 0;
  if (taps == 4) {
    const p = otherRow(0);
    const q = otherRow(1);
    const r = otherRow(2);
    const byP = otherWeight(0);
    const byQ = otherWeight(1);
    const byR = otherWeight(2);
    let paint: usize = bytes + 64;
    for (; at + 64 <= bytes; at += 64, to += 64, paint++) {
      if ((load<u8>(base + paint) | load<u8>(p + paint) | load<u8>(q + paint) | load<u8>(r + paint)) == 0) continue;
      const b = base + at;
      const pAt = p + at;
      const qAt = q + at;
      const rAt = r + at;
      overFaded(to, settled(fourRows(b, pAt, qAt, rAt, 0, byP, byQ, byR), alphaAt, opaque), faded, opacity, minus1, short, alphaAt);
      overFaded(to + 16, settled(fourRows(b, pAt, qAt, rAt, 16, byP, byQ, byR), alphaAt, opaque), faded, opacity, minus1, short, alphaAt);
      overFaded(to + 32, settled(fourRows(b, pAt, qAt, rAt, 32, byP, byQ, byR), alphaAt, opaque), faded, opacity, minus1, short, alphaAt);
      overFaded(to + 48, settled(fourRows(b, pAt, qAt, rAt, 48, byP, byQ, byR), alphaAt, opaque), faded, opacity, minus1, short, alphaAt);
    }
  }
  for (; at + 16 <= bytes; at += 16, to += 16)
    overFaded(to, settled(weighed(at, taps), alphaAt, opaque), faded, opacity, minus1, short, alphaAt);
  // An odd row ends in half a vector: what follows it is not the layer's.
  if (at < bytes) overFaded(to, v128.and(settled(weighed(at, taps), alphaAt, opaque), i64x2(-1, 0)), faded, opacity, minus1, short, alphaAt);
}
