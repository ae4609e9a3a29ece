import type { PxMap } from '../../geometry/index.ts';
import type { ArtRef, Content, CutRecipe, CutStep, Pin, Plane, PlaneId, Scene } from '../../scene/index.ts';
import { planesOf, withEachPlane, withPlaneList } from '../../scene/records/index.ts';
import { withPinsMapped, withPinsThat } from '../planes/index.ts';

/** The two images that a cut made, and how. */
export interface CutResult {
  readonly cutId: string;
  /** The cuts that led to what was cut, the first of them first. */
  readonly before: readonly CutStep[];
  readonly from: ArtRef;
  readonly recipe: CutRecipe;
  readonly taken: ArtRef;
  readonly takenAt: readonly [number, number];
  readonly left: ArtRef;
}

/** How a piece of a cut came about, this cut among it. */
export function stepsOfPiece(result: CutResult, part: CutStep['part']): CutStep[] {
  const { cutId, from, recipe, before } = result;
  const atPx: [number, number] = part === 'taken' ? [...result.takenAt] : [0, 0];
  return [...before, { cutId, from, part, atPx, recipe }];
}

function pieceOf(result: CutResult, part: CutStep['part']): Content {
  const step = stepsOfPiece(result, part).at(-1)!;
  const before = result.before.length > 0 ? { before: [...result.before] } : {};
  return {
    kind: 'still',
    art: part === 'taken' ? result.taken : result.left,
    made: { kind: 'cut', ...step, ...before },
  };
}

/**
 * Cuts a plane in two: what was taken becomes a new plane just in front, in exactly the same place; the plane itself
 * keeps the rest. Nothing changes when the plane is gone.
 */
export function cutPlane(scene: Scene, id: PlaneId, newId: PlaneId, name: string, result: CutResult): Scene {
  const at = planesOf(scene).findIndex((plane) => plane.id === id);
  const plane = planesOf(scene)[at];
  if (!plane) return scene;
  const [x, y] = result.takenAt;
  // A pin goes with the piece that it lies in.
  const inPiece = ({ xArtPx, yArtPx }: Pin) =>
    xArtPx >= x && yArtPx >= y && xArtPx < x + result.taken.widthPx && yArtPx < y + result.taken.heightPx;
  const taken: Plane = {
    ...withPinsMapped(withPinsThat(plane, inPiece), { scale: 1, dxPx: -x, dyPx: -y }),
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
  const left: Plane = {
    ...withPinsThat(plane, (pin) => !inPiece(pin)),
    content: pieceOf(result, 'left'),
  };
  return withPlaneList(scene, [
    ...planesOf(scene).slice(0, at),
    taken,
    left,
    ...planesOf(scene).slice(at + 1),
  ]);
}

/** How a plane's art was cut; null where it was not. */
const cutOf = ({ content }: Plane): CutMade | null =>
  content.kind === 'still' && content.made?.kind === 'cut' ? content.made : null;
type CutMade = Extract<NonNullable<Extract<Content, { kind: 'still' }>['made']>, { kind: 'cut' }>;

/** All cuts that led to the art of a plane, the first of them first. */
export function cutStepsOf(plane: Plane): readonly CutStep[] {
  const made = cutOf(plane);
  if (!made) return [];
  const { kind: _, before = [], ...step } = made;
  return [...before, step];
}

/** Px of the art that was cut to px of the art that is cut now: the same, where a cut is only changed. */
const SAME_PX: PxMap = { scale: 1, dxPx: 0, dyPx: 0 };

/**
 * The pieces of a cut that was changed, or made again on a next version of the art: every plane that holds one takes the
 * new one, in its place. `map` leads from px of the art before to px of the art now.
 */
export function changeCut(scene: Scene, result: CutResult, map = SAME_PX): Scene {
  return withEachPlane(scene, (plane) => {
    const made = cutOf(plane);
    if (made?.cutId !== result.cutId) return plane;
    const content = pieceOf(result, made.part);
    const [atX, atY] = made.part === 'taken' ? result.takenAt : [0, 0];
    const { transform } = plane;
    const { scale } = map;
    const dxPx = made.atPx[0] * scale + map.dxPx - atX;
    const dyPx = made.atPx[1] * scale + map.dyPx - atY;
    return {
      ...withPinsMapped(plane, { scale, dxPx, dyPx }),
      content,
      transform: {
        ...transform,
        scaleX: transform.scaleX / scale,
        scaleY: transform.scaleY / scale,
        anchorXArtPx: transform.anchorXArtPx * scale + dxPx,
        anchorYArtPx: transform.anchorYArtPx * scale + dyPx,
      },
    };
  });
}

/** A cut that is to be made again on the next version of what it was made of. */
export interface CutAgain {
  readonly cutId: string;
  readonly from: ArtRef;
  readonly recipe: CutRecipe;
  /** The piece of an earlier cut that it cuts; null where that is the painting. */
  readonly of: Pick<CutStep, 'cutId' | 'part'> | null;
  /** Upper left corner of the piece that was taken, in the art that was cut. */
  readonly takenAtPx: readonly [number, number];
}

/** All cuts that go back to a painting, each after those whose pieces it cuts. */
export function cutsOf(scene: Scene, artId: ArtRef['id']): CutAgain[] {
  const all = new Map<string, CutAgain>();
  const chains = planesOf(scene)
    .map(cutStepsOf)
    .filter(([first]) => first?.from.id === artId);
  const deepest = Math.max(0, ...chains.map((steps) => steps.length));
  for (let depth = 0; depth < deepest; depth++) {
    for (const steps of chains) {
      const step = steps[depth];
      if (!step) continue;
      const { cutId, from, recipe, part, atPx } = step;
      const earlier = steps[depth - 1];
      const of = earlier ? { cutId: earlier.cutId, part: earlier.part } : null;
      const takenAtPx = part === 'taken' ? atPx : (all.get(cutId)?.takenAtPx ?? [0, 0]);
      all.set(cutId, { cutId, from, recipe, of, takenAtPx });
    }
  }
  return [...all.values()];
}
