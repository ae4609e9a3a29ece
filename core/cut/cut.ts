import type { Box } from '../geometry/index.ts';
import { type Raster, raster } from '../image/index.ts';
import type { CutRecipe, SelectionStep } from '../scene/index.ts';
import { applyCopies } from './copy-brush.ts';
import { type CoarseFill, fillHole } from './fill.ts';
import { colourMask, emptyMask, feather, type Mask, maskBox, outlineMask } from './mask.ts';

/** What the steps choose of an image, one after another, with its border softened. */
export function selectionMask(image: Raster, steps: readonly SelectionStep[], featherPx: number): Mask {
  const mask = emptyMask(image.widthPx, image.heightPx);
  for (const step of steps) {
    const one = step.kind === 'outline' ? outlineMask(step.points, image) : colourMask(image, step);
    for (let i = 0; i < mask.data.length; i++) {
      const was = mask.data[i] as number;
      const now = one.data[i] as number;
      mask.data[i] = step.mode === 'add' ? Math.max(was, now) : Math.min(was, 255 - now);
    }
  }
  return feather(mask, featherPx);
}

export interface CutPieces {
  /** What was cut out, cropped to its paint, and where it lay. */
  readonly taken: Raster<'straight'>;
  readonly takenAt: readonly [number, number];
  /** The rest, of the size of the whole. */
  readonly left: Raster<'straight'>;
}

/**
 * Cuts an image in two, so that the two laid on one another are the image again, within 1/255 (W3C Compositing and
 * Blending Level 1, section 9.1.4, source over). Without a filling the piece takes its paint by the mask and the rest
 * loses only what the piece hides altogether, but for a rim of RIM_PX beneath it, so that no seam shows between the two when
 * they stand between the px of the picture. With one the hole is filled behind opaque paint, and where the border is
 * soft the piece takes what the filling does not give (`sharedOut`), so that no rim of it stays round the hole. Then
 * the copy brush's strokes are done. Null when nothing is chosen.
 */
export function cutImage(
  image: Raster<'straight'>,
  recipe: CutRecipe,
  onProgress: (share: number) => void = () => {},
  onCoarse?: (coarse: CoarseFill) => void,
): CutPieces | null {
  const mask = selectionMask(image, recipe.steps, recipe.featherPx);
  const box = takenBox(image, mask);
  if (!box) return null;
  const hole = holeOf(image, mask);
  const filled = recipe.fill ? fillHole(cleared(image, hole), hole, onProgress, onCoarse) : null;
  const { taken, left } = sharedOut(image, mask, filled);
  onProgress(1);
  return {
    taken: cropped(taken, box),
    takenAt: [box.x0, box.y0],
    left: applyCopies(left, recipe.copies),
  };
}

/** The box of what is both chosen and painted. */
function takenBox(image: Raster, mask: Mask): Box | null {
  const data = new Uint8Array(mask.data.length);
  for (let i = 0; i < data.length; i++)
    if ((image.data[i * 4 + 3] as number) > 0) data[i] = mask.data[i] as number;
  return maskBox({ ...mask, data });
}

/** Where opaque paint is chosen at all, so that nothing of what is taken is looked at for the filling. */
function holeOf(image: Raster, mask: Mask): Uint8Array {
  const hole = new Uint8Array(mask.data.length);
  for (let i = 0; i < hole.length; i++)
    if ((mask.data[i] as number) > 0 && image.data[i * 4 + 3] === 255) hole[i] = 255;
  return hole;
}

function cleared(image: Raster, hole: Uint8Array): Raster<'straight'> {
  const out = raster(image.widthPx, image.heightPx, 'straight', Uint8Array.from(image.data));
  for (let i = 0; i < hole.length; i++) if (hole[i] === 255) out.data.fill(0, i * 4, i * 4 + 4);
  return out;
}

/**
 * What of each pixel P goes to the piece T, with alpha m, and what stays in the rest L: m T + (1 − m) L = P. Where there
 * is a filling F, L is as near to it as a T can be found between 0 and 255: with L = F + t (P − F),
 * T = P + (1 − m)/m (1 − t) (P − F). Paint that is not opaque is not filled; its alpha A is shared out so that the two
 * alphas a = m A and b cover as it did: b = (A − a)/(1 − a).
 */
