import type { Plane, Scene } from '../../scene/index.ts';
import { planeOf, withPlanes } from '../../scene/records/index.ts';
import { type LoopCost, type LoopItem, loopCost, loopReport } from '../../staging/loop/index.ts';
import { asSpeed, runSpeedAt, timesFactor } from './runs.ts';

/** How many times as fast or slow a world may become, and how finely speeds between are looked at: 0.1 % apart. */
const FARTHEST = 3;
const STEP = 1.001;
/** From the world's own speed outwards. */
const FACTORS = [
  1,
  ...Array.from({ length: Math.floor(Math.log(FARTHEST) / Math.log(STEP)) }, (_, i) => [
    STEP ** (i + 1),
    STEP ** -(i + 1),
  ]).flat(),
];
/** The share of its speed by which closing may change a strip: the least of these that a world can be found for. */
const BOUNDS = [0.05, 0.1, 0.2] as const;

export interface ClosingWorld extends LoopCost {
  /** Times as fast as it runs now, for all runs alike, so that parallax stays. */
  readonly factor: number;
}

type RunItem = Extract<LoopItem, { kind: 'run' }>;

/**
 * The speeds of the world nearest to its own at which closing changes no strip by more than a twentieth (a tenth, a fifth
 * where there is none): one at which as many stand still as do now, one at which one fewer does, and so on; each once.
 * None for what is so as it is, or would take three times the speed.
 */
export function closingWorlds(scene: Scene): ClosingWorld[] {
  const runs = loopReport(scene).filter((item): item is RunItem => item.kind === 'run');
  const all = FACTORS.map((factor) => ({ factor, ...loopCost(runs.map((item) => atSpeed(item, factor))) }));
  const worlds: ClosingWorld[] = [];
  for (let most = loopCost(runs).standing; most >= 0; most--) {
    const few = all.filter(({ standing }) => standing <= most);
    const bound = BOUNDS.find((share) => few.some(({ worstError }) => worstError <= share));
    const world = bound && few.find(({ worstError }) => worstError <= bound);
    if (world && world.factor !== 1 && !worlds.includes(world)) worlds.push(world);
  }
  return worlds;
}

function atSpeed(item: RunItem, factor: number): RunItem {
  if (factor === 1) return item;
  const turns = item.turns * factor;
  const nearest = Math.round(turns) || 0;
  return { ...item, turns, nearest, error: nearest / turns - 1, closed: false };
}

/** Everything that runs and repeats, `factor` times as fast; what runs in whole cycles does so by its speed then. */
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
