import type { Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { applyNewVersion, cutsToMake, matchLayers } from './new-version.ts';
import type { PaintedLayer } from './place-art.ts';

/** Why the next version of a painting cannot be taken without an artist who looks at it. */
export type NeedsAnArtist = 'cut';

/** The last part of a path: the same painting may have come from another folder. */
const baseName = (file: string): string => file.split('/').at(-1) ?? file;

/**
 * The scene with the next version of a painting, taken by the names of its layers alone: for shots that nobody looks at
 * while it is done. Layers that are new, and planes whose layer is gone, stay out of it.
 */
export function versionByNames(
  scene: Scene,
  file: string,
  layers: readonly PaintedLayer[],
): Scene | NeedsAnArtist {
  const planes = planesOf(scene).filter(({ origin }) => origin && baseName(origin.file) === baseName(file));
  const found = matchLayers(planes, layers, { layerLikenesses: [], planeLikenesses: new Map() });
  const matches = found.filter(({ kind }) => kind === 'same-name');
  // One layer is that painting, whatever it is called.
  const [plane] = planes;
  const only = planes.length === 1 && layers.length === 1 && plane;
  const meant =
    only && matches.length === 0
      ? [{ kind: 'same-name', planeId: only.id, layerIndex: 0 } as const]
      : matches;
  if (meant.length === 0) return scene;
  // What was cut of it must be cut anew, which needs its pixels.
  if (cutsToMake(scene, layers, meant).length > 0) return 'cut';
  const next = applyNewVersion(scene, {
    layers,
    matches: meant,
    removeLost: false,
    idOf: () => {
      throw new Error('No layer is added');
    },
  });
  return sameArt(scene, next) ? scene : next;
}

/** Whether two scenes show the same art: the version is taken already. */
const sameArt = (one: Scene, other: Scene): boolean =>
  JSON.stringify(planesOf(one).map(({ content }) => content)) ===
  JSON.stringify(planesOf(other).map(({ content }) => content));
