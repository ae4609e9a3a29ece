import { setPlanesDepth } from '@keen-ridge/core/edits/depth';
import type { PlaneId, Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { standingsAt } from '@keen-ridge/core/staging';
import type { Session } from '../session/session.ts';

/** What the edit was done to, as the history says it. */
export function subjectOf(scene: Scene, ids: readonly PlaneId[]): string {
  const [only] = planesOf(scene).filter((plane) => ids.includes(plane.id));
  return ids.length === 1 && only ? only.name : `${ids.length} planes`;
}

/** The same depth for all of `ids`. */
export const withDepth = (
  scene: Scene,
  ids: readonly PlaneId[],
  depthSpx: number,
  atFrame: number,
  holdPicture: boolean,
): Scene => setPlanesDepth(scene, new Map(ids.map((id) => [id, depthSpx])), { atFrame, holdPicture });

/** Multiplies the distance from home of all of `ids` by `ratio`: on the Stand they move together. */
export function withDistanceRatio(
  scene: Scene,
  ids: readonly PlaneId[],
  ratio: number,
  atFrame: number,
  holdPicture: boolean,
): Scene {
  const home = scene.homeDistanceSpx;
  const standings = standingsAt(scene, atFrame);
  const goals = planesOf(scene)
    .filter((plane) => ids.includes(plane.id))
    .map((plane) => [plane.id, (home + standings.get(plane.id)!.depthSpx) * ratio - home] as const);
  return setPlanesDepth(scene, new Map(goals), { atFrame, holdPicture });
}

/** Nudges by a ratio of distance, as one edit. */
export function nudgeDepth(
  session: Session,
  ids: readonly PlaneId[],
  ratio: number,
  holdPicture: boolean,
): void {
  const { scene, frame } = session.state;
  session.commit(
    'set-depth',
    subjectOf(scene, ids),
    withDistanceRatio(scene, ids, ratio, frame, holdPicture),
  );
}
