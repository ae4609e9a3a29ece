import type { ImportedLayer, ImportedPainting } from './imported-painting.ts';

type MovingLayer = ImportedLayer & { readonly frames: NonNullable<ImportedLayer['frames']> };

/** The one layer of a painting that moves, with more than one frame; null for any other painting. */
export function movingLayer({ nodes }: ImportedPainting): MovingLayer | null {
  const [node, ...rest] = nodes;
  if (node?.kind !== 'layer' || rest.length > 0 || !node.frames || node.frames.length < 2) return null;
  return { ...node, frames: node.frames };
}

/** What moves from frame `first` to frame `last` alone, both counted from 1 and brought into the film. */
export function partOfFilm(painting: ImportedPainting, first: number, last: number): ImportedPainting {
  const layer = movingLayer(painting);
  if (!layer) return painting;
  const count = layer.frames.length;
  const from = Math.min(count, Math.max(1, first));
  const frames = layer.frames.slice(from - 1, Math.max(from, Math.min(count, last)));
  return { ...painting, nodes: [{ ...layer, art: frames[0]!.art, frames }] };
}
