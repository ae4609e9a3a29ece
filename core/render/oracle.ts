import { type Repeat, repeatsAcross, repeatsDown } from '../document/index.ts';
import { applyAffine } from '../geometry/index.ts';
import type { Raster } from '../image/index.ts';
import { colourAt, srgbOfHex } from '../look/index.ts';
import type { Background, PathLayer, RenderLayer } from './layers.ts';

/** The mip levels of one image, finest first. */
export type ImageLevels = readonly Raster<'premultiplied'>[];

/**
 * The plain float renderer that everything faster is measured against. One pixel at a time: bilinear reading of
 * premultiplied texels, clear outside the art; paths by the covered spans of many lines a row; then source-over (W3C Compositing and Blending Level 1, section 5.1).
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
  for (let i = 0; i < out.length; i += 4)
    out.set([background.r, background.g, background.b, background.a], i);
  for (const layer of layers) {
    if (layer.kind === 'path') {
      drawPath(layer, out, widthPx, heightPx);
      continue;
    }
    const level = images.get(layer.artId)?.[layer.level];
    if (!level) throw new Error(`No level ${layer.level} of art ${layer.artId}`);
    const { a, b, c, d, e, f } = layer.imageToLevel;
    for (let y = 0; y < heightPx; y++) {
      for (let x = 0; x < widthPx; x++) {
        const [px, py] = [x + 0.5, y + 0.5];
        readBilinear(level, layer.repeat, a * px + c * py + e - 0.5, b * px + d * py + f - 0.5, sample);
        sourceOver(out, (y * widthPx + x) * 4, sample, layer.opacity);
      }
    }
  }
  return out;
}

function readBilinear(
  image: Raster<'premultiplied'>,
  repeat: Repeat,
  u: number,
  v: number,
  out: Float64Array,
): void {
  out.fill(0);
  const [column, row] = [Math.floor(u), Math.floor(v)];
  const [right, down] = [u - column, v - row];
  addTexel(image, repeat, column, row, (1 - right) * (1 - down), out);
  addTexel(image, repeat, column + 1, row, right * (1 - down), out);
  addTexel(image, repeat, column, row + 1, (1 - right) * down, out);
  addTexel(image, repeat, column + 1, row + 1, right * down, out);
}

function addTexel(
  image: Raster,
  repeat: Repeat,
  column: number,
  row: number,
  weight: number,
  out: Float64Array,
): void {
  const x = repeatsAcross(repeat) ? within(column, image.widthPx) : column;
  const y = repeatsDown(repeat) ? within(row, image.heightPx) : row;
  if (x < 0 || y < 0 || x >= image.widthPx || y >= image.heightPx) return;
  const at = (y * image.widthPx + x) * 4;
  for (let c = 0; c < 4; c++) out[c] = (out[c] as number) + weight * (image.data[at + c] as number);
}

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
      if (share > 0)
        sourceOver(out, (y * widthPx + x) * 4, paintAt(layer, x + 0.5, y + 0.5), layer.opacity * share);
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
    const [x0, y0, x1, y1] = [...edges.subarray(i, i + 4)] as [number, number, number, number];
    if (y0 <= y === y1 <= y) continue;
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
