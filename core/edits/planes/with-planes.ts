import type { Plane, PlaneId, Scene } from '../../scene/index.ts';
import { withPlanes } from '../../scene/records/index.ts';

/** A locked plane stays where it is, whoever asks. */
export const withFreePlanes = (
  scene: Scene,
  ids: ReadonlySet<PlaneId>,
  change: (plane: Plane) => Plane,
): Scene => withPlanes(scene, ids, (plane) => (plane.locked ? plane : change(plane)));

export const withFreePlane = (scene: Scene, id: PlaneId, change: (plane: Plane) => Plane): Scene =>
  withFreePlanes(scene, new Set([id]), change);

export const withPlane = (scene: Scene, id: PlaneId, change: (plane: Plane) => Plane): Scene =>
  withPlanes(scene, new Set([id]), change);
