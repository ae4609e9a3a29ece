import type { Marker, MarkerId, Scene } from '../../scene/index.ts';
import { markersOf } from '../../scene/records/index.ts';

/** The first id after its frame that is free: two artists who mark one frame at once mean the same marker. */
function freeMarkerId({ markers }: Scene, frame: number): MarkerId {
  let id = `at-${frame}`;
  while (Object.hasOwn(markers, id)) id += '+';
  return id as MarkerId;
}

/** A note at a frame; another one there is replaced. An empty note only marks it. */
export function setMarker(scene: Scene, frame: number, note: string): Scene {
  const there = markersOf(scene).find((marker) => marker.frame === frame);
  const id = there?.id ?? freeMarkerId(scene, frame);
  return { ...scene, markers: { ...scene.markers, [id]: { frame, note } satisfies Marker } };
}

export function deleteMarker(scene: Scene, frame: number): Scene {
  const kept = Object.entries(scene.markers).filter(([, marker]) => marker.frame !== frame);
  return { ...scene, markers: Object.fromEntries(kept) };
}
