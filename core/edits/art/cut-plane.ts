import type { ArtRef, Content, CutRecipe, Plane, PlaneId, Scene } from '../../scene/index.ts';
import { planesOf, withEachPlane, withPlaneList } from '../../scene/records/index.ts';

/** The two images that a cut made, and how. */
export interface CutResult {
  readonly cutId: string;
  readonly from: ArtRef;
  readonly recipe: CutRecipe;
  readonly taken: ArtRef;
  readonly takenAt: readonly [number, number];
  readonly left: ArtRef;
}

const pieceOf = (result: CutResult, part: 'taken' | 'left'): Content => ({
  kind: 'still',
  art: part === 'taken' ? result.taken : result.left,
  made: {
    kind: 'cut',
    cutId: result.cutId,
    from: result.from,
    part,
    atPx: part === 'taken' ? [...result.takenAt] : [0, 0],
    recipe: result.recipe,
  },
});

/**
 * Cuts a plane in two: what was taken becomes a new plane just in front, in exactly the same place; the plane itself
 * keeps the rest. Nothing changes when the plane is gone.
 */
export function cutPlane(scene: Scene, id: PlaneId, newId: PlaneId, name: string, result: CutResult): Scene {
  const at = planesOf(scene).findIndex((plane) => plane.id === id);
  const plane = planesOf(scene)[at];
  if (!plane) return scene;
  const [x, y] = result.takenAt;
  const taken: Plane = {
    ...plane,
    id: newId,
    name,
    content: pieceOf(result, 'taken'),
    origin: null,
    locked: false,
    transform: {
      ...plane.transform,
      anchorXArtPx: plane.transform.anchorXArtPx - x,
      anchorYArtPx: plane.transform.anchorYArtPx - y,
    },
  };
  const left: Plane = { ...plane, content: pieceOf(result, 'left') };
  return withPlaneList(scene, [
    ...planesOf(scene).slice(0, at),
    taken,
    left,
    ...planesOf(scene).slice(at + 1),
  ]);
}

/** The pieces of a cut that was changed: every plane that holds one takes the new one, in its place. */
export function changeCut(scene: Scene, result: CutResult): Scene {
  return withEachPlane(scene, (plane) => {
    const made = plane.content.kind === 'still' ? plane.content.made : null;
    if (made?.kind !== 'cut' || made.cutId !== result.cutId) return plane;
    const content = pieceOf(result, made.part);
    if (made.part === 'left') return { ...plane, content };
    return {
      ...plane,
      content,
      transform: {
        ...plane.transform,
        anchorXArtPx: plane.transform.anchorXArtPx + made.atPx[0] - result.takenAt[0],
        anchorYArtPx: plane.transform.anchorYArtPx + made.atPx[1] - result.takenAt[1],
      },
    };
  });
}
