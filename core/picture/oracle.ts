import { type Affine, applyAffine } from '../geometry/index.ts';
import { isLanes, type LevelRaster, rangeFor, type Side, softEdgeAt } from '../image/index.ts';
import { type BlendMode, blendOver, colourAt, srgbOfHex } from '../paint/index.ts';
import type { Repeat } from '../scene/index.ts';
import { repeatsAcross, repeatsDown } from '../staging/index.ts';
import { memo } from '../units/index.ts';
import {
  bellOf,
  coverage,
  discOf,
  kernelAt,
  kernelWeights,
  MOST_STEP,
  type Reading,
  reachOf,
  readingOf,
} from './filter/index.ts';
import {
  type GroupLayer,
  type ImageLayer,
  type LevelRead,
  levelBounds,
  type PathLayer,
  type RenderLayer,
} from './layer.ts';
import { applyLook, type LayerLook, vignetteAtPixel } from './layer-look.ts';
import { type Background, CLEAR } from './view.ts';

/** The mip levels of one image, finest first. */
export type ImageLevels = readonly LevelRaster[];

/**
 * The plain float renderer that everything faster is measured against. One pixel at a time: premultiplied
 * texels by the kernel of `filter.ts`, of one level or two; paths by the covered spans of many lines a row; groups
 * by themselves, at full size, through a Gaussian and a disc; then laid over by their mode (`paint/blend.ts`).
 * Returns premultiplied RGBA, 0 to 255, unrounded, `4·width·height` values. Throws when an image is missing.
 */
export function renderOracle(
  layers: readonly RenderLayer[],
  images: ReadonlyMap<string, ImageLevels>,
  widthPx: number,
  heightPx: number,
  background: Background,
): Float64Array {
  const out = new Float64Array(widthPx * heightPx * 4);
  const sample = new Float64Array(4);
  // Modes are of planes on planes: what there are of them is drawn on clear ground, and the ground laid beneath.
  const groundLast = layers.some((layer) => layer.kind !== 'path' && layer.mode !== 'paint');
  const ground = [background.r, background.g, background.b, background.a];
  if (!groundLast) for (let i = 0; i < out.length; i += 4) out.set(ground, i);
  for (const layer of layers) {
    if (layer.kind === 'path') {
      drawPath(layer, out, widthPx, heightPx);
      continue;
    }
    const read = layer.kind === 'image' ? imageReader(layer, images) : groupReader(layer, images);
    for (let y = 0; y < heightPx; y++) {
      for (let x = 0; x < widthPx; x++) {
        read(x + 0.5, y + 0.5, sample);
        if (layer.look) coloured(layer.look, sample, x + 0.5, y + 0.5);
        const at = (y * widthPx + x) * 4;
        if (layer.kind === 'image' && layer.mode === 'within') keepWithin(layer, out, at, sample);
        else blendOver(layer.mode as BlendMode, out, at, sample, layer.opacity, 255);
      }
    }
  }
  if (groundLast)
    for (let i = 0; i < out.length; i += 4)
      for (let c = 0, rest = 1 - out[i + 3]! / 255; c < 4; c++) out[i + c] = out[i + c]! + ground[c]! * rest;
  return out;
}

/** What is there as far as the distance to the edge lets it be. */
function keepWithin({ softEdgePx }: ImageLayer, out: Float64Array, at: number, sample: Float64Array): void {
  const { channel, px } = rangeFor(softEdgePx);
  const left = softEdgeAt((sample[channel]! / 255) * px, softEdgePx);
  for (let c = 0; c < 4; c++) out[at + c] = out[at + c]! * left;
}

/** Writes the source at a point of the image. */
type Reader = (x: number, y: number, out: Float64Array) => void;

function imageReader(layer: ImageLayer, images: ReadonlyMap<string, ImageLevels>): Reader {
  const from = (read: LevelRead): Reader => {
    const level = images.get(layer.artId)?.[read.level];
    if (!level) throw new Error(`No level ${read.level} of art ${layer.artId}`);
    return mappedReader(
      { widthPx: level.widthPx, heightPx: level.heightPx, rowAt: levelRows(level) },
      {
        map: read.imageToLevel,
        reading: readingOf(read.imageToLevel, layer.smooth),
        repeat: layer.repeat,
        bounds: levelBounds(layer, level),
      },
    );
  };
  const finer = from(layer);
  const { blend } = layer;
  if (!blend) return finer;
  const coarser = from(blend);
  const second = new Float64Array(4);
  return (x, y, out) => {
    finer(x, y, out);
    coarser(x, y, second);
    for (let c = 0; c < 4; c++)
      out[c] = (out[c] as number) * (1 - blend.weight) + (second[c] as number) * blend.weight;
  };
}

