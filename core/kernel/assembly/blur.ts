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
 * Gaussian down: `from` to `to`, whose rows are `stride` bytes apart. What lies above and
 * below is clear. `room`: (width + 2) · 8 bytes.
 */
export function blurDown(from: usize, to: usize, width: i32, height: i32, stride: i32, weights: usize, radius: i32, room: usize): void {
  const bytes = <usize>width << 3;
  for (let y = 0; y < height; y++) {
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

/** Running sums of a row in `sums`, four i32 a px, with `pad` px of clear before and behind it. */
@inline function sumRow(from: usize, sums: usize, width: i32, pad: i32): void {
  memory.fill(sums, 0, (<usize>pad + 1) << 4);
  let at = sums + ((<usize>pad + 1) << 4);
  let sum = i32x4.splat(0);
  for (let x = 0; x < width; x++) {
    sum = i32x4.add(sum, i32x4.extend_low_i16x8_u(v128.load64_zero(from)));
    v128.store(at, sum);
    from += 8;
    at += 16;
  }
  for (let x = 0; x < pad; x++, at += 16) v128.store(at, sum);
}

/**
 * Disc: `from` to `to`, whose rows are `stride` bytes apart. For each row from −radius to radius
 * `spans` has the whole pixels to either side (i32, −1 for less than one) and the share of the next ones (f32).
 * `scale`: 1 over the disc's area. `room`: 2·radius + 1 rows of running sums of (width + 2·radius + 6) · 16 bytes, and one
 * row of width · 16. Only the rows under the disc are kept at a time.
 */
export function blurDisc(from: usize, to: usize, width: i32, height: i32, stride: i32, spans: usize, radius: i32, scale: f32, room: usize): void {
  const rows = 2 * radius + 1;
  const pad = radius + 2;
  const rowBytes = (<usize>width + 2 * <usize>pad + 2) << 4;
  const acc = room + <usize>rows * rowBytes;
  const accEnd = acc + (<usize>width << 4);
  for (let y = 0; y < min(radius, height); y++) sumRow(from + <usize>y * <usize>width * 8, room + <usize>(y % rows) * rowBytes, width, pad);
  for (let y = 0; y < height; y++) {
    const next = y + radius;
    if (next < height) sumRow(from + <usize>next * <usize>width * 8, room + <usize>(next % rows) * rowBytes, width, pad);
    memory.fill(acc, 0, <usize>width << 4);
    const last = min(radius, height - 1 - y);
    for (let k = max(-radius, -y); k <= last; k++) {
      const span = spans + (<usize>(k + radius) << 3);
      const whole = <usize>(load<i32>(span) + 1);
      const share = v128.load32_splat(span, 4);
      // Sum of px [x − whole', x + whole'] is S[x + whole' + 1] − S[x − whole'], S[0] standing before px −pad.
      const middle = room + <usize>((y + k) % rows) * rowBytes + (<usize>pad << 4);
      let low = middle - ((whole - 1) << 4);
      let high = middle + (whole << 4);
      for (let at = acc; at < accEnd; at += 16, low += 16, high += 16) {
        const inLow = v128.load(low);
        const inHigh = v128.load(high);
        const ends = i32x4.add(i32x4.sub(inLow, v128.load(low - 16)), i32x4.sub(v128.load(high, 16), inHigh));
        const sum = f32x4.add(
          f32x4.convert_i32x4_s(i32x4.sub(inHigh, inLow)),
          f32x4.mul(f32x4.convert_i32x4_s(ends), share),
        );
        v128.store(at, f32x4.add(v128.load(at), sum));
      }
    }
    let out = to + <usize>y * <usize>stride;
    for (let at = acc; at < accEnd; at += 16, out += 8) {
      const scaled = f32x4.add(f32x4.mul(v128.load(at), f32x4.splat(scale)), f32x4.splat(0.5));
      const whole = i32x4.trunc_sat_f32x4_u(scaled);
      const alpha = v128.shuffle<i32>(whole, whole, 3, 3, 3, 3);
      const kept = i32x4.min_u(i32x4.min_u(whole, alpha), i32x4.splat(OPAQUE));
      v128.store64_lane(out, i16x8.narrow_i32x4_u(kept, kept), 0);
    }
  }
}

/** Rows of a picture into a level; `stride` is the level's. */
export function copyRows(from: usize, to: usize, width: i32, height: i32, stride: i32): void {
  for (let y = 0; y < height; y++) memory.copy(to + <usize>y * <usize>stride, from + <usize>y * <usize>width * 8, <usize>width << 3);
}

/** What rounding may have taken off an alpha that is opaque, lanes. */
const ROUNDED_OFF: u16 = 8;

/** The tile map of a level at `pixels`. 0 empty, 1 mixed, 2 opaque, as core/image's. */
export function mapTiles(pixels: usize, stride: i32, width: i32, height: i32, tiles: usize): void {
  for (let top = 0; top < height; top += 32) {
    for (let left = 0; left < width; left += 32) {
      let any: u64 = 0;
      let opaque = true;
      for (let y = top; y < min(top + 32, height); y++) {
        let at = pixels + <usize>y * <usize>stride + (<usize>left << 3);
        const end = pixels + <usize>y * <usize>stride + (<usize>min(left + 32, width) << 3);
        for (; at < end; at += 8) {
          any |= load<u64>(at);
          if (load<u16>(at, 6) < <u16>OPAQUE - ROUNDED_OFF) opaque = false;
        }
      }
      store<u8>(tiles++, any == 0 ? 0 : opaque ? 2 : 1);
    }
  }
}
