import { type Affine, compose, IDENTITY, rotation, scaling, translation } from '../geometry/index.ts';
import { type Raster, raster } from '../image/index.ts';
import type { SingleThreadRenderer } from '../kernel/index.ts';
import { CLEAR, renderLayers } from '../picture/index.ts';
import { framePlan } from '../staging/frame/index.ts';
import { testArt, testPlane, testPlaneId, testScene } from './scenes.ts';

/** RGBA of `SIDE` × `SIDE`, straight; `whole` is what opaque is: 255, or 65 535 where bytes would be too coarse to measure by. */
export interface Drawn {
  readonly data: ArrayLike<number>;
  readonly whole: 255 | 65_535;
}

/** What is measured: a way to draw art through a map, over nothing. */
export type DrawArt = (art: Raster<'straight'>, artToImage: Affine, repeats: boolean) => Promise<Drawn>;

/** Px of a drawn picture along each side. */
export const SIDE = 240;
const ART = 480;
const WHITE = 255 as const;

/** Grey art, opaque. */
export function greyArt(
  valueAt: (x: number, y: number) => number,
  widthPx = ART,
  heightPx = ART,
): Raster<'straight'> {
  const art = raster(widthPx, heightPx, 'straight');
  for (let y = 0, at = 0; y < heightPx; y++)
    for (let x = 0; x < widthPx; x++, at += 4) {
      const value = Math.min(WHITE, Math.max(0, Math.round(valueAt(x, y))));
      art.data.fill(value, at, at + 3);
      art.data[at + 3] = WHITE;
    }
  return art;
}

const valueAt = ({ data, whole }: Drawn, x: number, y: number, channel = 0): number =>
  ((data[(y * SIDE + x) * 4 + channel] as number) * WHITE) / whole;

export interface Range {
  readonly least: number;
  readonly most: number;
}

const rangeOf = (values: readonly number[]): Range => ({
  least: Math.min(...values),
  most: Math.max(...values),
});

/** Map that shows the art at (scaleX, scaleY), turned about its middle by `degrees`, moved by `panPx` across. */
export function artMap(
  { widthPx, heightPx }: Raster,
  scaleX: number,
  scaleY: number,
  degrees: number,
  panPx: number,
): Affine {
  return compose(
    translation(SIDE / 2 + panPx, SIDE / 2),
    compose(rotation(degrees), compose(scaling(scaleX, scaleY), translation(-widthPx / 2, -heightPx / 2))),
  );
}

export interface LineWeights {
  /** What the line carries in the picture, as a share of what it should. */
  readonly weight: Range;
  /** How far its middle stands from where it should, px. */
  readonly jitterPx: number;
}

/**
 * A dark line of one art px, upright, panned by tenths of a px: how much of it is in the picture, and where. In a
 * way of drawing that has no place between px (`pans` of none) the line moves through the art instead.
 */
export async function lineWeights(
  draw: DrawArt,
  scaleX: number,
  options: {
    readonly scaleY?: number;
    readonly widthPx?: number;
    readonly repeats?: boolean;
    readonly alpha?: boolean;
    readonly pans?: readonly number[];
    readonly columns?: readonly number[];
    /** Levels of the line and of what it lies on. */
    readonly dark?: number;
    readonly light?: number;
  } = {},
): Promise<LineWeights> {
  const { scaleY = scaleX, widthPx = ART, repeats = false, alpha = false } = options;
  const { pans = TENTHS, columns = [0, 1, 3], dark = 24, light = 216 } = options;
  const weights: number[] = [];
  const places: number[][] = [];
  for (const column of columns) {
    const line = Math.floor(widthPx / 2) + column;
    const art = greyArt((x) => (x === line ? dark : light), widthPx);
    // An opaque line on nothing: what it carries is its alpha.
    if (alpha)
      for (let i = 0; i < art.data.length; i += 4)
        art.data.set(art.data[i] === dark ? [0, 0, 0, WHITE] : [0, 0, 0, 0], i);
    const of: number[] = [];
    places.push(of);
    for (const pan of pans) {
      const map = artMap(art, scaleX, scaleY, 0, pan);
      const picture = await draw(art, map, repeats);
      const should = map.a * (line + 0.5) + map.e;
      const from = Math.max(0, Math.floor(should - 6 * Math.max(1, scaleX)));
      const to = Math.min(SIDE, Math.ceil(should + 6 * Math.max(1, scaleX)));
      let [sum, moment] = [0, 0];
      for (let x = from; x < to; x++) {
        const share = alpha
          ? valueAt(picture, x, SIDE / 2, 3) / WHITE
          : (light - valueAt(picture, x, SIDE / 2)) / (light - dark);
        sum += share;
        moment += share * (x + 0.5 - should);
      }
      weights.push(sum / scaleX);
      of.push(moment / sum);
    }
  }
  // Each line by itself: where its art has put it is the same in every frame.
  const deviations = places.flatMap((of) => {
    const mean = of.reduce((sum, at) => sum + at, 0) / of.length;
    return of.map((at) => (at - mean) ** 2);
  });
  const jitterPx = Math.sqrt(deviations.reduce((sum, square) => sum + square, 0) / deviations.length);
  return { weight: rangeOf(weights), jitterPx };
}

