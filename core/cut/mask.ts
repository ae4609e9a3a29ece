import type { Box } from '../geometry/index.ts';
import type { Raster } from '../image/index.ts';

/** How much of each pixel is chosen, 0 to 255, rows from the top. */
export interface Mask {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly data: Uint8Array;
}

export const emptyMask = (widthPx: number, heightPx: number): Mask => ({
  widthPx,
  heightPx,
  data: new Uint8Array(widthPx * heightPx),
});

/** The smallest box of all that is chosen, or null. */
export function maskBox({ widthPx, heightPx, data }: Mask): Box | null {
  let [x0, y0, x1, y1] = [widthPx, heightPx, 0, 0];
  for (let y = 0; y < heightPx; y++) {
    const row = data.subarray(y * widthPx, (y + 1) * widthPx);
    const first = row.findIndex((v) => v > 0);
    if (first < 0) continue;
    x0 = Math.min(x0, first);
    x1 = Math.max(x1, row.findLastIndex((v) => v > 0) + 1);
    y0 = Math.min(y0, y);
    y1 = y + 1;
  }
  return x1 > x0 ? { x0, y0, x1, y1 } : null;
}

/**
 * The share of each pixel inside a closed outline (nonzero winding), by the exact area that its edges sweep: signed
 * steps along each row, then their running sum.
 */
export function outlineMask(
  points: readonly (readonly [number, number])[],
  { widthPx, heightPx }: Raster,
): Mask {
  const mask = emptyMask(widthPx, heightPx);
  const top = Math.max(0, Math.floor(Math.min(...points.map(([, y]) => y))));
  const bottom = Math.min(heightPx, Math.ceil(Math.max(...points.map(([, y]) => y))));
  const steps = new Float64Array(widthPx + 2);
  for (let y = top; y < bottom; y++) {
    steps.fill(0);
    points.forEach((from, i) => {
      sweep(steps, from, points[(i + 1) % points.length] as readonly [number, number], y, widthPx);
    });
    let sum = 0;
    for (let x = 0; x < widthPx; x++) {
      sum += steps[x] as number;
      mask.data[y * widthPx + x] = Math.round(255 * Math.min(1, Math.abs(sum)));
    }
  }
  return mask;
}

/** Adds one edge's part in row `y`, cut where it goes from column to column. */
function sweep(
  steps: Float64Array,
  [ax, ay]: readonly [number, number],
  [bx, by]: readonly [number, number],
  y: number,
  width: number,
): void {
  if (ay === by) return;
  const [low, high] = [Math.max(y, Math.min(ay, by)), Math.min(y + 1, Math.max(ay, by))];
  if (low >= high) return;
  const sign = ay < by ? 1 : -1;
  const inside = (x: number) => Math.min(width, Math.max(0, x));
  const xAt = (v: number) => ax + ((bx - ax) * (v - ay)) / (by - ay);
  const [p, q] = [xAt(low), xAt(high)];
  /** A piece within one column: what lies right of it is covered from its middle on, on average. */
  const piece = (from: number, to: number, height: number) => {
    const middle = (inside(from) + inside(to)) / 2;
    const column = Math.floor(middle);
    steps[column] = (steps[column] as number) + sign * height * (1 - (middle - column));
    steps[column + 1] = (steps[column + 1] as number) + sign * height * (middle - column);
  };
  const [left, right] = [Math.min(p, q), Math.max(p, q)];
  const perColumn = (high - low) / (right - left);
  let from = left;
  // Beyond either side of the image nothing depends on the column.
  for (let to = left < 0 ? 0 : Math.floor(left) + 1; to < right; to = to < width ? to + 1 : right) {
    piece(from, to, (to - from) * perColumn);
    from = to;
  }
  piece(from, right, right > left ? (right - from) * perColumn : high - low);
}

interface ColourChoice {
  readonly at: readonly [number, number];
  /** Largest difference of any of the four channels, 0 to 255; 0 takes only the very same colour. */
  readonly tolerance: number;
  readonly contiguous: boolean;
}

/** Every pixel whose colour is near that at a point: all of them, or those that hang together with it by their sides. */
export function colourMask(image: Raster, { at, tolerance, contiguous }: ColourChoice): Mask {
  const { widthPx: width, heightPx: height, data } = image;
  const mask = emptyMask(width, height);
  const [x, y] = [Math.floor(at[0]), Math.floor(at[1])];
  if (x < 0 || y < 0 || x >= width || y >= height) return mask;
  const like = data.slice((y * width + x) * 4, (y * width + x) * 4 + 4);
  const isNear = (i: number): boolean => {
    const alpha = data[i * 4 + 3] as number;
    if (Math.abs(alpha - (like[3] as number)) > tolerance) return false;
    // What is clear has no colour to compare.
    if (alpha === 0 && like[3] === 0) return true;
    for (let c = 0; c < 3; c++)
      if (Math.abs((data[i * 4 + c] as number) - (like[c] as number)) > tolerance) return false;
    return true;
  };
  if (!contiguous) {
    for (let i = 0; i < mask.data.length; i++) if (isNear(i)) mask.data[i] = 255;
    return mask;
  }
  const open = [y * width + x];
  while (open.length > 0) {
    const start = open.pop() as number;
    if (mask.data[start] === 255) continue;
    const row = Math.floor(start / width) * width;
    let left = start;
    while (left > row && mask.data[left - 1] === 0 && isNear(left - 1)) left -= 1;
    let right = start;
    while (right < row + width - 1 && mask.data[right + 1] === 0 && isNear(right + 1)) right += 1;
    for (let i = left; i <= right; i++) mask.data[i] = 255;
    for (const step of [-width, width]) {
      for (let i = left + step; i <= right + step; i++) {
        if (i < 0 || i >= mask.data.length || mask.data[i] === 255 || !isNear(i)) continue;
        open.push(i);
        while (i < right + step && mask.data[i + 1] === 0 && isNear(i + 1)) i += 1;
      }
    }
  }
  return mask;
}

/**
 * Softens the border over about `radiusPx` to either side: three box blurs, which come near a Gaussian (W3C Filter
 * Effects Level 1, feGaussianBlur).
 */
export function feather(mask: Mask, radiusPx: number): Mask {
  const box = Math.round((radiusPx * 2) / 3);
  if (box < 1) return mask;
  let data = Float32Array.from(mask.data);
  for (let pass = 0; pass < 3; pass++) {
    data = boxBlur(data, mask.widthPx, mask.heightPx, box, 1, mask.widthPx);
    data = boxBlur(data, mask.heightPx, mask.widthPx, box, mask.widthPx, 1);
  }
  return { ...mask, data: Uint8Array.from(data, (v) => Math.round(Math.min(255, v))) };
}

/** Means over 2·reach + 1 along lines; past the ends the last value goes on. */
function boxBlur(
  from: Float32Array,
  length: number,
  lines: number,
  reach: number,
  step: number,
  lineStep: number,
): Float32Array<ArrayBuffer> {
  const out = new Float32Array(from.length);
  const size = 2 * reach + 1;
  for (let line = 0; line < lines; line++) {
    const at = (i: number) => from[line * lineStep + Math.min(length - 1, Math.max(0, i)) * step] as number;
    let sum = 0;
    for (let i = -reach; i <= reach; i++) sum += at(i);
    for (let i = 0; i < length; i++) {
      out[line * lineStep + i * step] = sum / size;
      sum += at(i + reach + 1) - at(i - reach);
    }
  }
  return out;
}
