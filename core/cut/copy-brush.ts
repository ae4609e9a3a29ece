import { type Raster, raster } from '../image/index.ts';
import type { CopyStroke } from '../scene/index.ts';

/** Share of the radius over which a stroke fades out. */
const SOFT_SHARE = 0.35;
/** Dabs are this share of the radius apart. */
const SPACING = 0.25;

/**
 * Paints each stroke with what lies at its offset, softly at the border. A stroke takes its paint from the image as it
 * was before that stroke, so that it never copies itself.
 */
export function applyCopies(image: Raster<'straight'>, strokes: readonly CopyStroke[]): Raster<'straight'> {
  return strokes.reduce(applyStroke, image);
}

function applyStroke(image: Raster<'straight'>, stroke: CopyStroke): Raster<'straight'> {
  const { widthPx: width, heightPx: height } = image;
  const out = raster(width, height, 'straight', Uint8Array.from(image.data));
  const cover = coverOf(stroke, width, height);
  const [dx, dy] = stroke.offset.map(Math.round) as [number, number];
  for (const [i, share] of cover) {
    const [x, y] = [(i % width) + dx, Math.floor(i / width) + dy];
    if (x < 0 || y < 0 || x >= width || y >= height) continue;
    blend(out.data, i * 4, image.data, (y * width + x) * 4, share);
  }
  return out;
}

/** The strongest dab at each pixel of the stroke, 0 to 1. */
function coverOf({ points, radiusPx }: CopyStroke, width: number, height: number): Map<number, number> {
  const cover = new Map<number, number>();
  for (const [cx, cy] of dabs(points, Math.max(0.5, radiusPx * SPACING))) {
    for (let y = Math.max(0, Math.floor(cy - radiusPx)); y < Math.min(height, cy + radiusPx); y++) {
      for (let x = Math.max(0, Math.floor(cx - radiusPx)); x < Math.min(width, cx + radiusPx); x++) {
        const reach = Math.hypot(x + 0.5 - cx, y + 0.5 - cy) / radiusPx;
        if (reach >= 1) continue;
        const share = Math.min(1, (1 - reach) / SOFT_SHARE);
        const at = y * width + x;
        if (share > (cover.get(at) ?? 0)) cover.set(at, share);
      }
    }
  }
  return cover;
}

function* dabs(points: CopyStroke['points'], spacing: number): Generator<readonly [number, number]> {
  for (const [i, [x, y]] of points.entries()) {
    const next = points[i + 1];
    yield [x, y];
    if (!next) return;
    const steps = Math.floor(Math.hypot(next[0] - x, next[1] - y) / spacing);
    for (let k = 1; k <= steps; k++)
      yield [x + ((next[0] - x) * k) / (steps + 1), y + ((next[1] - y) * k) / (steps + 1)];
  }
}

/** A mix of two straight pixels in premultiplied values. */
function blend(to: Raster['data'], at: number, from: Raster['data'], i: number, share: number): void {
  const [p, q] = [(to[at + 3] as number) * (1 - share), (from[i + 3] as number) * share];
  const alpha = p + q;
  for (let c = 0; c < 3 && alpha > 0; c++)
    to[at + c] = Math.round(((to[at + c] as number) * p + (from[i + c] as number) * q) / alpha);
  to[at + 3] = Math.round(alpha);
}
