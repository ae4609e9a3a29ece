import { mappedRecipe, type OutlineChange } from '@keen-ridge/core/cut';
import { type CutResult, type CutToMake, type PaintedLayer, stepsOfPiece } from '@keen-ridge/core/edits/art';
import type { PxMap } from '@keen-ridge/core/geometry';
import type { Raster } from '@keen-ridge/core/image';
import type { ArtRef, CutStep } from '@keen-ridge/core/scene';
import { storePixels } from '../api/art.ts';
import { CutJob } from '../cut/cut-job.ts';
import { fetchPixels } from '../picture/live/art-loader.ts';
import { bringInWords as say } from '../words/bring-in.ts';

/** A cut as it was made again, and where the new paint is another along its outline. */
export interface MadeAgain {
  readonly result: CutResult;
  readonly map: PxMap;
  readonly change: OutlineChange | null;
}

/** A piece of a cut as it is now, how it came about, and how px of the piece before lead to it. */
interface NewPiece {
  readonly steps: readonly CutStep[];
  readonly art: ArtRef;
  readonly pixels: Raster<'straight'>;
  readonly map: PxMap;
}

/**
 * Makes cuts again on the next version of the paint, each from its recipe: those of the painting first, then those of
 * their pieces. Throws where an outline chooses nothing any more, and when `signal` is aborted.
 */
export async function makeCutsAgain(
  cuts: readonly CutToMake[],
  layers: readonly PaintedLayer[],
  { signal, onProgress }: { signal: AbortSignal; onProgress: (share: number) => void },
): Promise<MadeAgain[]> {
  const made: MadeAgain[] = [];
  const pieces = new Map<string, NewPiece>();
  for (const [at, { cut, layerIndex, map: whole }] of cuts.entries()) {
    signal.throwIfAborted();
    const root = layers[layerIndex]!.art;
    const parent = cut.of ? pieces.get(`${cut.of.cutId} ${cut.of.part}`) : undefined;
    const from = parent ?? { steps: [], art: root, pixels: await fetchPixels(root), map: whole };
    const before = await fetchPixels(cut.from);
    const job = new CutJob(from.pixels);
    const stop = () => job.close();
    signal.addEventListener('abort', stop, { once: true });
    try {
      const recipe = mappedRecipe(cut.recipe, from.map);
      const change = await job.compare(before, recipe, from.map);
      const found = await job.cut(recipe, (share) => onProgress((at + share) / cuts.length));
      if (!found) throw new Error(say.outlineChoosesNothing(layers[layerIndex]!.name));
      const [taken, left] = await Promise.all([storePixels(found.taken), storePixels(found.left)]);
      const { cutId } = cut;
      const { takenAt } = found;
      const result = { cutId, before: from.steps, from: from.art, recipe, taken, takenAt, left };
      made.push({ result, map: from.map, change });
      const piece = (part: CutStep['part'], art: ArtRef, pixels: Raster<'straight'>, map: PxMap) =>
        pieces.set(`${cutId} ${part}`, { steps: stepsOfPiece(result, part), art, pixels, map });
      piece('left', left, found.left, from.map);
      piece('taken', taken, found.taken, takenMap(cut.takenAtPx, from.map, takenAt));
    } finally {
      signal.removeEventListener('abort', stop);
      job.close();
    }
  }
  return made;
}

/** From px of the piece as it was to px of it now, both of which lie somewhere in what was cut. */
const takenMap = (
  [beforeX, beforeY]: readonly [number, number],
  { scale, dxPx, dyPx }: PxMap,
  [nowX, nowY]: readonly [number, number],
): PxMap => ({ scale, dxPx: beforeX * scale + dxPx - nowX, dyPx: beforeY * scale + dyPx - nowY });
