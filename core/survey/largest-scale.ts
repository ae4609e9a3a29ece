import type { Plane, Scene } from '../scene/index.ts';
import { placePlane } from '../stage/index.ts';
import { factsOf } from '../staging/content/index.ts';
import { cameraPoseAt, stageFrameOf, standingAt } from '../staging/index.ts';

/** Largest output px per art px of a plane over the shot, seen or not. 0 where it is never in front. */
export function largestScale(scene: Scene, plane: Plane): number {
  const frame = stageFrameOf(scene);
  let largest = 0;
  for (let at = 1; at <= scene.lengthFrames; at++) {
    const { artToFrame: m } = placePlane(frame, cameraPoseAt(scene, at), standingAt(scene, plane, at));
    if (m) largest = Math.max(largest, Math.hypot(m.a, m.b), Math.hypot(m.c, m.d));
  }
  return factsOf(plane.content).painted ? largest : 0;
}
