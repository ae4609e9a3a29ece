import type { ArtId, Plane, Repeat } from '../scene/index.ts';
import { shownArts } from '../staging/content/index.ts';
import { repeatsAcross, repeatsDown } from '../staging/index.ts';

const EDGE = '.edge';
/** By which axes the art comes round again. */
const SUFFIXES: Readonly<Record<Repeat, string>> = {
  none: EDGE,
  across: `${EDGE}-across`,
  down: `${EDGE}-down`,
  both: `${EDGE}-both`,
};

/** The name under which the distances of an art to its edge are kept, beside the art's own levels. */
export const edgeOfArt = (artId: ArtId, repeat: Repeat): ArtId => `${artId}${SUFFIXES[repeat]}` as ArtId;

/** Every image that the planes of a scene are drawn from, the distances to their edges too where they are softened. */
export const artsDrawn = (planes: readonly Plane[]): ArtId[] => [
  ...new Set(
    planes.flatMap((plane) => {
      const arts = shownArts(plane.content).map(({ id }) => id);
      const soft = (plane.grade?.softEdgePx ?? 0) > 0 || plane.moves.softEdge !== undefined;
      return soft ? [...arts, ...arts.map((id) => edgeOfArt(id, plane.repeat))] : arts;
    }),
  ),
];

/** The art whose edge a name stands for, and along which axes that art is endless; null for art itself. */
export function artOfEdge(
  name: string,
): { readonly artId: ArtId; readonly endless: { readonly across: boolean; readonly down: boolean } } | null {
  const at = name.indexOf(EDGE);
  if (at < 0) return null;
  const repeat = (Object.keys(SUFFIXES) as Repeat[]).find((one) => SUFFIXES[one] === name.slice(at));
  if (!repeat) return null;
  return {
    artId: name.slice(0, at) as ArtId,
    endless: { across: repeatsAcross(repeat), down: repeatsDown(repeat) },
  };
}
