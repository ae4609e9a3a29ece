import { times } from './lanes';

// Blurs one picture by passes, from 15-bit lanes to 15-bit lanes: premultiplied, 8 bytes a pixel. Weights, spans, sizes and
// the room for rows come from ../group-job.ts.

/** Two pixels' mean of two sources, times a weight in Q15. Lanes are unsigned: the sum of two fits 16 bit. */
@inline function weighted(p: v128, q: v128, weightAt: usize): v128 {
  return times(i16x8.shr_u(i16x8.add(p, q), 1), v128.load16_splat(weightAt));
}

/**
 * Gaussian across, `from` to `to`.
 * `weights`: radius + 1 values in Q15, the middle one first, the others doubled; outside the picture everything is clear.
 * `room`: (width + 2·radius + 4) · 8 bytes.
 */
export function blurAcross(from: usize, to: usize, width: i32, height: i32, weights: usize, radius: i32, room: usize): void {
  memory.fill(room, 0, (<usize>width + 2 * <usize>radius + 4) << 3);
  const row = room + (<usize>radius << 3);
  const bytes = <usize>width << 3;
  for (let y = 0; y < height; y++) {
    memory.copy(row, from + <usize>y * bytes, bytes);
    for (let x: usize = 0; x < bytes; x += 16) {
      const at = row + x;
      let sum = times(v128.load(at), v128.load16_splat(weights));
      for (let k = 1; k <= radius; k++) {
        const beside = <usize>k << 3;
        sum = i16x8.add_sat_s(sum, weighted(v128.load(at - beside), v128.load(at + beside), weights + (<usize>k << 1)));
      }
      if (x + 8 < bytes) v128.store(to + x, sum);
      else store<u64>(to + x, i64x2.extract_lane(sum, 0));
    }
    to += bytes;
  }
}

/**
 * Gaussian down: rows [top, bottom) of `from` to `to`, whose rows are `stride` bytes apart. What lies above and below the
 * picture is clear. `room`: (width + 2) · 8 bytes.
 */
export function blurDown(from: usize, to: usize, width: i32, height: i32, stride: i32, weights: usize, radius: i32, room: usize, top: i32, bottom: i32): void {
  const bytes = <usize>width << 3;
  for (let y = top; y < bottom; y++) {
    const middle = from + <usize>y * bytes;
    for (let x: usize = 0; x < bytes; x += 16)
      v128.store(room + x, times(v128.load(middle + x), v128.load16_splat(weights)));
    const most = min(radius, max(y, height - 1 - y));
    for (let k = 1; k <= most; k++) {
      const weight = weights + (<usize>k << 1);
      const away = <usize>k * bytes;
      const above = middle - away;
      const below = middle + away;
      if (k <= y && k < height - y) {
        for (let x: usize = 0; x < bytes; x += 16)
          v128.store(room + x, i16x8.add_sat_s(v128.load(room + x), weighted(v128.load(above + x), v128.load(below + x), weight)));
      } else {
        const only = k <= y ? above : below;
        for (let x: usize = 0; x < bytes; x += 16)
          v128.store(room + x, i16x8.add_sat_s(v128.load(room + x), weighted(v128.load(only + x), i64x2.splat(0), weight)));
      }
    }
    const out = to + <usize>y * <usize>stride;
    for (let x: usize = 0; x < bytes; x += 8) v128.store64_lane(out + x, belowAlpha(v128.load64_zero(room + x)), 0);
  }
}

/** One pixel with no colour above its alpha, and that no more than opaque. */
@inline function belowAlpha(lanes: v128): v128 {
  const alpha = v128.shuffle<i8>(lanes, lanes, 6, 7, 6, 7, 6, 7, 6, 7, 6, 7, 6, 7, 6, 7, 6, 7);
  return i16x8.min_s(i16x8.min_s(lanes, alpha), i16x8.splat(OPAQUE));
}