/** How an image is read: its map from px to texels, and along which axes it comes round again. */
interface OracleRead {
  readonly map: Affine;
  readonly reading: Reading;
  readonly repeat: Repeat;
  readonly bounds: Readonly<Record<Side, number>>;
}

function mappedReader(image: OracleImage, read: OracleRead): Reader {
  return (x, y, out) => readFiltered(image, read, x, y, out);
}

function groupReader(group: GroupLayer, images: ReadonlyMap<string, ImageLevels>): Reader {
  const { widthPx, heightPx, inner, gaussianSigmaPx, discRadiusPx } = group;
  const drawn = renderOracle(inner, images, widthPx, heightPx, CLEAR);
  const soft = gaussianSigmaPx > 0 ? blurredByGauss(drawn, widthPx, heightPx, gaussianSigmaPx) : drawn;
  const data = discRadiusPx > 0 ? blurredByDisc(soft, widthPx, heightPx, discRadiusPx) : soft;
  const image = { widthPx, heightPx, rowAt: rowsOf(data, widthPx, 1) };
  return mappedReader(image, {
    map: group.imageToGroup,
    reading: readingOf(group.imageToGroup),
    repeat: 'none',
    bounds: levelBounds({ ...image, beyond: null }, image),
  });
}

function coloured(look: LayerLook, colour: Float64Array, x: number, y: number): void {
  applyLook(look, colour, 0);
  if (!look.vignette) return;
  const left = vignetteAtPixel(look.vignette, x, y);
  for (let c = 0; c < 3; c++) colour[c] = (colour[c] as number) * left;
}

function putColour(to: Float64Array, at: number, r: number, g: number, b: number, a: number): void {
  to[at] = r;
  to[at + 1] = g;
  to[at + 2] = b;
  to[at + 3] = a;
}

/** Separable Gaussian of the very variance (`softness.ts`); clear outside. Premultiplied RGBA. */
export function blurredByGauss(
  pixels: Float64Array,
  widthPx: number,
  heightPx: number,
  sigmaPx: number,
): Float64Array {
  const half = bellOf(sigmaPx);
  const reach = half.length - 1;
  const pass = (from: Float64Array, across: boolean): Float64Array => {
    const to = new Float64Array(from.length);
    const last = (across ? widthPx : heightPx) - 1;
    for (let y = 0; y < heightPx; y++)
      for (let x = 0; x < widthPx; x++) {
        const middle = across ? x : y;
        let [r, g, b, a] = [0, 0, 0, 0];
        for (let k = Math.max(-reach, -middle); k <= Math.min(reach, last - middle); k++) {
          const weight = half[Math.abs(k)] as number;
          const at = (across ? y * widthPx + x + k : (y + k) * widthPx + x) * 4;
          r += weight * (from[at] as number);
          g += weight * (from[at + 1] as number);
          b += weight * (from[at + 2] as number);
          a += weight * (from[at + 3] as number);
        }
        putColour(to, (y * widthPx + x) * 4, r, g, b, a);
      }
    return to;
  };
  return pass(pass(pixels, true), false);
}

/**
 * Every px by the share of it that the disc of the very variance (`softness.ts`) covers. Premultiplied RGBA; clear outside.
 * The outermost `marginPx` of the result are left clear: they are read from alone.
 */
