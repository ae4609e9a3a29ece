import type { Plane, PlaneId, Scene } from '../scene.ts';

export const withPlanes = (
  scene: Scene,
  ids: ReadonlySet<PlaneId>,
  change: (plane: Plane) => Plane,
): Scene => ({
  ...scene,
  planes: scene.planes.map((plane) => (ids.has(plane.id) ? change(plane) : plane)),
});

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