const TENTHS = Array.from({ length: 10 }, (_, i) => i / 10);
const AMPLITUDE = 100;

/** What is left of the contrast of a sine of `periodPx` art px at 1:1, in windows all over the picture and at all places. */
export async function stripeContrast(draw: DrawArt, periodPx: number, degrees: number): Promise<Range> {
  const art = greyArt((x) => 127.5 + AMPLITUDE * Math.sin((2 * Math.PI * (x + 0.5)) / periodPx));
  const found: number[] = [];
  for (const pan of TENTHS) {
    const map = artMap(art, 1, 1, degrees, pan);
    const picture = await draw(art, map, false);
    const turn = (degrees * Math.PI) / 180;
    const along = (x: number, y: number) => Math.cos(turn) * x + Math.sin(turn) * y;
    for (let top = 60; top < 180; top += WINDOW)
      for (let left = 60; left < 180; left += WINDOW) {
        // Least squares of a sine, a cosine and a constant.
        const rows: [number, number, number, number][] = [];
        for (let y = top; y < top + WINDOW; y++)
          for (let x = left; x < left + WINDOW; x++) {
            const phase = (2 * Math.PI * along(x, y)) / periodPx;
            rows.push([Math.sin(phase), Math.cos(phase), 1, valueAt(picture, x, y)]);
          }
        const [s, c] = leastSquares(rows);
        found.push(Math.hypot(s, c) / AMPLITUDE);
      }
  }
  return rangeOf(found);
}

const WINDOW = 24;

/** Coefficients of three columns that come nearest to the fourth, by the normal equations. */
function leastSquares(
  rows: readonly (readonly [number, number, number, number])[],
): [number, number, number] {
  const m = [0, 1, 2].map((i) =>
    [0, 1, 2, 3].map((j) => rows.reduce((sum, row) => sum + (row[i] as number) * (row[j] as number), 0)),
  );
  for (let i = 0; i < 3; i++)
    for (let k = 0; k < 3; k++) {
      if (k === i) continue;
      const factor = (m[k]![i] as number) / (m[i]![i] as number);
      for (let j = 0; j < 4; j++) m[k]![j] = (m[k]![j] as number) - factor * (m[i]![j] as number);
    }
  return [0, 1, 2].map((i) => (m[i]![3] as number) / (m[i]![i] as number)) as [number, number, number];
}

/** Circles that grow finer outward, to two px at the middle of each side: a zone plate, the test chart of sampled pictures. */
function zonePlate(): Raster<'straight'> {
  const middle = PLATE / 2;
  const away = (x: number, y: number) => (x + 0.5 - middle) ** 2 + (y + 0.5 - middle) ** 2;
  return greyArt((x, y) => 127.5 + 127.5 * Math.cos((Math.PI / PLATE) * away(x, y)), PLATE, PLATE);
}
const PLATE = SIDE;

/** What is left of a zone plate where it is too fine for the picture, levels rms from its mean: nothing should be. */
export async function zonePlateAlias(draw: DrawArt, scale: number): Promise<number> {
  const art = zonePlate();
  const map = artMap(art, scale, scale, 0, 0);
  const picture = await draw(art, map, false);
  // Cycles a px along an axis at `away` px from the middle: the plate ends at half a cycle an art px.
  const cycles = (away: number) => Math.abs(away) / scale / scale / PLATE;
  const half = (PLATE / 2) * scale - 3;
  let [sum, count] = [0, 0];
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++) {
      const [u, v] = [x + 0.5 - SIDE / 2, y + 0.5 - SIDE / 2];
      if (Math.abs(u) > half || Math.abs(v) > half || Math.max(cycles(u), cycles(v)) < 0.6) continue;
      sum += (valueAt(picture, x, y) - 127.5) ** 2;
      count += 1;
    }
  return count === 0 ? Number.NaN : Math.sqrt(sum / count);
}

const VIEW = { widthPx: SIDE, heightPx: SIDE, frameToImage: IDENTITY, background: CLEAR };