export function blurredByDisc(
  pixels: Float64Array,
  widthPx: number,
  heightPx: number,
  radiusPx: number,
  marginPx = 0,
): Float64Array {
  const { rows, areaPx: sum } = discOf(radiusPx);
  const reach = Math.max((rows.length - 1) / 2, ...rows.map(({ whole }) => whole + 1));
  const across = 2 * reach + 1;
  const weights = new Float64Array(across * across);
  // Px of each row to either side of the middle that have a weight; −1 where none has.
  const widths = new Int32Array(across).fill(-1);
  rows.forEach(({ whole, share }, i) => {
    const y = i - (rows.length - 1) / 2 + reach;
    widths[y] = Math.max(0, whole + 1);
    for (let x = -whole; x <= whole; x++) weights[y * across + reach + x] = 1;
    // Of a row that is narrower than a px both shares fall on the middle one, which neither covers whole.
    if (whole < 0) weights[y * across + reach] = 2 * share - 1;
    else for (const x of [-whole - 1, whole + 1]) weights[y * across + reach + x] = share;
  });
  const to = new Float64Array(pixels.length);
  for (let y = marginPx; y < heightPx - marginPx; y++)
    for (let x = marginPx; x < widthPx - marginPx; x++) {
      let [r, g, b, a] = [0, 0, 0, 0];
      for (let sy = Math.max(0, y - reach); sy < Math.min(heightPx, y + reach + 1); sy++) {
        const wide = widths[sy - y + reach] as number;
        for (let sx = Math.max(0, x - wide); sx < Math.min(widthPx, x + wide + 1); sx++) {
          const weight = weights[(sy - y + reach) * across + sx - x + reach] as number;
          const at = (sy * widthPx + sx) * 4;
          r += weight * (pixels[at] as number);
          g += weight * (pixels[at + 1] as number);
          b += weight * (pixels[at + 2] as number);
          a += weight * (pixels[at + 3] as number);
        }
      }
      putColour(to, (y * widthPx + x) * 4, r / sum, g / sum, b / sum, a / sum);
    }
  return to;
}

const LANES_A_LEVEL = 128;

/** What is read from: rows of a level, or of the unrounded picture of a group; premultiplied RGBA, 0 to 255. */
interface OracleImage {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly rowAt: (y: number) => Float64Array;
}

/** Rows of RGBA as one kind of number, each made when it is first read: bytes and lanes in turn are read half as quickly. */
function rowsOf(data: ArrayLike<number>, widthPx: number, unit: number): (y: number) => Float64Array {
  const rows: Float64Array[] = [];
  const make = (y: number) => {
    const row = new Float64Array(widthPx * 4);
    for (let i = 0; i < row.length; i++) row[i] = (data[y * row.length + i] as number) / unit;
    return row;
  };
  return (y) => {
    const row = rows[y] ?? make(y);
    rows[y] = row;
    return row;
  };
}

const levelRows = memo((level: LevelRaster) =>
  rowsOf(level.data, level.widthPx, isLanes(level) ? LANES_A_LEVEL : 1),
);

/**
 * Every texel by its weight, row by row of texels: where the line of output px that goes through (x, y) crosses the row, by
 * the kernel of that pass; and the row by the kernel of the other. Past the border the last texel goes on, as far as the
 * px lies on the image.
 */
function readFiltered(image: OracleImage, read: OracleRead, x: number, y: number, out: Float64Array): void {
  const { a, b, c, d, e, f } = read.map;
  const { alongRows, stepU, stepV, passU, passV } = read.reading;
  const [across, down] = [repeatsAcross(read.repeat), repeatsDown(read.repeat)];
  const { widthPx, heightPx } = image;
  out.fill(0);
  const [at, v] = [a * x + c * y + e, b * x + d * y + f];
  const [reachU, reachV] = [reachOf(passU), reachOf(passV)];
  const shareU = across ? 1 : coverage(at, stepU, read.bounds.left, read.bounds.right);
  const shareV = down ? 1 : coverage(v, stepV, read.bounds.top, read.bounds.bottom);
  if (shareU * shareV === 0) return;
  let [red, green, blue, full] = [0, 0, 0, 0];
  for (let row = Math.floor(v - reachV); row < v + reachV; row++) {
    const weightV = kernelAt(passV, row + 0.5 - v);
    if (weightV === 0) continue;
    // The place on the line, further on by so many px, where it crosses the middle of this row.
    const on = (row + 0.5 - v) / (alongRows ? b : d);
    const u = alongRows ? a * (x + on) + c * y + e : a * x + c * (y + on) + e;
    const first = Math.floor(u - reachU);
    const count = 2 * Math.ceil(reachU) + 1;
    kernelWeights(passU, first + 0.5 - u, count, weightsU);
    const texels = image.rowAt(down ? within(row, heightPx) : clamped(row, heightPx));
    for (let k = 0; k < count; k++) {
      const column = first + k;
      const from = 4 * (across ? within(column, widthPx) : clamped(column, widthPx));
      const weight = shareU * weightV * (weightsU[k] as number);
      red += weight * (texels[from] as number);
      green += weight * (texels[from + 1] as number);
      blue += weight * (texels[from + 2] as number);
      full += weight * (texels[from + 3] as number);
    }
  }
  // What the kernel swings past: no alpha beyond opaque, no colour beyond the alpha.
  const alpha = Math.min(255, Math.max(0, full));
  const bounded = (value: number) => Math.min(alpha, Math.max(0, value)) * shareV;
  putColour(out, 0, bounded(red), bounded(green), bounded(blue), alpha * shareV);
}