/** An opaque lane. */
const OPAQUE: i16 = 32640;

/**
 * Running sums of `count` px of a row from px `first` on in `sums`, four f32 a px, after one for what lies before them.
 * Outside the row everything is clear. Tells whether there is anything in them.
 */
function sumRow(row: usize, sums: usize, first: i32, count: i32, width: i32): bool {
  const from = max(0, first);
  const to = min(width, first + count);
  const lead = min(count, from - first);
  memory.fill(sums, 0, (<usize>lead + 1) << 4);
  let at = sums + ((<usize>lead + 1) << 4);
  // Summed in whole numbers: what a float rounds off then does not grow along the row.
  let sum = i32x4.splat(0);
  for (let x = from; x < to; x++, at += 16) {
    sum = i32x4.add(sum, i32x4.extend_low_i16x8_u(v128.load64_zero(row + (<usize>x << 3))));
    v128.store(at, f32x4.convert_i32x4_s(sum));
  }
  const end = f32x4.convert_i32x4_s(sum);
  const last = sums + (<usize>count << 4);
  for (; at <= last; at += 16) v128.store(at, end);
  return v128.any_true(sum);
}

/** Px that a disc is laid over at a time. */
const ABREAST: i32 = 4;
/** Clear px beside a row of running sums, beyond the disc's radius. */
const BESIDE: i32 = ABREAST + 2;

/** Bytes of two rows that are as far above as below, in the list of those under the disc: their sums' left and right ends, and the share. */
const PAIR: usize = 32;

/** What lies between the ends of the whole px, and so much of what the next ones add. */
@inline function between(low: v128, high: v128, lower: v128, higher: v128, share: v128): v128 {
  const whole = f32x4.sub(high, low);
  return f32x4.add(whole, f32x4.mul(f32x4.sub(f32x4.sub(higher, lower), whole), share));
}

/** A px of the disc's mean as 15-bit lanes, at `out`. */
@inline function putMean(out: usize, sum: v128, scale: f32): void {
  const scaled = f32x4.add(f32x4.mul(sum, f32x4.splat(scale)), f32x4.splat(0.5));
  const whole = i32x4.trunc_sat_f32x4_u(scaled);
  const alpha = v128.shuffle<i32>(whole, whole, 3, 3, 3, 3);
  const kept = i32x4.min_u(i32x4.min_u(whole, alpha), i32x4.splat(OPAQUE));
  v128.store64_lane(out, i16x8.narrow_i32x4_u(kept, kept), 0);
}

/** Columns that may be gone down at a time: the sums of all rows under the disc then stay in a near cache. */
const STRIP: i32 = 128;

/**
 * Disc: columns [x0, x0 + count) of rows [top, bottom), `from` to `to`, whose rows are `stride` bytes apart; at most 128
 * columns. For each row from −radius to radius `spans` has the whole pixels to either side (i32, −1 for less than one) and
 * the share of the next ones (f32); it is the same above as below. `scale`: 1 over the disc's area. `room`: 2·radius + 2 rows
 * of running sums of (128 + 2·radius + 14) · 16 bytes, (radius + 1) · 64 and (2·radius + 1) · 4.
 */
export function blurDisc(
  from: usize,
  to: usize,
  width: i32,
  height: i32,
  stride: i32,
  spans: usize,
  radius: i32,
  scale: f32,
  room: usize,
  x0: i32,
  count: i32,
  top: i32,
  bottom: i32,
): void {
  const rows = 2 * radius + 1;
  const pad = radius + BESIDE;
  const summed = STRIP + 2 * pad + 1;
  const rowBytes = (<usize>summed + 1) << 4;
  const clear = room + <usize>rows * rowBytes;
  const pairs = clear + rowBytes;
  memory.fill(clear, 0, rowBytes);
  const near = pairs + <usize>(radius + 1) * PAIR;
  // Where there is nothing in a row the clear one stands for it: what is under the disc above and below then costs nothing.
  const places = near + <usize>(radius + 1) * PAIR;
  const out = to + (<usize>x0 << 3);
  for (let y = max(0, top - radius); y < bottom + radius; y++) {
    if (y < height) {
      const sums = room + <usize>(y % rows) * rowBytes;
      const any = sumRow(from + <usize>y * <usize>width * 8, sums, x0 - pad, summed, width);
      store<u32>(places + (<usize>(y % rows) << 2), <u32>(any ? sums : clear));
    }
    const middle = y - radius;
    if (middle < top) continue;
    const end = listPairs(middle, height, radius, spans, pad, places, clear, pairs);
    discRow(out + <usize>middle * <usize>stride, count, pairs, end, near, scale);
  }
}

