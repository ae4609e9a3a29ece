import { applyAffine, invertAffine, type Point } from '../geometry/index.ts';
import type { PlaneId, Scene } from '../scene/index.ts';
import { framePlan, nearestCopy, type PlanePlan } from '../staging/frame/index.ts';

type Drawn = Extract<PlanePlan, { state: 'drawn' }>;

/** How far the spot of a plane that was in the middle of the frame has gone, output px. */
export function slideOf(
  before: PlanePlan | undefined,
  now: Drawn,
  { widthPx, heightPx }: Scene['frame'],
): number {
  const back = before?.state === 'drawn' ? invertAffine(before.artToFrame) : null;
  if (!back) return 0;
  const middle = { x: widthPx / 2, y: heightPx / 2 };
  const { x, y } = stepOnScreen(now, applyAffine(back, middle), middle);
  return Math.hypot(x, y);
}

/** How far a plane goes from one frame to the next at its fastest, over some frames, output px. */
export function fastestSlide(scene: Scene, id: PlaneId, firstFrame: number, lastFrame: number): number {
  let fastest = 0;
  let before: PlanePlan | undefined;
  for (let frame = Math.max(1, firstFrame - 1); frame <= Math.min(scene.lengthFrames, lastFrame); frame++) {
    const now = framePlan(scene, frame).planes.find(({ planeId }) => planeId === id);
    if (now?.state === 'drawn') fastest = Math.max(fastest, slideOf(before, now, scene.frame));
    before = now;
  }
  return fastest;
}

/** How far a spot of the art (art px) lies from a place of the frame now, output px; copies of tiled art are all the same spot. */
export function stepOnScreen(plan: Drawn, spot: Point, from: Point): Point {
  const at = applyAffine(nearestCopy(plan, spot, from), spot);
  return { x: at.x - from.x, y: at.y - from.y };
}
