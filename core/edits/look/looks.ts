import { type Air, type CameraFilter, type Grade, PLAIN_FILTER, PLAIN_GRADE } from '../../paint/index.ts';
import type { PlaneId, Scene } from '../../scene/index.ts';
import { withFreePlanes } from '../planes/index.ts';

const isSame = <T extends object>(p: T, q: T): boolean =>
  (Object.keys(q) as (keyof T)[]).every((name) => p[name] === q[name]);

/** Changes parts of the grade of planes that are not locked; a grade that changes nothing is none. */
export const setGrade = (scene: Scene, ids: ReadonlySet<PlaneId>, part: Partial<Grade>): Scene =>
  withFreePlanes(scene, ids, (plane) => {
    const grade = { ...(plane.grade ?? PLAIN_GRADE), ...part };
    return { ...plane, grade: isSame(grade, PLAIN_GRADE) ? null : grade };
  });

export const setAir = (scene: Scene, air: Air | null): Scene => ({ ...scene, air });

/** Changes parts of the camera's filter; one that changes nothing is none. */
export function setFilter(scene: Scene, part: Partial<CameraFilter>): Scene {
  const filter = { ...(scene.filter ?? PLAIN_FILTER), ...part };
  return { ...scene, filter: isSame(filter, PLAIN_FILTER) ? null : filter };
}