/** Lists the rows under the disc about row `y` two by two, as far above as below; returns where the list ends. */
function listPairs(y: i32, height: i32, radius: i32, spans: usize, pad: i32, places: usize, clear: usize, pairs: usize): usize {
  const rows = 2 * radius + 1;
  let at = pairs;
  for (let k = 0; k <= radius; k++) {
    const below = y + k < height ? <usize>load<u32>(places + (<usize>((y + k) % rows) << 2)) : clear;
    const above = k > 0 && y >= k ? <usize>load<u32>(places + (<usize>((y - k) % rows) << 2)) : clear;
    if (below == clear && above == clear) continue;
    const span = spans + (<usize>(k + radius) << 3);
    const whole = <usize>(load<i32>(span) + 1);
    // Sum of px [x − whole', x + whole'] is S[x + whole' + 1] − S[x − whole'], S[0] standing before px −pad.
    // Of the left ends the one before them is named, so that all that is read lies at or behind what is named.
    const low = (<usize>pad - whole) << 4;
    const high = (<usize>pad + whole) << 4;
    store<u32>(at, <u32>(above + low));
    store<u32>(at, <u32>(below + low), 4);
    store<u32>(at, <u32>(above + high), 8);
    store<u32>(at, <u32>(below + high), 12);
    store<f32>(at, load<f32>(span, 4), 16);
    at += PAIR;
  }
  return at;
}

/** Px of a row for which what lies under the disc is looked at together. */
const STRETCH: i32 = 64;

/** One row of means, stretch by stretch: of the pairs only those count that have anything near it. `near` has room for them. */
function discRow(out: usize, width: i32, pairs: usize, end: usize, near: usize, scale: f32): void {
  for (let x = 0; x < width; x += STRETCH, out += <usize>STRETCH << 3) {
    const count = min(STRETCH, width - x);
    const nearEnd = pairsNear(<usize>x << 4, <usize>count << 4, pairs, end, near);
    if (nearEnd == near) memory.fill(out, 0, <usize>count << 3);
    else discStretch(out, <usize>x << 4, count, near, nearEnd, scale);
  }
}

/** Whether sums rise from one place to the other: whether there is any alpha between them. */
@inline function rises(from: usize, to: usize): bool {
  return load<f32>(from, 12) != load<f32>(to, 12);
}

function pairsNear(along: usize, bytes: usize, pairs: usize, end: usize, near: usize): usize {
  for (let pair = pairs; pair < end; pair += PAIR) {
    const to = along + bytes;
    const above = rises(<usize>load<u32>(pair) + along, <usize>load<u32>(pair, 8) + to);
    if (!above && !rises(<usize>load<u32>(pair, 4) + along, <usize>load<u32>(pair, 12) + to)) continue;
    v128.store(near, v128.load(pair));
    store<f32>(near, load<f32>(pair, 16), 16);
    near += PAIR;
  }
  return near;
}

