import { times } from './lanes';

// Blurs one picture by passes. Weights, spans, sizes and the room for rows come from ../group-job.ts.

/** Fills `count` px of lanes at `to` from bytes. */
@inline function expand(from: usize, to: usize, count: i32): void {
  const end = to + (<usize>count << 3);
  for (; to < end; to += 16, from += 8) v128.store(to, i16x8.shl(v128.load8x8_u(from), 7));
}

/** Two pixels' mean of two sources, times a weight in Q15. Lanes are unsigned: the sum of two fits 16 bit. */
@inline function weighted(p: v128, q: v128, weightAt: usize): v128 {
  return times(i16x8.shr_u(i16x8.add(p, q), 1), v128.load16_splat(weightAt));
}

/**
 * Gaussian across: `from`, premultiplied RGBA without a border, to lanes in `to` (8 bytes a pixel).
 * `weights`: radius + 1 values in Q15, the middle one first, the others doubled; outside the picture everything is clear.
 * `room`: (width + 2·radius + 4) · 8 bytes.
 */
export function blurAcross(from: usize, to: usize, width: i32, height: i32, weights: usize, radius: i32, room: usize): void {
  memory.fill(room, 0, (<usize>width + 2 * <usize>radius + 4) << 3);
  const row = room + (<usize>radius << 3);
  const bytes = <usize>width << 3;
  for (let y = 0; y < height; y++) {
    expand(from + <usize>y * <usize>width * 4, row, width);
    // An odd row expands one px too many.
    store<u64>(row + bytes, 0);
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
 * Gaussian down: lanes of `from` to premultiplied bytes at `to`, whose rows are `stride` bytes apart. What lies above and
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
    for (let x = 0; x < width; x++) store<u32>(out + (<usize>x << 2), packed(v128.load64_zero(room + (<usize>x << 3))));
  }
}

/** One pixel of lanes to bytes, rounded; no colour above its alpha. */
@inline function packed(lanes: v128): u32 {
  const alpha = v128.shuffle<i8>(lanes, lanes, 6, 7, 6, 7, 6, 7, 6, 7, 6, 7, 6, 7, 6, 7, 6, 7);
  const sum = i16x8.shr_s(i16x8.add_sat_s(i16x8.min_s(lanes, alpha), i16x8.splat(64)), 7);
  return <u32>i32x4.extract_lane(i8x16.narrow_i16x8_u(sum, sum), 0);
}

/** Running sums of a row of bytes in `sums`, four i32 a px, with `pad` px of clear before and behind it. */
@inline function sumRow(from: usize, sums: usize, width: i32, pad: i32): void {
  memory.fill(sums, 0, (<usize>pad + 1) << 4);
  let at = sums + ((<usize>pad + 1) << 4);
  let sum = i32x4.splat(0);
  for (let x = 0; x < width; x++) {
    sum = i32x4.add(sum, i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(from))));
    v128.store(at, sum);
    from += 4;
    at += 16;
  }
  for (let x = 0; x < pad; x++, at += 16) v128.store(at, sum);
}

/**
 * Disc: premultiplied bytes of `from` to `to`, whose rows are `stride` bytes apart. For each row from −radius to radius
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
  for (let y = 0; y < min(radius, height); y++) sumRow(from + <usize>y * <usize>width * 4, room + <usize>(y % rows) * rowBytes, width, pad);
  for (let y = 0; y < height; y++) {
    const next = y + radius;
    if (next < height) sumRow(from + <usize>next * <usize>width * 4, room + <usize>(next % rows) * rowBytes, width, pad);
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
    for (let at = acc; at < accEnd; at += 16, out += 4) {
      const scaled = f32x4.add(f32x4.mul(v128.load(at), f32x4.splat(scale)), f32x4.splat(0.5));
      const bytes = i32x4.trunc_sat_f32x4_u(scaled);
      const alpha = v128.shuffle<i32>(bytes, bytes, 3, 3, 3, 3);
      const kept = i32x4.min_u(i32x4.min_u(bytes, alpha), i32x4.splat(255));
      const narrow = i16x8.narrow_i32x4_u(kept, kept);
      store<u32>(out, <u32>i32x4.extract_lane(i8x16.narrow_i16x8_u(narrow, narrow), 0));
    }
  }
}

/** Rows of a picture into a level; `stride` is the level's. */
export function copyRows(from: usize, to: usize, width: i32, height: i32, stride: i32): void {
  for (let y = 0; y < height; y++) memory.copy(to + <usize>y * <usize>stride, from + <usize>y * <usize>width * 4, <usize>width << 2);
}

/** The tile map of a level at `pixels`. 0 empty, 1 mixed, 2 opaque, as core/image's. */
export function mapTiles(pixels: usize, stride: i32, width: i32, height: i32, tiles: usize): void {
  for (let top = 0; top < height; top += 32) {
    for (let left = 0; left < width; left += 32) {
      let any: u32 = 0;
      let all: u32 = 0xff000000;
      for (let y = top; y < min(top + 32, height); y++) {
        let at = pixels + <usize>y * <usize>stride + (<usize>left << 2);
        const end = pixels + <usize>y * <usize>stride + (<usize>min(left + 32, width) << 2);
        for (; at < end; at += 4) {
          const pixel = load<u32>(at);
          any |= pixel;
          all &= pixel;
        }
      }
      store<u8>(tiles++, any == 0 ? 0 : all == 0xff000000 ? 2 : 1);
    }
  }
}
