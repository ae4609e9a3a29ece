import {
  type Affine,
  applyAffine,
  type Box,
  invertAffine,
  mapBox,
  type Point,
} from '../../geometry/index.ts';
import type { Side } from '../../image/index.ts';
import { alphaAt, levelFor } from '../alpha/alpha-map.ts';
import { clipped, frameOnArt, isAcross } from '../margins/margins.ts';
import type { CoveringPlane } from './cover.ts';
import { CELL_PX, cellAt, type Grid } from './grid.ts';

/** Samples of one strip at most; wider strips are looked at in larger steps. */
const MOST_SAMPLES = 20_000;

interface Size {
  readonly widthPx: number;
  readonly heightPx: number;
}

/** The part of the frame beyond a side of the art, alongside it, as a polygon in art px. */
export function stripBeyond(
  { map, artToFrame }: { readonly map: Size; readonly artToFrame: Affine },
  side: Side,
  frame: Size,
): Point[] {
  const back = invertAffine(artToFrame);
  if (!back) return [];
  const seen = frameOnArt(back, frame);
  const [w, h] = [map.widthPx, map.heightPx];
  const far = 1e9;
  const along = isAcross(side) ? clipped(seen, 'y', 0, h) : clipped(seen, 'x', 0, w);
  switch (side) {
    case 'left':
      return clipped(along, 'x', -far, 0);
    case 'right':
      return clipped(along, 'x', w, far);
    case 'top':
      return clipped(along, 'y', -far, 0);
    case 'bottom':
      return clipped(along, 'y', h, far);
  }
}

/**
 * Missing paint beyond a side of the art, output px: what the alpha of the paint where it ends there, carried on outward,
 * would show through what is nearer. `light` is what comes through that. Sampled finely where the strip is narrow.
 */
export function missingBeyond(
  grid: Grid,
  light: Float32Array,
  plane: CoveringPlane,
  { side, painted }: { readonly side: Side; readonly painted: Box },
): number {
  const strip = stripBeyond(plane, side, grid);
  const back = invertAffine(plane.artToFrame);
  if (strip.length < 3 || !back) return 0;
  const { map, artToFrame, opacity } = plane;
  const onFrame = strip.map((p) => applyAffine(artToFrame, p));
  const xs = onFrame.map(({ x }) => x);
  const ys = onFrame.map(({ y }) => y);
  const [x0, x1] = [Math.min(...xs), Math.max(...xs)];
  const [y0, y1] = [Math.min(...ys), Math.max(...ys)];
  const [wide, high] = [x1 - x0, y1 - y0];
  if (!(wide > 1e-6 && high > 1e-6)) return 0;
  const coarse = Math.sqrt((wide * high) / MOST_SAMPLES);
  const step = (size: number) => size / Math.max(2, Math.ceil(size / Math.max(CELL_PX, coarse)));
  const [dx, dy] = [step(wide), step(high)];
  const level = levelFor(map, CELL_PX * Math.hypot(back.a, back.b));
  const inside = mapBox(back, { x0, y0, x1, y1 });
  const near = { x: map.widthPx / level.columns / 2, y: map.heightPx / level.rows / 2 };
  // Alongside the side anywhere; across it where the paint ends.
  const ends = isAcross(side)
    ? { x0: painted.x0, x1: painted.x1, y0: 0, y1: map.heightPx }
    : { x0: 0, x1: map.widthPx, y0: painted.y0, y1: painted.y1 };
  let sum = 0;
  for (let y = y0 + dy / 2; y < y1; y += dy)
    for (let x = x0 + dx / 2; x < x1; x += dx) {
      const at = applyAffine(back, { x, y });
      if (!isBeyond(side, at, map) || at.x < inside.x0 - 1 || at.x > inside.x1 + 1) continue;
      const cell = cellAt(grid, x, y);
      if (cell < 0) continue;
      const border = alphaAt(
        map,
        level,
        Math.min(ends.x1 - near.x, Math.max(ends.x0 + near.x, at.x)),
        Math.min(ends.y1 - near.y, Math.max(ends.y0 + near.y, at.y)),
      );
      sum += border * light[cell]!;
    }
  return (sum / 255) * opacity * dx * dy;
}

/** Beyond that side, and neither above nor below it (or left nor right): corners belong to no side. */
function isBeyond(side: Side, { x, y }: Point, { widthPx, heightPx }: CoveringPlane['map']): boolean {
  const [alongX, alongY] = [x >= 0 && x < widthPx, y >= 0 && y < heightPx];
  if (side === 'left') return x < 0 && alongY;
  if (side === 'right') return x >= widthPx && alongY;
  if (side === 'top') return y < 0 && alongX;
  return y >= heightPx && alongX;
}