/** Four px at a time, whose sums stay in registers over all rows under the disc. */
function discStretch(out: usize, along: usize, count: i32, pairs: usize, end: usize, scale: f32): void {
  for (let x = 0; x < count; x += ABREAST, out += <usize>ABREAST << 3, along += <usize>ABREAST << 4) {
    let p = f32x4.splat(0);
    let q = f32x4.splat(0);
    let r = f32x4.splat(0);
    let s = f32x4.splat(0);
    for (let pair = pairs; pair < end; pair += PAIR) {
      const la = <usize>load<u32>(pair) + along;
      const lb = <usize>load<u32>(pair, 4) + along;
      const ha = <usize>load<u32>(pair, 8) + along;
      const hb = <usize>load<u32>(pair, 12) + along;
      const share = v128.load32_splat(pair, 16);
      // Each is read by an offset that is part of the instruction: a sum for each would take as long as what is read.
      const before = f32x4.add(v128.load(la), v128.load(lb));
      const l0 = f32x4.add(v128.load(la, 16), v128.load(lb, 16));
      const h0 = f32x4.add(v128.load(ha), v128.load(hb));
      const h1 = f32x4.add(v128.load(ha, 16), v128.load(hb, 16));
      p = f32x4.add(p, between(l0, h0, before, h1, share));
      const l1 = f32x4.add(v128.load(la, 32), v128.load(lb, 32));
      const h2 = f32x4.add(v128.load(ha, 32), v128.load(hb, 32));
      q = f32x4.add(q, between(l1, h1, l0, h2, share));
      const l2 = f32x4.add(v128.load(la, 48), v128.load(lb, 48));
      const h3 = f32x4.add(v128.load(ha, 48), v128.load(hb, 48));
      r = f32x4.add(r, between(l2, h2, l1, h3, share));
      const l3 = f32x4.add(v128.load(la, 64), v128.load(lb, 64));
      const h4 = f32x4.add(v128.load(ha, 64), v128.load(hb, 64));
      s = f32x4.add(s, between(l3, h3, l2, h4, share));
    }
    putMean(out, p, scale);
    if (x + 1 < count) putMean(out + 8, q, scale);
    if (x + 2 < count) putMean(out + 16, r, scale);
    if (x + 3 < count) putMean(out + 24, s, scale);
  }
}

/** Rows of (a part of) a picture, `apart` bytes from one to the next, into a level, whose rows are `stride` apart. */
export function copyRows(from: usize, to: usize, width: i32, height: i32, apart: i32, stride: i32): void {
  for (let y = 0; y < height; y++) memory.copy(to + <usize>y * <usize>stride, from + <usize>y * <usize>apart, <usize>width << 3);
}

/** What rounding may have taken off an alpha that is opaque, lanes. */
const ROUNDED_OFF: i16 = 8;

/** The tile map of (a part of) a level at `pixels`, whose rows are `apart` tiles long. 0 empty, 1 mixed, 2 opaque, as core/image's. */
export function mapTiles(pixels: usize, stride: i32, width: i32, height: i32, tiles: usize, apart: i32): void {
  for (let top = 0; top < height; top += 32, tiles += apart) {
    let tile = tiles;
    for (let left = 0; left < width; left += 32) {
      let any = i64x2.splat(0);
      let least = i16x8.splat(OPAQUE);
      for (let y = top; y < min(top + 32, height); y++) {
        let at = pixels + <usize>y * <usize>stride + (<usize>left << 3);
        const end = pixels + <usize>y * <usize>stride + (<usize>min(left + 32, width) << 3);
        for (; at + 16 <= end; at += 16) {
          const two = v128.load(at);
          any = v128.or(any, two);
          least = i16x8.min_s(least, two);
        }
        if (at == end) continue;
        const last = v128.load64_splat(at);
        any = v128.or(any, last);
        least = i16x8.min_s(least, last);
      }
      const alpha = min(i16x8.extract_lane_s(least, 3), i16x8.extract_lane_s(least, 7));
      store<u8>(tile++, !v128.any_true(any) ? 0 : alpha >= OPAQUE - ROUNDED_OFF ? 2 : 1);
    }
  }
}
