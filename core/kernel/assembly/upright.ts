import * as L from './layer';
import {
  alphaBytes,
  isFaded,
  loadPixels,
  minusOne,
  mix,
  opacityLanes,
  overFaded,
  pick,
  rights,
  shortfall,
} from './lanes';

/** What is known of two neighbouring columns: where their texels lie (i32), their picks (i32), their weights (8 × Q15). */
const PAIR_BYTES: usize = 32;
/** Texels that one vector of pixels holds. */
const REACH: i32 = 4;
/** Outside the image: no texel. */
const NOWHERE: i32 = REACH - 1;
const NOTHING: i64 = 0x8080808080808080;
/** Set in the place of a pair whose texels do not lie in one vector: its columns are read one by one. */
const APART: i32 = 1;

/** Picks for every two pixels, each beginning at one of the first texels of a vector or nowhere. */
export const PICKS_BYTES: usize = <usize>(REACH * REACH) * 32;
let picks: usize = 0;

/** The bytes of a texel as lanes. */
@inline function lanesOf(texel: i32): i64 {
  return 0x8003800280018000 + 0x0004000400040004 * <i64>texel;
}

/** Lays them out at `at`: for texels p and q at (p · REACH + q) · 32 the left texels of both, then the right ones. */
export function placePicks(at: usize): void {
  picks = at;
  for (let p = 0; p < REACH; p++)
    for (let q = 0; q < REACH; q++, at += 32) {
      store<i64>(at, p == NOWHERE ? NOTHING : lanesOf(p));
      store<i64>(at, q == NOWHERE ? NOTHING : lanesOf(q), 8);
      store<i64>(at, p == NOWHERE ? NOTHING : lanesOf(p + 1), 16);
      store<i64>(at, q == NOWHERE ? NOTHING : lanesOf(q + 1), 24);
    }
}

/** Texel column that column x reads from, or −1 where the image is not. */
@inline function columnAt(layer: usize, u: f64): i32 {
  return u >= 0 && u < <f64>(L.widthPx(layer) + 1) ? <i32>u : -1;
}
@inline function placeOf(layer: usize, x: i32): f64 {
  const u = L.uPerX(layer) * <f64>x + L.uAtOrigin(layer);
  return L.repeatsX(layer) ? L.comeRound(u, L.widthPx(layer)) : u;
}
@inline function weightOf(u: f64, column: i32): i16 {
  return column < 0 ? 0 : <i16>((u - <f64>column) * 32768);
}

/** Bytes behind a gathered row: for what comes along, and for whether there is paint in each eight pixels. */
export const ROW_SPARE: usize = 64 + 192;

/** Columns that are gathered at once: there are pairs for as many past the last one. */
const AT_ONCE: i32 = 8;

/** Pairs of columns of a layer whose map does not turn, for every output column; gives back what lies behind them. */
export function buildGather(layer: usize, at: usize, width: i32): usize {
  let pair = at;
  let anyApart = false;
  const columns = (width + AT_ONCE - 1) & -AT_ONCE;
  for (let x = 0; x < columns; x += 2, pair += PAIR_BYTES) {
    const u = placeOf(layer, x);
    const v = placeOf(layer, x + 1);
    const p = columnAt(layer, u);
    const q = columnAt(layer, v);
    const first = p < 0 ? max(q, 0) : q < 0 ? p : min(p, q);
    const wraps = L.repeatsX(layer) && (p == L.widthPx(layer) || q == L.widthPx(layer));
    const apart = wraps || max(p, q) - first > REACH - 2;
    if (apart) anyApart = true;
    store<i32>(pair, (first << 2) | (apart ? APART : 0));
    const pickP = p < 0 || apart ? NOWHERE : p - first;
    const pickQ = q < 0 || apart ? NOWHERE : q - first;
    store<i32>(pair, <i32>picks + ((pickP * REACH + pickQ) << 5), 4);
    v128.store(pair, v128.shuffle<i64>(i16x8.splat(weightOf(u, p)), i16x8.splat(weightOf(v, q)), 0, 2), 16);
  }
  L.setGather(layer, at);
  L.setHasApart(layer, anyApart);
  return pair;
}

/** The two texel rows that were gathered last, and where they lie. */
let upperRow: i32 = -1;
let lowerRow: i32 = -1;
let upper: usize = 0;
let lower: usize = 0;

/**
 * Columns [x0, x1), x0 even, of rows [top, bottom): pixel (x0, top) lies at `to`, the next row `pitch` bytes on. Texel rows
 * are gathered across, each once, and mixed down: laid over, or kept as they are. `room` holds two rows of a block.
 */
export function drawUpright(
  layer: usize,
  to: usize,
  pitch: usize,
  room: usize,
  x0: i32,
  x1: i32,
  top: i32,
  bottom: i32,
  keeps: bool,
): void {
  const bytes = <usize>(x1 - x0) << 3;
  upperRow = -1;
  lowerRow = -1;
  upper = room;
  lower = room + bytes + ROW_SPARE;
  const limit = <f64>(L.heightPx(layer) + 1);
  for (let y = top; y < bottom; y++, to += pitch) {
    let v = L.vPerY(layer) * <f64>y + L.vAtOrigin(layer);
    if (L.repeatsY(layer)) v = L.comeRound(v, L.heightPx(layer));
    if (!(v >= 0 && v < limit)) continue;
    const row = <i32>v;
    takeRows(layer, row, L.repeatsY(layer) && row >= L.heightPx(layer) ? 1 : row + 1, x0, x1);
    const down = i16x8.splat(<i16>((v - <f64>row) * 32768));
    if (keeps) keep(to, bytes, down);
    else layOver(layer, to, bytes, down);
  }
}