/** The kernel, by the resolution of maps and levels that plans go through. */
export function drawByKernel(renderer: SingleThreadRenderer): DrawArt {
  const known = new Map<object, number>();
  return async (art, artToFrame, repeats) => {
    const n = known.get(art) ?? known.size;
    known.set(art, n);
    const ref = testArt(n, art.widthPx, art.heightPx);
    renderer.addImage(ref.id, art);
    const plane = testPlane({ id: testPlaneId('p') }, art.widthPx, art.heightPx);
    const plan = framePlan(testScene([plane]), 1);
    const [drawn] = plan.planes;
    if (drawn?.state !== 'drawn') throw new Error('The plane is in view');
    const shown = { kind: 'image' as const, art: ref };
    const planes = [{ ...drawn, shown, artToFrame, repeat: repeats ? 'both' : 'none' } as const];
    const { data } = renderer.renderAs(renderLayers({ ...plan, planes }, VIEW), VIEW, 'straight16');
    return { data, whole: 65_535 };
  };
}

/** Each px the mean of the art under it: the plain reference of reduction. Upright only. */
export const drawByArea: DrawArt = async (art, { a, d, e, f }) => {
  const out = new Float64Array(SIDE * SIDE * 4);
  const [across, down] = [overlaps(art.widthPx, a, e), overlaps(art.heightPx, d, f)];
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++) {
      const sums = [0, 0, 0, 0];
      for (const [row, high] of down[y]!)
        for (const [column, wide] of across[x]!)
          for (const c of [0, 1, 2, 3])
            sums[c]! += high * wide * (art.data[(row * art.widthPx + column) * 4 + c] as number);
      out.set(sums, (y * SIDE + x) * 4);
    }
  return { data: out, whole: WHITE };
};

/** Of each px along an axis the texels that it lies on, and its share of each. */
function overlaps(size: number, scale: number, shift: number): [number, number][][] {
  return Array.from({ length: SIDE }, (_, i) => {
    const [from, to] = [(i - shift) / scale, (i + 1 - shift) / scale];
    const shares: [number, number][] = [];
    for (let texel = Math.max(0, Math.floor(from)); texel < Math.min(size, to); texel++)
      shares.push([texel, (Math.min(texel + 1, to) - Math.max(texel, from)) * scale]);
    return shares;
  });
}

/** Levels by which a step from 60 to 190 is overshot, at any place between px. */
export async function ringing(draw: DrawArt, scale: number): Promise<number> {
  const art = greyArt((x) => (x < ART / 2 ? 60 : 190));
  let most = 0;
  for (const pan of TENTHS) {
    const picture = await draw(art, artMap(art, scale, scale, 0, pan), false);
    const half = Math.min(SIDE / 2, (ART / 2) * scale) - 8;
    for (let x = Math.ceil(SIDE / 2 - half); x < SIDE / 2 + half; x++) {
      const value = valueAt(picture, x, SIDE / 2);
      most = Math.max(most, value - 190, 60 - value);
    }
  }
  return most;
}

/** Px over which the alpha rises from nothing to opaque where art ends by its canvas, at the worst place. */
export async function borderPx(draw: DrawArt, scale: number, degrees: number): Promise<number> {
  const art = greyArt(() => 90, 20, 20);
  let most = 0;
  for (const pan of TENTHS) {
    const picture = await draw(art, artMap(art, scale, scale, degrees, pan), false);
    let soft = 0;
    for (let x = 0; x < SIDE / 2; x++) {
      const alpha = valueAt(picture, x, SIDE / 2, 3);
      if (alpha > 2 && alpha < 253) soft += 1;
    }
    most = Math.max(most, soft);
  }
  return most;
}

/**
 * Largest bend of the contrast of a fine tiled pattern in an even truck, levels rms: what jumps, or beats as levels change, is
 * a bend that the move does not have.
 */
export async function truckJump(draw: DrawArt, from: number, to: number, steps: number): Promise<number> {
  const wave = (v: number, period: number) => Math.sin((2 * Math.PI * v) / period);
  const art = greyArt((x, y) => 127.5 + 80 * wave(x, ART / 23) * wave(y, ART / 19));
  const contrast: number[] = [];
  for (let i = 0; i <= steps; i++) {
    const scale = from * (to / from) ** (i / steps);
    const picture = await draw(art, artMap(art, scale, scale, 0, 0), true);
    let sum = 0;
    for (let y = 0; y < SIDE; y++)
      for (let x = 0; x < SIDE; x++) sum += (valueAt(picture, x, y) - 127.5) ** 2;
    contrast.push(Math.sqrt(sum) / SIDE);
  }
  const at = (i: number): number => contrast[i] as number;
  return Math.max(...contrast.slice(2).map((_, i) => Math.abs(at(i + 2) - 2 * at(i + 1) + at(i))));
}
