import type { Box } from '../geometry/index.ts';
import { type Raster, raster } from '../image/index.ts';
import type { CutRecipe, SelectionStep } from '../scene/index.ts';
import { applyCopies } from './copy-brush.ts';
import { fillHole } from './fill.ts';
import { colourMask, emptyMask, feather, type Mask, maskBox, outlineMask } from './mask.ts';

/** What the steps choose of an image, one after another, with its border softened. */
export function selectionMask(image: Raster, steps: readonly SelectionStep[], featherPx: number): Mask {
  const mask = emptyMask(image.widthPx, image.heightPx);
  for (const step of steps) {
    const one = step.kind === 'outline' ? outlineMask(step.points, image) : colourMask(image, step);
    for (let i = 0; i < mask.data.length; i++) {
      const [was, now] = [mask.data[i] as number, one.data[i] as number];
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
 * Cuts an image in two. The piece takes its paint by the mask; the rest loses only what the piece hides altogether, so
 * that the two laid on one another are the image again, pixel for pixel. Then the hole is filled where that is asked
 * for, and the copy brush's strokes are done. Null when nothing is chosen.
 */
export function cutImage(
  image: Raster<'straight'>,
  recipe: CutRecipe,
  onProgress: (share: number) => void = () => {},
): CutPieces | null {
  const mask = selectionMask(image, recipe.steps, recipe.featherPx);
  const box = takenBox(image, mask);
  if (!box) return null;
  const left = leftBehind(image, mask);
  const filled = recipe.fill ? fillHole(left, holeOf(image, mask), onProgress) : left;
  onProgress(1);
  return {
    taken: takenPiece(image, mask, box),
    takenAt: [box.x0, box.y0],
    left: applyCopies(filled, recipe.copies),
  };
}

/** The box of what is both chosen and painted. */
function takenBox(image: Raster, mask: Mask): Box | null {
  const painted = {
    ...mask,
    data: mask.data.map((value, i) => ((image.data[i * 4 + 3] as number) > 0 ? value : 0)),
  };
  return maskBox(painted);
}

function takenPiece(image: Raster, mask: Mask, { x0, y0, x1, y1 }: Box): Raster<'straight'> {
  const out = raster(x1 - x0, y1 - y0, 'straight');
  for (let y = y0; y < y1; y++) {
    for (let x = x0; x < x1; x++) {
      const from = y * image.widthPx + x;
      const alpha = Math.round(((image.data[from * 4 + 3] as number) * (mask.data[from] as number)) / 255);
      if (alpha === 0) continue;
      const to = ((y - y0) * out.widthPx + (x - x0)) * 4;
      out.data.set(image.data.subarray(from * 4, from * 4 + 3), to);
      out.data[to + 3] = alpha;
    }
  }
  return out;
}

function leftBehind(image: Raster, mask: Mask): Raster<'straight'> {
  const out = raster(image.widthPx, image.heightPx, 'straight', Uint8Array.from(image.data));
  for (let i = 0; i < mask.data.length; i++) if (mask.data[i] === 255) out.data.fill(0, i * 4, i * 4 + 4);
  return out;
}

/** Chosen at all, so that no rim of the old paint stays round what is filled. Values are the alpha to fill up to. */
function holeOf(image: Raster, mask: Mask): Uint8Array {
  return mask.data.map((value, i) => (value > 0 ? (image.data[i * 4 + 3] as number) : 0));
}
