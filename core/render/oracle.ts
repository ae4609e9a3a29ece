import type { Raster } from '../image/index.ts';
import type { Background, RenderLayer } from './layers.ts';

/** The mip levels of one image, finest first. */
export type ImageLevels = readonly Raster<'premultiplied'>[];

/**
 * The plain float renderer that everything faster is measured against. One pixel at a time: bilinear reading of
 * premultiplied texels, clear outside the art, then source-over (W3C Compositing and Blending Level 1, section 5.1).
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
    const level = images.get(layer.artId)?.[layer.level];
    if (!level) throw new Error(`No level ${layer.level} of art ${layer.artId}`);
    const { a, b, c, d, e, f } = layer.imageToLevel;
    for (let y = 0; y < heightPx; y++) {
      for (let x = 0; x < widthPx; x++) {
        const [px, py] = [x + 0.5, y + 0.5];
        readBilinear(level, a * px + c * py + e - 0.5, b * px + d * py + f - 0.5, sample);
        sourceOver(out, (y * widthPx + x) * 4, sample, layer.opacity);
      }
    }
  }
  return out;
}

function readBilinear(image: Raster<'premultiplied'>, u: number, v: number, out: Float64Array): void {
  out.fill(0);
  const [column, row] = [Math.floor(u), Math.floor(v)];
  if (column < -1 || row < -1 || column >= image.widthPx || row >= image.heightPx) return;
  const [right, down] = [u - column, v - row];
  addTexel(image, column, row, (1 - right) * (1 - down), out);
  addTexel(image, column + 1, row, right * (1 - down), out);
  addTexel(image, column, row + 1, (1 - right) * down, out);
  addTexel(image, column + 1, row + 1, right * down, out);
}

function addTexel(image: Raster, x: number, y: number, weight: number, out: Float64Array): void {
  if (x < 0 || y < 0 || x >= image.widthPx || y >= image.heightPx) return;
  const at = (y * image.widthPx + x) * 4;
  for (let c = 0; c < 4; c++) out[c] = (out[c] as number) + weight * (image.data[at + c] as number);
}

function sourceOver(out: Float64Array, at: number, source: Float64Array, opacity: number): void {
  const rest = 1 - ((source[3] as number) * opacity) / 255;
  for (let c = 0; c < 4; c++) out[at + c] = (source[c] as number) * opacity + (out[at + c] as number) * rest;
}