/** Sees to it that `upper` and `lower` are these two texel rows. */
function takeRows(layer: usize, row: i32, below: i32, x0: i32, x1: i32): void {
  if (row == lowerRow || below == upperRow) {
    const place = upper;
    upper = lower;
    lower = place;
    const known = upperRow;
    upperRow = lowerRow;
    lowerRow = known;
  }
  if (row != upperRow) gatherRow(layer, row, upper, x0, x1);
  if (below != lowerRow) gatherRow(layer, below, lower, x0, x1);
  upperRow = row;
  lowerRow = below;
}

/** Where it stands, a byte for every eight pixels of a gathered row, whether there may be paint in them. */
@inline function paintOf(row: usize, bytes: usize): usize {
  return row + bytes + 64;
}

/** Columns [x0, x1) of one texel row as they are seen across; up to seven more come along. */
function gatherRow(layer: usize, row: i32, to: usize, x0: i32, x1: i32): void {
  const texels = L.pixels(layer) + <usize>row * <usize>L.strideBytes(layer);
  const bytes = <usize>(x1 - x0) << 3;
  const end = to + bytes;
  const anyApart = L.hasApart(layer);
  let pair = L.gather(layer) + <usize>(x0 >> 1) * PAIR_BYTES;
  let paint = paintOf(to, bytes);
  for (let at = to; at < end; at += 64, pair += 4 * PAIR_BYTES, paint++) {
    const p = fourAt(texels, pair);
    const q = fourAt(texels, pair + PAIR_BYTES);
    const r = fourAt(texels, pair + 2 * PAIR_BYTES);
    const s = fourAt(texels, pair + 3 * PAIR_BYTES);
    if (anyApart || v128.any_true(v128.or(v128.or(p, q), v128.or(r, s)))) {
      store<u8>(paint, 1);
      v128.store(at, across(p, pair));
      v128.store(at, across(q, pair + PAIR_BYTES), 16);
      v128.store(at, across(r, pair + 2 * PAIR_BYTES), 32);
      v128.store(at, across(s, pair + 3 * PAIR_BYTES), 48);
    } else {
      store<u8>(paint, 0);
      const none = i64x2.splat(0);
      v128.store(at, none);
      v128.store(at, none, 16);
      v128.store(at, none, 32);
      v128.store(at, none, 48);
    }
  }
  if (anyApart) joinApart(layer, texels, to, x0, x1);
}

@inline function fourAt(texels: usize, pair: usize): v128 {
  return v128.load(texels + <usize>load<i32>(pair));
}

@inline function across(four: v128, pair: usize): v128 {
  const places = <usize>load<i32>(pair, 4);
  const left = i16x8.shl(pick(four, v128.load(places)), 7);
  const right = i16x8.shl(pick(four, v128.load(places, 16)), 7);
  return mix(left, right, v128.load(pair, 16));
}

/** The columns of pairs that lie apart: where a tiled row begins again, and where much of a row is left out. */
function joinApart(layer: usize, texels: usize, to: usize, x0: i32, x1: i32): void {
  const pairs = L.gather(layer);
  for (let x = x0; x < x1; x++, to += 8) {
    if ((load<i32>(pairs + <usize>(x >> 1) * PAIR_BYTES) & APART) == 0) continue;
    const u = placeOf(layer, x);
    const column = columnAt(layer, u);
    if (column < 0) continue;
    const right = L.repeatsX(layer) && column == L.widthPx(layer) ? 1 : column + 1;
    const p = loadPixels(texels + (<usize>column << 2));
    const q = loadPixels(texels + (<usize>right << 2));
    v128.store64_lane(to, mix(p, q, i16x8.splat(weightOf(u, column))), 0);
  }
}

/** The two rows mixed, to `to`; an even count of pixels. */
function keep(to: usize, bytes: usize, down: v128): void {
  let p = upper;
  let q = lower;
  const stop = to + bytes;
  for (; to < stop; to += 16, p += 16, q += 16)
    v128.store(to, mix(v128.load(p), v128.load(q), down));
}

/** The two rows mixed, over what is at `to`. */
function layOver(layer: usize, to: usize, bytes: usize, down: v128): void {
  const faded = isFaded(L.opacityQ15(layer));
  const opacity = opacityLanes(L.opacityQ15(layer));
  const minus1 = minusOne();
  const short = shortfall();
  const alphaAt = alphaBytes();
  let p = upper;
  let q = lower;
  let paintP = paintOf(p, bytes);
  let paintQ = paintOf(q, bytes);
  const stop = to + bytes;
  for (; to + 64 <= stop; to += 64, p += 64, q += 64, paintP++, paintQ++) {
    if ((load<u8>(paintP) | load<u8>(paintQ)) == 0) continue;
    const one = mix(v128.load(p), v128.load(q), down);
    const two = mix(v128.load(p, 16), v128.load(q, 16), down);
    const three = mix(v128.load(p, 32), v128.load(q, 32), down);
    const four = mix(v128.load(p, 48), v128.load(q, 48), down);
    overFaded(to, one, faded, opacity, minus1, short, alphaAt);
    overFaded(to + 16, two, faded, opacity, minus1, short, alphaAt);
    overFaded(to + 32, three, faded, opacity, minus1, short, alphaAt);
    overFaded(to + 48, four, faded, opacity, minus1, short, alphaAt);
  }
  for (; to < stop; to += 8, p += 8, q += 8)
    overFaded(to, mix(v128.load64_zero(p), v128.load64_zero(q), down), faded, opacity, minus1, short, alphaAt);
}
