import { applyAffine, type Box, invertAffine, mapBox, type Point } from '@keen-ridge/core/geometry';
import type { Plane, Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { isInside, parsePath } from '@keen-ridge/core/shapes';
import type { CameraPose } from '@keen-ridge/core/stage';
import { repeatsAcross, repeatsDown } from '@keen-ridge/core/staging';
import { factsOf, type PaintedPath } from '@keen-ridge/core/staging/content';
import { framePlan, type PlanePlan } from '@keen-ridge/core/staging/frame';

/** Alpha under which a click goes through the paint. */
const CLICKABLE_ALPHA = 40;

const hitsPaths = (paths: readonly PaintedPath[], at: Point): boolean =>
  paths.some(({ path }) => {
    const outlines = parsePath(path);
    return outlines.ok && isInside(outlines.value, at);
  });

/** The planes with paint at a point of the frame (output px), nearest first. */
export function planesAt(
  scene: Scene,
  frame: number,
  pose: CameraPose,
  at: Point,
  alphaAt: (artId: string, x: number, y: number) => number,
): Plane[] {
  const byId = new Map(planesOf(scene).map((plane) => [plane.id, plane]));
  return framePlan(scene, frame, pose)
    .planes.filter((plan) => isPaintedAt(plan, at, alphaAt))
    .flatMap(({ planeId }) => byId.get(planeId) ?? [])
    .reverse();
}

/**
 * The planes whose paint, as far as it is `shown`, lies in a box of the picture (both output px), nearest first. What
 * only reaches into the box is not meant: a sky would be chosen with every cloud.
 */
export function planesWithin(scene: Scene, frame: number, pose: CameraPose, box: Box, shown: Box): Plane[] {
  const byId = new Map(planesOf(scene).map((plane) => [plane.id, plane]));
  return framePlan(scene, frame, pose)
    .planes.flatMap(({ planeId, state, artToFrame }) => {
      const plane = byId.get(planeId);
      const { painted = null } = plane ? factsOf(plane.content) : {};
      if (!plane || state !== 'drawn' || !painted) return [];
      const seen = mapBox(artToFrame, painted);
      const [x0, x1] = [Math.max(shown.x0, seen.x0), Math.min(shown.x1, seen.x1)];
      const [y0, y1] = [Math.max(shown.y0, seen.y0), Math.min(shown.y1, seen.y1)];
      const shows = x0 < x1 && y0 < y1;
      return shows && x0 >= box.x0 && x1 <= box.x1 && y0 >= box.y0 && y1 <= box.y1 ? [plane] : [];
    })
    .reverse();
}

function isPaintedAt(
  plan: PlanePlan,
  at: Point,
  alphaAt: (artId: string, x: number, y: number) => number,
): boolean {
  const back = plan.state === 'drawn' ? invertAffine(plan.artToFrame) : null;
  if (!back) return false;
  const on = inOneCopy(plan, applyAffine(back, at));
  if (plan.shown.kind === 'paths') return hitsPaths(plan.shown.paths, on);
  return alphaAt(plan.shown.art.id, on.x, on.y) >= CLICKABLE_ALPHA;
}

function inOneCopy({ shown, repeat }: PlanePlan, { x, y }: Point): Point {
  const { widthPx, heightPx } = shown.kind === 'image' ? shown.art : shown.facts;
  const within = (value: number, size: number) => value - Math.floor(value / size) * size;
  return {
    x: repeatsAcross(repeat) ? within(x, widthPx) : x,
    y: repeatsDown(repeat) ? within(y, heightPx) : y,
  };
}
