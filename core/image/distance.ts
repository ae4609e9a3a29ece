import type { DeepRaster } from './lanes.ts';
import type { Raster } from './raster.ts';

/** Distances to the edge are kept up to here, art px: all that is further in is told to be just so far. */
export const MOST_DISTANCE_PX = 4000;

/**
 * Distances are told three times, each up to another one, so that a narrow edge has as fine a ramp as a wide one: in the
 * alpha, in red and in green, art px that stand for a full one. Of premultiplied values none is larger than the alpha.
 */
export const DISTANCE_RANGES = [
  { channel: 3, px: 64 },
  { channel: 0, px: 512 },
  { channel: 1, px: MOST_DISTANCE_PX },
] as const;

/** Where the distances are read for an edge so wide. */
export const rangeFor = (softEdgePx: number): (typeof DISTANCE_RANGES)[number] =>
  DISTANCE_RANGES.find(({ px }) => px >= softEdgePx) ?? DISTANCE_RANGES[2];

/** From here on a px is paint: half of it is covered. */
const HALF = 0.5;

/** Along which axes the image comes round again, so that its border there is no edge. */
export interface Endless {
  readonly across: boolean;
  readonly down: boolean;
}

/**
 * How far every px of the paint lies from the nearest that is none, less half a px for the edge between them: the exact
 * Euclidean distance transform (Felzenszwalb and Huttenlocher, Distance Transforms of Sampled Functions, 2012). Beyond
 * its border an image is clear. As straight RGBA of 16 bits: see DISTANCE_RANGES.
 */
export function edgeDistances(image: Raster<'straight'> | DeepRaster, endless: Endless): DeepRaster {
  const { widthPx, heightPx } = image;
  const down = distancesDown(image, endless.down);
  const data = new Uint16Array(widthPx * heightPx * 4);
  const row = new RowTransform(widthPx, endless.across);
  const [near, far, farthest] = DISTANCE_RANGES;
  for (let y = 0; y < heightPx; y++) {
    const distances = row.of(down, y * widthPx);
    for (let x = 0; x < widthPx; x++) {
      const distance = Math.max(0, distances[x]! - 0.5);
      if (distance === 0) continue;
      const at = (y * widthPx + x) * 4;
      const alpha = Math.min(1, distance / near.px);
      const straight = (px: number) => Math.round((65_535 * Math.min(1, distance / px)) / alpha);
      data[at + near.channel] = Math.round(65_535 * alpha);
      data[at + far.channel] = straight(far.px);
      data[at + farthest.channel] = straight(farthest.px);
    }
  }
  return { widthPx, heightPx, colour: 'srgb', alpha: 'straight', data };
}

/** Px to the nearest clear one in the same column, up to one more than is kept. */
function distancesDown(image: Raster<'straight'> | DeepRaster, endless: boolean): Uint16Array {
  const { widthPx, heightPx, data } = image;
  const least = HALF * (data instanceof Uint16Array ? 65_535 : 255);
  const most = MOST_DISTANCE_PX + 1;
  const out = new Uint16Array(widthPx * heightPx);
  const last = new Uint16Array(widthPx);
  const sweep = (from: number, to: number, step: number) => {
    for (let y = from; y !== to; y += step)
      for (let x = 0; x < widthPx; x++) {
        const at = y * widthPx + x;
        const clear = (data[at * 4 + 3] as number) < least;
        last[x] = clear ? 0 : Math.min(most, last[x]! + 1);
        out[at] = Math.min(out[at]!, last[x]!);
      }
  };
  out.fill(most);
  // What comes round begins with what the other end has left, after one sweep that only finds that out.
  last.fill(endless ? most : 0);
  sweep(0, heightPx, 1);
  if (endless) sweep(0, heightPx, 1);
  last.fill(endless ? most : 0);
  sweep(heightPx - 1, -1, -1);
  if (endless) sweep(heightPx - 1, -1, -1);
  return out;
}

/** One row of the transform: the least of (x − q)² + g(q)² over all q, by the envelope of parabolas. */
class RowTransform {
  private readonly width: number;
  private readonly endless: boolean;
  private readonly squares: Float64Array;
  private readonly places: Int32Array;
  private readonly bounds: Float64Array;
  private readonly out: Float64Array;

  constructor(width: number, endless: boolean) {
    this.width = width;
    this.endless = endless;
    // Thrice where it comes round, else with a clear px at either end.
    const length = endless ? 3 * width : width + 2;
    this.squares = new Float64Array(length);
    this.places = new Int32Array(length);
    this.bounds = new Float64Array(length + 1);
    this.out = new Float64Array(width);
  }

  of(down: Uint16Array, at: number): Float64Array {
    const { width, squares, places, bounds, out, endless } = this;
    const first = endless ? width : 1;
    for (let i = 0; i < squares.length; i++) {
      const x = endless ? i % width : i - 1;
      squares[i] = x < 0 || x >= width ? 0 : down[at + x]! ** 2;
    }
    let k = 0;
    places[0] = 0;
    bounds[0] = Number.NEGATIVE_INFINITY;
    bounds[1] = Number.POSITIVE_INFINITY;
    for (let q = 1; q < squares.length; q++) {
      let meets = this.meets(q, places[k]!);
      while (meets <= bounds[k]!) meets = this.meets(q, places[--k]!);
      places[++k] = q;
      bounds[k] = meets;
      bounds[k + 1] = Number.POSITIVE_INFINITY;
    }
    k = 0;
    for (let x = 0; x < width; x++) {
      const i = x + first;
      while (bounds[k + 1]! < i) k += 1;
      out[x] = Math.sqrt((i - places[k]!) ** 2 + squares[places[k]!]!);
    }
    return out;
  }

  /** Where the parabolas of two places meet. */
  private meets(q: number, p: number): number {
    return (this.squares[q]! + q * q - this.squares[p]! - p * p) / (2 * (q - p));
  }
}

/** What is left of the alpha so far from the edge: 3t² − 2t³ of its share of the width. */
export function softEdgeAt(distancePx: number, widthPx: number): number {
  const t = Math.min(1, Math.max(0, distancePx / widthPx));
  return t * t * (3 - 2 * t);
}
