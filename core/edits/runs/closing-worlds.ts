import type { Plane, Scene } from '../../scene/index.ts';
import { planeOf, withPlanes } from '../../scene/records/index.ts';
import { type LoopItem, loopReport } from '../../staging/loop/index.ts';
import { asSpeed, runSpeedAt, timesFactor } from './runs.ts';

/** How far a world may be from its own speed, and how finely speeds between are looked at: 0.1 % apart. */
const FARTHEST = 8;
const STEP = 1.001;
/** How much of a strip's speed may change, for the worst of them, from coarse to fine. */
const BOUNDS = [0.1, 0.05, 0.02] as const;

export interface ClosingWorld {
  /** Times as fast as it runs now, for all runs alike, so that parallax stays. */
  readonly factor: number;
  /** What closing then changes at most, as a share of a strip's speed. */
  readonly worstError: number;
}

type RunItem = Extract<LoopItem, { kind: 'run' }>;

/**
 * The speeds of the world nearest to its own at which every strip runs and closing changes none by more than a tenth, a
 * twentieth, a fiftieth: for a far strip that would have to stand still, or one that closing would make much faster.
 * None where that is so as it is.
 */
export function closingWorlds(scene: Scene): ClosingWorld[] {
  const runs = loopReport(scene).filter((item): item is RunItem => item.kind === 'run');
  const worlds: ClosingWorld[] = [];
  for (const bound of BOUNDS) {
    const world = nearestWorld(runs, bound);
    if (world && worlds.every(({ factor }) => factor !== world.factor)) worlds.push(world);
  }
  return worlds.filter(({ factor }) => factor !== 1);
}

function nearestWorld(runs: readonly RunItem[], bound: number): ClosingWorld | undefined {
  const worst = (factor: number) =>
    Math.max(
      0,
      ...runs.map(({ turns }) =>
        Math.abs(Math.round(Math.abs(turns * factor)) / Math.abs(turns * factor) - 1),
      ),
    );
  for (let k = 0; STEP ** k <= FARTHEST; k++)
    for (const factor of k === 0 ? [1] : [STEP ** k, STEP ** -k]) {
      const worstError = worst(factor);
      if (worstError <= bound) return { factor, worstError };
    }
  return undefined;
}

/** Everything that runs, `factor` times as fast; what runs in whole cycles does so by its speed then. */
export function timesRuns(scene: Scene, factor: number): Scene {
  const running = new Set(loopReport(scene).flatMap((item) => (item.kind === 'run' ? [item.planeId] : [])));
  return withPlanes(scene, running, (plane): Plane => {
    if (!plane.run) return plane;
    const run = asSpeed(scene, plane, plane.run.kind === 'speed' ? plane.run.unit : 'datum');
    return { ...plane, run: { ...run, x: timesFactor(run.x, factor), y: timesFactor(run.y, factor) } };
  });
}

/** The speed at the datum along x that all runs of the first frame share, px a frame, east positive; null where they do not. */
export function worldSpeed(scene: Scene): number | null {
  const speeds = loopReport(scene).flatMap((item) => {
    const plane = item.kind === 'run' ? planeOf(scene, item.planeId) : undefined;
    return plane ? [runSpeedAt(scene, plane, 1).datum.x] : [];
  });
  const [first] = speeds;
  if (first === undefined || first === 0) return null;
  return speeds.every((speed) => Math.abs(speed - first) < 1e-9 * Math.abs(first)) ? first : null;
}
