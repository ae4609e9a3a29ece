import { applyAffine, invertAffine, type Point } from '@keen-ridge/core/geometry';
import type { Plane, Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { isInside, parsePath } from '@keen-ridge/core/shapes';
import type { CameraPose } from '@keen-ridge/core/stage';
import { repeatsAcross, repeatsDown } from '@keen-ridge/core/staging';
import type { PaintedPath } from '@keen-ridge/core/staging/content';
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
