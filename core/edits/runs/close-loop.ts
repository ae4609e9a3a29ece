import type { Plane, Scene } from '../../scene/index.ts';
import { keysOf, withPlanes } from '../../scene/records/index.ts';
import { turnTicks } from '../../staging/content/index.ts';
import {
  canClose,
  type LoopCost,
  type LoopItem,
  loopCost,
  loopReport,
  runTurns,
} from '../../staging/loop/index.ts';
import { type Rational, rational } from '../../units/index.ts';
import { timesFactor } from './runs.ts';

/** The rate at which a moving plane turns `times` times over the shot. */
function closingRate(scene: Scene, turn: number, times: number): Rational {
  return rational(times * turn * scene.rate.num, scene.lengthFrames * scene.rate.den);
}

/** `speeds` changes how fast strips run, `lengths` how long they are, by their size along the run. */
export const LOOP_WAYS = ['speeds', 'lengths'] as const;

export type LoopWay = (typeof LOOP_WAYS)[number];

/** Closes everything that can close at the nearest whole number of turns over the shot. */
export function closeLoop(scene: Scene, way: LoopWay): Scene {
  return loopReport(scene)
    .filter(canClose)
    .reduce((changed, item) => {
      const change = (plane: Plane) =>
        item.kind === 'moving'
          ? closedMoving(scene, plane, item.nearest)
          : closedRun(scene, plane, item, way);
      return item.closed && item.kind === 'moving'
        ? changed
        : withPlanes(changed, new Set([item.planeId]), change);
    }, scene);
}

function closedMoving(scene: Scene, plane: Plane, times: number): Plane {
  const { content } = plane;
  if (content.kind !== 'moving') return plane;
  return { ...plane, content: { ...content, rate: closingRate(scene, turnTicks(content), times) } };
}

function closedRun(
  scene: Scene,
  plane: Plane,
  item: Extract<LoopItem, { kind: 'run' }>,
  way: LoopWay,
): Plane {
  const { run } = plane;
  if (!run) return plane;
  const { axis, turns } = item;
  // A strip of any length passes at least once: it is as long as it slides.
  const nearest = way === 'lengths' ? item.nearest || Math.sign(turns) : item.nearest;
  const sized = way === 'lengths' ? lengthened(plane, axis, turns / nearest) : plane;
  const keyed = run.kind === 'speed' && (keysOf(run.x).length > 0 || keysOf(run.y).length > 0);
  if (keyed) {
    if (way === 'lengths') return sized;
    return { ...sized, run: { ...run, [axis]: timesFactor(run[axis], nearest / turns) } };
  }
  const { lengthFrames: frames } = scene;
  const cycle = run.kind === 'cycle' && run.frames === frames ? run : { timesX: 0, timesY: 0 };
  const rest = otherAxis(scene, plane, axis);
  const [timesX, timesY] = axis === 'x' ? [nearest, rest ?? cycle.timesY] : [rest ?? cycle.timesX, nearest];
  const stands = timesX === 0 && timesY === 0;
  return { ...sized, run: stands ? null : { kind: 'cycle', timesX, timesY, frames } };
}

/** Whole turns along the axis that is not being closed just now. */
function otherAxis(scene: Scene, plane: Plane, axis: 'x' | 'y'): number | null {
  const { value } = runTurns(scene, plane, axis === 'x' ? 'y' : 'x');
  return value === 0 ? null : Math.round(value) || 0;
}

const lengthened = (plane: Plane, axis: 'x' | 'y', factor: number): Plane => ({
  ...plane,
  transform:
    axis === 'x'
      ? { ...plane.transform, scaleX: plane.transform.scaleX * factor }
      : { ...plane.transform, scaleY: plane.transform.scaleY * factor },
});

/**
 * Other lengths near the shot's own, within `within` frames, at which everything closes with the smallest changes and no
 * more stands still than at its own: best first, at most `count`. Errors smaller than a thousandth of a percent count as
 * none; then fewer that stand still win, then the nearer length.
 */
export function closingLengths(
  scene: Scene,
  within: number,
  count: number,
): (LoopCost & { readonly lengthFrames: number })[] {
  const now = loopCost(loopReport(scene));
  const first = Math.max(2, scene.lengthFrames - within);
  const lengths = Array.from({ length: scene.lengthFrames + within - first + 1 }, (_, i) => first + i);
  return lengths
    .filter((lengthFrames) => lengthFrames !== scene.lengthFrames)
    .map((lengthFrames) => ({ lengthFrames, ...loopCost(loopReport(scene, lengthFrames)) }))
    .filter(({ standing }) => standing <= now.standing)
    .sort(
      (p, q) =>
        Math.round(p.worstError * 1e5) - Math.round(q.worstError * 1e5) ||
        p.standing - q.standing ||
        Math.abs(p.lengthFrames - scene.lengthFrames) - Math.abs(q.lengthFrames - scene.lengthFrames),
    )
    .slice(0, count);
}