const weightsU = new Float64Array(2 * MOST_STEP);
const clamped = (index: number, size: number): number => Math.min(size - 1, Math.max(0, index));

const within = (index: number, size: number): number => ((index % size) + size) % size;

function sourceOver(out: Float64Array, at: number, source: Float64Array, opacity: number): void {
  const rest = 1 - ((source[3] as number) * opacity) / 255;
  for (let c = 0; c < 4; c++) out[at + c] = (source[c] as number) * opacity + (out[at + c] as number) * rest;
}

/** Lines a row in which the covered spans are measured; their mean stands for the covered area. */
const LINES = 128;

function drawPath(layer: PathLayer, out: Float64Array, widthPx: number, heightPx: number): void {
  const covered = new Float64Array(widthPx);
  for (let y = 0; y < heightPx; y++) {
    covered.fill(0);
    for (let k = 0; k < LINES; k++) addSpans(covered, crossingsOf(layer.edges, y + (k + 0.5) / LINES));
    for (let x = 0; x < widthPx; x++) {
      const share = (covered[x] as number) / LINES;
      if (share <= 0) continue;
      const paint = paintAt(layer, x + 0.5, y + 0.5);
      if (layer.look) coloured(layer.look, paint, x + 0.5, y + 0.5);
      sourceOver(out, (y * widthPx + x) * 4, paint, layer.opacity * share);
    }
  }
}

interface Crossing {
  readonly x: number;
  readonly turn: number;
}

function crossingsOf(edges: PathLayer['edges'], y: number): Crossing[] {
  const found: Crossing[] = [];
  for (let i = 0; i < edges.length; i += 4) {
    const [y0, y1] = [edges[i + 1] as number, edges[i + 3] as number];
    if (y0 <= y === y1 <= y) continue;
    const [x0, x1] = [edges[i] as number, edges[i + 2] as number];
    found.push({ x: x0 + ((x1 - x0) * (y - y0)) / (y1 - y0), turn: y0 < y1 ? 1 : -1 });
  }
  return found.sort((p, q) => p.x - q.x);
}

/** Adds the length of what is inside (nonzero winding) along one line to each pixel that it runs through. */
function addSpans(covered: Float64Array, crossings: readonly Crossing[]): void {
  let winding = 0;
  crossings.forEach(({ x, turn }, i) => {
    winding += turn;
    const end = Math.min(covered.length, crossings[i + 1]?.x ?? covered.length);
    if (winding === 0) return;
    for (let column = Math.max(0, Math.floor(x)); column < end; column++)
      covered[column] =
        (covered[column] as number) + Math.max(0, Math.min(column + 1, end) - Math.max(column, x));
  });
}

/** The paint at a point of the image, premultiplied, 0 to 255, straight from the stops. */
function paintAt({ paint, imageToGradient }: PathLayer, x: number, y: number): Float64Array {
  if (paint.kind === 'solid') {
    const { opacity } = paint;
    return Float64Array.from([...srgbOfHex(paint.colour).map((v) => v * opacity * 255), opacity * 255]);
  }
  const at = applyAffine(imageToGradient, { x, y });
  const t = paint.kind === 'linear' ? at.x : Math.hypot(at.x, at.y);
  return Float64Array.from(
    colourAt(paint.stops, paint.space, Math.min(1, Math.max(0, t))).map((v) => v * 255),
  );
}
