import {
  type Air,
  type CameraFilter,
  CLEAR_VISIBILITY_SPX,
  type Grade,
  PLAIN_FILTER,
  PLAIN_GRADE,
} from '../../paint/index.ts';
import type { Plane, Scene } from '../../scene/index.ts';
import { USUAL_AIR_COLOUR } from '../../staging/looks/index.ts';

const isSame = <T extends object>(p: T, q: T): boolean =>
  (Object.keys(q) as (keyof T)[]).every((name) => p[name] === q[name]);

/** A grade with parts of it changed; null where it changes nothing. */
export function gradeWith(grade: Plane['grade'], part: Partial<Grade>): Plane['grade'] {
  const { softEdgePx = 0, ...rest } = { ...(grade ?? PLAIN_GRADE), ...part };
  if (softEdgePx > 0) return { ...rest, softEdgePx };
  return isSame(rest, PLAIN_GRADE) ? null : rest;
}

/** The air of the shot where nothing of it is keyed; clear air of the usual colour is none. */
export const setAir = (scene: Scene, air: Air | null): Scene => ({
  ...scene,
  air: air && air.visibilitySpx >= CLEAR_VISIBILITY_SPX && air.colour === USUAL_AIR_COLOUR ? null : air,
});

/** Changes parts of the camera's filter; one that changes nothing is none. */
export function setFilter(scene: Scene, part: Partial<CameraFilter>): Scene {
  const filter = { ...(scene.filter ?? PLAIN_FILTER), ...part };
  return { ...scene, filter: isSame(filter, PLAIN_FILTER) ? null : filter };
}
