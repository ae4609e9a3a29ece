import type { Plane, PlaneId, Scene } from '../../scene/index.ts';
import { planesOf, withPlaneList } from '../../scene/records/index.ts';

/** Puts new planes on top of the list, in the order given (first on top). */
export const addPlanes = (scene: Scene, planes: readonly Plane[]): Scene =>
  withPlaneList(scene, [...planes, ...planesOf(scene)]);

/**
 * Moves planes, in the order that they have, to stand before the plane `before` (null: at the end of the list). The
 * list decides only between planes at the same distance.
 */
export function reorderPlanes(scene: Scene, ids: ReadonlySet<PlaneId>, before: PlaneId | null): Scene {
  const moved = planesOf(scene).filter((plane) => ids.has(plane.id));
  const rest = planesOf(scene).filter((plane) => !ids.has(plane.id));
  const following = planesOf(scene).slice(planesOf(scene).findIndex((plane) => plane.id === before));
  const goal = before === null ? undefined : following.find((plane) => !ids.has(plane.id));
  const at = goal ? rest.indexOf(goal) : rest.length;
  return withPlaneList(scene, [...rest.slice(0, at), ...moved, ...rest.slice(at)]);
}

/** Puts `planes` into the list just before the plane `before` (null: at the end). */
export function insertPlanes(scene: Scene, planes: readonly Plane[], before: PlaneId | null): Scene {
  const at =
    before === null ? planesOf(scene).length : planesOf(scene).findIndex((plane) => plane.id === before);
  const index = Math.max(0, at);
  return withPlaneList(scene, [
    ...planesOf(scene).slice(0, index),
    ...planes,
    ...planesOf(scene).slice(index),
  ]);
}