function sharedOut(image: Raster<'straight'>, mask: Mask, filled: Raster<'straight'> | null) {
  const beside = filled ? null : besideRest(image, mask);
  const { widthPx, heightPx } = image;
  const taken = raster(widthPx, heightPx, 'straight');
  const left = raster(widthPx, heightPx, 'straight', Uint8Array.from(image.data));
  for (let i = 0; i < mask.data.length; i++) {
    const chosen = mask.data[i] as number;
    const alpha = image.data[i * 4 + 3] as number;
    const part = Math.round((alpha * chosen) / 255);
    if (part === 0) continue;
    taken.data.set(image.data.subarray(i * 4, i * 4 + 3), i * 4);
    taken.data[i * 4 + 3] = part;
    const fill = alpha === 255 && filled?.data[i * 4 + 3] === 255 ? filled.data : null;
    if (fill) shareFilled(image.data, fill, taken.data, left.data, i * 4, part / 255);
    else if (part === 255 && beside?.[i] === 1) continue;
    else if (part === 255 || part === alpha) left.data.fill(0, i * 4, i * 4 + 4);
    else left.data[i * 4 + 3] = Math.round((255 * (alpha - part)) / (255 - part));
  }
  return { taken, left };
}

/** As far as reading weighs px at full size. */
const RIM_PX = 2;

/** 1 where paint that stays is no further than RIM_PX off, along both axes. */
function besideRest(image: Raster, mask: Mask): Uint8Array {
  const { widthPx, heightPx } = image;
  const stays = new Uint8Array(mask.data.length);
  for (let i = 0; i < stays.length; i++) {
    const alpha = image.data[i * 4 + 3] as number;
    if (Math.round((alpha * (mask.data[i] as number)) / 255) < alpha) stays[i] = 1;
  }
  const across = new Uint8Array(stays.length);
  const grown = new Uint8Array(stays.length);
  for (let y = 0; y < heightPx; y++)
    for (let x = 0; x < widthPx; x++) {
      const [from, to] = [Math.max(0, x - RIM_PX), Math.min(widthPx - 1, x + RIM_PX)];
      for (let at = from; at <= to; at++) across[y * widthPx + x]! |= stays[y * widthPx + at] as number;
    }
  for (let y = 0; y < heightPx; y++)
    for (let at = Math.max(0, y - RIM_PX); at <= Math.min(heightPx - 1, y + RIM_PX); at++)
      for (let x = 0; x < widthPx; x++) grown[y * widthPx + x]! |= across[at * widthPx + x] as number;
  return grown;
}

function shareFilled(
  image: Raster['data'],
  fill: Raster['data'],
  taken: Raster['data'],
  left: Raster['data'],
  at: number,
  alpha: number,
): void {
  const ratio = (1 - alpha) / alpha;
  let give = 1;
  for (let c = 0; c < 3; c++) {
    const paint = image[at + c] as number;
    const reach = ratio * (paint - (fill[at + c] as number));
    const room = reach > 0 ? 255 - paint : paint;
    if (Math.abs(reach) > room) give = Math.min(give, room / Math.abs(reach));
  }
  for (let c = 0; c < 3; c++) {
    const paint = image[at + c] as number;
    const by = give * (paint - (fill[at + c] as number));
    left[at + c] = Math.round(paint - by);
    // What was rounded away in the rest is made good in the piece.
    const rest = (paint - (1 - alpha) * (left[at + c] as number)) / alpha;
    taken[at + c] = Math.min(255, Math.max(0, Math.round(rest)));
  }
}

function cropped(image: Raster<'straight'>, { x0, y0, x1, y1 }: Box): Raster<'straight'> {
  const out = raster(x1 - x0, y1 - y0, 'straight');
  for (let y = y0; y < y1; y++) {
    const from = (y * image.widthPx + x0) * 4;
    out.data.set(image.data.subarray(from, from + out.widthPx * 4), (y - y0) * out.widthPx * 4);
  }
  return out;
}
