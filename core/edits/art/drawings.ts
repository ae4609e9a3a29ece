import type { ArtRef, Plane, PlaneId, Scene } from '../../scene/index.ts';
import { planeOf, planesOf, withPlaneList } from '../../scene/records/index.ts';
import { remountOrphans } from '../planes/index.ts';

/** The drawings of a moving plane as planes of their own, the first nearest, each where it was. Null where it does not move. */
export function drawingsAsPlanes(scene: Scene, id: PlaneId, idOf: (index: number) => PlaneId): Scene | null {
  const plane = planeOf(scene, id);
  if (plane?.content.kind !== 'moving') return null;
  // A drawing that is exposed several times is one plane.
  const arts = [...new Map(plane.content.exposures.map(({ art }) => [art.id, art])).values()];
  const apart = arts.map(
    (art, i): Plane => ({
      ...plane,
      id: i === 0 ? plane.id : idOf(i),
      name: arts.length > 1 ? `${plane.name} ${i + 1}`.slice(0, 200) : plane.name,
      content: { kind: 'still', art, made: null },
    }),
  );
  return withPlaneList(
    scene,
    planesOf(scene).flatMap((one) => (one.id === id ? apart : [one])),
  );
}

/** Other paint of the same size on a still plane: all else of it stays. */
export const repainted = (scene: Scene, id: PlaneId, art: ArtRef): Scene =>
  withPlaneList(
    scene,
    planesOf(scene).map((plane) =>
      plane.id === id && plane.content.kind === 'still'
        ? { ...plane, content: { kind: 'still', art, made: null } }
        : plane,
    ),
  );

/** Why planes cannot become the drawings of one. */
export type NoDrawings = 'fewer-than-two' | 'not-still' | 'sizes-differ';

/** Still planes of one size as the drawings of one moving plane, which stands where the nearest of them stood; nearest first. */
export function planesAsDrawings(scene: Scene, ids: ReadonlySet<PlaneId>): Scene | NoDrawings {
  const planes = planesOf(scene).filter(({ id }) => ids.has(id));
  const [first, ...others] = planes;
  if (!first || others.length === 0) return 'fewer-than-two';
  const arts = planes.flatMap(({ content }) => (content.kind === 'still' ? [content.art] : []));
  if (arts.length < planes.length) return 'not-still';
  if (arts.some(({ widthPx, heightPx }) => widthPx !== arts[0]!.widthPx || heightPx !== arts[0]!.heightPx))
    return 'sizes-differ';
  const content = {
    kind: 'moving' as const,
    exposures: arts.map((art) => ({ art, hold: 1 })),
    cycle: 'loop' as const,
    startFrame: 1,
    rate: null,
  };
  const gone = new Set(others.map(({ id }) => id));
  const kept = planesOf(remountOrphans(scene, gone)).filter(({ id }) => !gone.has(id));
  return withPlaneList(
    scene,
    kept.map((plane) => (plane.id === first.id ? { ...plane, content } : plane)),
  );
}
