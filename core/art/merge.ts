import type { Box } from '../geometry/index.ts';
import { type Raster, raster } from '../image/index.ts';
import { type BlendMode, blendOver } from '../paint/index.ts';

export interface PlacedImage {
  readonly image: Raster<'straight'>;
  readonly xPx: number;
  readonly yPx: number;
  /** 0 to 1. */
  readonly opacity: number;
  /** As paint where nothing is said. */
  readonly mode?: BlendMode | undefined;
}

/** The smallest box that holds all images; null when there are none. */
export function unionBox(images: readonly Omit<PlacedImage, 'opacity'>[]): Box | null {
  if (images.length === 0) return null;
  return {
    x0: Math.min(...images.map(({ xPx }) => xPx)),
    y0: Math.min(...images.map(({ yPx }) => yPx)),
    x1: Math.max(...images.map(({ xPx, image }) => xPx + image.widthPx)),
    y1: Math.max(...images.map(({ yPx, image }) => yPx + image.heightPx)),
  };
}

/**
 * Puts images on one another, bottom first, into one of the size of `box`, each by its mode (W3C Compositing and Blending
 * Level 1), in floating point, rounded once.
 */
export function mergeImages(bottomFirst: readonly PlacedImage[], box: Box): Raster<'straight'> {
  const [width, height] = [box.x1 - box.x0, box.y1 - box.y0];
  const out = raster(width, height, 'straight');
  const row = new Float64Array(width * 4);
  for (let y = 0; y < height; y++) {
    row.fill(0);
    for (const placed of bottomFirst) overRow(row, placed, y + box.y0, box.x0);
    for (let i = 0; i < row.length; i += 4) {
      const alpha = row[i + 3] as number;
      const at = y * width * 4 + i;
      if (alpha <= 0) continue;
      for (let c = 0; c < 3; c++)
        out.data[at + c] = Math.round(Math.min(255, (255 * (row[i + c] as number)) / alpha));
      out.data[at + 3] = Math.round(alpha * 255);
    }
  }
  return out;
}

/** One row of an image over the row at `y`; premultiplied, 0 to 1. */
function overRow(
  row: Float64Array,
  { image, xPx, yPx, opacity, mode = 'paint' }: PlacedImage,
  y: number,
  left: number,
): void {
  const source = [0, 0, 0, 0];
  const line = y - yPx;
  if (line < 0 || line >= image.heightPx) return;
  for (let x = 0; x < image.widthPx; x++) {
    const at = (line * image.widthPx + x) * 4;
    const alpha = ((image.data[at + 3] as number) / 255) * opacity;
    if (alpha === 0) continue;
    for (let c = 0; c < 3; c++) source[c] = ((image.data[at + c] as number) / 255) * alpha;
    source[3] = alpha;
    blendOver(mode, row, (x + xPx - left) * 4, source, 1, 1);
  }
}
