import type { Passing, PlaneId, Scene } from '../scene.ts';
import { withFreePlanes } from './with-planes.ts';

/** A note at a frame; another one there is replaced. An empty note only marks it. */
export const setMarker = (scene: Scene, frame: number, note: string): Scene => ({
  ...scene,
  markers: [...scene.markers.filter((marker) => marker.frame !== frame), { frame, note }].sort(
    (p, q) => p.frame - q.frame,
  ),
});

export const deleteMarker = (scene: Scene, frame: number): Scene => ({
  ...scene,
  markers: scene.markers.filter((marker) => marker.frame !== frame),
});

export const setPassing = (scene: Scene, ids: ReadonlySet<PlaneId>, passing: Passing | null): Scene =>
  withFreePlanes(scene, ids, (plane) => ({ ...plane, passing }));
