import type { Box, PxMap } from '../geometry/index.ts';
import type { Raster } from '../image/index.ts';
import type { CutRecipe } from '../scene/index.ts';
import { selectionMask } from './cut.ts';

/** A recipe as it cuts the same of the next version. */
export function mappedRecipe(recipe: CutRecipe, { scale, dxPx, dyPx }: PxMap): CutRecipe {
  const point = ([x, y]: readonly [number, number]): [number, number] => [x * scale + dxPx, y * scale + dyPx];
  return {
    ...recipe,
    featherPx: recipe.featherPx * scale,
    steps: recipe.steps.map((step) =>
      step.kind === 'outline' ? { ...step, points: step.points.map(point) } : { ...step, at: point(step.at) },
    ),
    copies: recipe.copies.map((stroke) => ({
      points: stroke.points.map(point),
      radiusPx: stroke.radiusPx * scale,
      offset: [stroke.offset[0] * scale, stroke.offset[1] * scale],
    })),
  };
}

/** Largest difference of a channel, of 255, that still counts as the same paint. */
const SAME_PAINT = 24;
/** Px on either side of the border of a cut within which paint is compared. */
const NEAR_BORDER_PX = 3;

/** Where along the outline of a cut the next version is painted otherwise: there the outline may cut through something. */
export interface OutlineChange {
  /** Share of the outline's px whose paint has changed. */
  readonly share: number;
  /** Of the px that have changed, in the next version. */
  readonly box: Box;
}

/** Compares the paint along the border of what a recipe chooses in the next version with what lay there before. Null where it is the same. */
export function outlineChange(
  before: Raster<'straight'>,
  after: Raster<'straight'>,
  recipe: CutRecipe,
  map: PxMap,
): OutlineChange | null {
  const mask = selectionMask(after, recipe.steps, recipe.featherPx);
  const { widthPx, heightPx } = after;
  const inside = (x: number, y: number) => (mask.data[y * widthPx + x] as number) >= 128;
  const reach = Math.max(1, Math.round(NEAR_BORDER_PX * map.scale));
  let [near, changed] = [0, 0];
  let [x0, y0, x1, y1] = [widthPx, heightPx, 0, 0];
  for (let y = reach; y < heightPx - reach; y++) {
    for (let x = reach; x < widthPx - reach; x++) {
      const here = inside(x, y);
      const onBorder =
        here !== inside(x - reach, y) ||
        here !== inside(x + reach, y) ||
        here !== inside(x, y - reach) ||
        here !== inside(x, y + reach);
      if (!onBorder) continue;
      near += 1;
      const [bx, by] = [Math.round((x - map.dxPx) / map.scale), Math.round((y - map.dyPx) / map.scale)];
      if (!differs(before, bx, by, after, x, y)) continue;
      changed += 1;
      [x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x + 1), Math.max(y1, y + 1)];
    }
  }
  return changed === 0 ? null : { share: changed / near, box: { x0, y0, x1, y1 } };
}

function differs(before: Raster, bx: number, by: number, after: Raster, x: number, y: number): boolean {
  const there = bx >= 0 && by >= 0 && bx < before.widthPx && by < before.heightPx;
  const [p, q] = [(by * before.widthPx + bx) * 4, (y * after.widthPx + x) * 4];
  const alpha = there ? (before.data[p + 3] as number) : 0;
  const now = after.data[q + 3] as number;
  if (Math.abs(alpha - now) > SAME_PAINT) return true;
  if (alpha === 0 || now === 0) return false;
  return [0, 1, 2].some(
    (c) => Math.abs((before.data[p + c] as number) - (after.data[q + c] as number)) > SAME_PAINT,
  );
}
