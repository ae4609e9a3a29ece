import { setPlaneDepth } from '../edits/depth/index.ts';
import type { PlaneId, Scene } from '../scene/index.ts';
import { planeOf } from '../scene/records/index.ts';
import { nearLimitSpx } from '../stage/index.ts';
import { stageFrameOf, standingAt } from '../staging/index.ts';
import { cutSidesOver } from './margins/edge-gaps.ts';
import { isAcross } from './margins/margins.ts';
import { SET_UP_FRAME } from './survey-run.ts';

/** Depths are searched so far nearer and farther, as a ratio of distances, in so many halvings. */
const SEARCH = { most: 64, halvings: 26 } as const;

/** What is spare at the ends of a plane that are cut off, across, where the frame comes nearest to one; output px, under 0 it runs out; null where it has no such ends. */
export function clearanceAcross(scene: Scene, id: PlaneId): number | null {
  const plane = planeOf(scene, id);
  if (!plane) return null;
  let least: number | null = null;
  for (const { artSide, insidePx } of cutSidesOver(scene, plane))
    if (isAcross(artSide)) least = least === null ? -insidePx : Math.min(least, -insidePx);
  return least;
}

/**
 * The depth at which a plane's art just serves the move: so many output px are spare at the end that the frame comes
 * nearest to, the picture at the set-up frame held. Null where no depth does it: it rides, it has no cut ends, it is too
 * narrow for the first frame already, or so wide that it would serve in front of the lens.
 */
export function depthFromArt(scene: Scene, id: PlaneId, sparePx: number): number | null {
  const plane = planeOf(scene, id);
  if (!plane || plane.locked || plane.mount.on !== 'stage') return null;
  const home = scene.homeDistanceSpx;
  const { depthSpx } = standingAt(scene, plane, SET_UP_FRAME);
  const least = nearLimitSpx(stageFrameOf(scene)) * 2;
  const spareAt = (distance: number): number => {
    const settings = { depthSpx: distance - home, atFrame: SET_UP_FRAME, holdPicture: true };
    return clearanceAcross(setPlaneDepth(scene, id, settings), id) ?? Number.NaN;
  };
  // Nearer a plane slides more, and less is spare.
  let near = Math.max(least, (home + depthSpx) / SEARCH.most);
  let far = (home + depthSpx) * SEARCH.most;
  if (!(spareAt(far) >= sparePx) || !(spareAt(near) < sparePx)) return null;
  for (let i = 0; i < SEARCH.halvings; i++) {
    const middle = Math.sqrt(near * far);
    if (spareAt(middle) >= sparePx) far = middle;
    else near = middle;
  }
  return far - home;
}
