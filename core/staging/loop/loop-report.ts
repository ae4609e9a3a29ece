import type { Plane, PlaneId, Scene } from '../../scene/index.ts';
import { channelOf, planeOf, planesOf } from '../../scene/records/index.ts';
import { speedAtDepth } from '../../stage/index.ts';
import { flickerAt, runDistance } from '../../timing/moves/index.ts';
import { turnTicks } from '../content/index.ts';
import { cameraPoseAt, lensAt, movedAt, repeatsAcross, repeatsDown, standingAt } from '../index.ts';
import { gradeAt, shotLooksAt } from '../looks/index.ts';
import { repeatPeriodSpx } from './repeat-period.ts';

/** Turns closer to a whole number than this close: what float speeds lose to rounding. */
const CLOSED = 1e-9;

/** How one thing that moves by itself stands to closing over the shot. */
export type LoopItem =
  | {
      readonly kind: 'run';
      readonly planeId: PlaneId;
      readonly axis: 'x' | 'y';
      /** How often it passes its own width or height over the shot; signed. */
      readonly turns: number;
      /** Whole turns; 0 where less than half of one would do: it stands still, as what is very far off may. */
      readonly nearest: number;
      /** What the nearest whole number of turns changes, as a share of the speed. */
      readonly error: number;
      readonly closed: boolean;
    }
  | {
      readonly kind: 'moving';
      readonly planeId: PlaneId;
      readonly turns: number;
      readonly nearest: number;
      readonly error: number;
      readonly closed: boolean;
    }
  /**
   * Cannot close as it is set up: it slides away, plays once, rides on something that runs, or its keys or its flicker
   * leave it otherwise than it began; or the camera, its lens or its light.
   */
  | { readonly kind: 'slides' | 'once' | 'rides' | 'keyed'; readonly planeId: PlaneId }
  | { readonly kind: 'camera' };

type Closing = Extract<LoopItem, { kind: 'run' | 'moving' }>;

export const canClose = (item: LoopItem): item is Closing => item.kind === 'run' || item.kind === 'moving';

/** Everything that decides whether frame `lengthFrames` + 1 is frame 1 again. */
export function loopReport(scene: Scene, lengthFrames = scene.lengthFrames): LoopItem[] {
  const shot = { ...scene, lengthFrames };
  const cameraAt = (frame: number) => [
    cameraPoseAt(shot, frame),
    lensAt(shot, frame),
    shotLooksAt(shot, frame),
  ];
  return [
    ...(isSame(cameraAt(1), cameraAt(lengthFrames + 1)) ? [] : [{ kind: 'camera' } as const]),
    ...planesOf(shot)
      .filter((plane) => !plane.hidden)
      .flatMap((plane) => itemsOf(shot, plane)),
  ];
}

function itemsOf(scene: Scene, plane: Plane): LoopItem[] {
  const items: LoopItem[] = [
    ...runItems(scene, plane),
    ...movingItems(scene, plane),
    ...keyedItems(scene, plane),
  ];
  return ridesOnRun(scene, plane) ? [...items, { kind: 'rides', planeId: plane.id }] : items;
}

/** Keys of its own, or a flicker, that leave it otherwise after the shot than it began. */
function keyedItems(scene: Scene, plane: Plane): LoopItem[] {
  const { lengthFrames, rate } = scene;
  const at = (frame: number) => [
    movedAt(plane, frame),
    gradeAt(plane, frame),
    plane.flicker ? flickerAt(plane.flicker, frame, lengthFrames, rate) : 1,
  ];
  return isSame(at(1), at(lengthFrames + 1)) ? [] : [{ kind: 'keyed', planeId: plane.id }];
}

const ANGLES: ReadonlySet<string> = new Set(['rollDeg', 'rotation']);
/** In billionths of a degree, of which remainders are exact. */
const TURN = 360e9;

/**
 * The same picture: the same numbers, but for what waves that turn a whole number of times lose to rounding, and for
 * whole turns of what is turned.
 */
function isSame(one: object, other: object): boolean {
  const rounded = (name: string, value: unknown) => {
    if (typeof value !== 'number') return value;
    const billionths = Math.round(value * 1e9);
    return ANGLES.has(name) ? (((billionths % TURN) + TURN) % TURN) / 1e9 : billionths / 1e9;
  };
  return JSON.stringify(one, rounded) === JSON.stringify(other, rounded);
}

function ridesOnRun(scene: Scene, { mount }: Plane): boolean {
  if (mount.on !== 'plane') return false;
  const under = planeOf(scene, mount.plane);
  return under !== undefined && (under.run !== null || ridesOnRun(scene, under));
}

const AXES = ['x', 'y'] as const;

function runItems(scene: Scene, plane: Plane): LoopItem[] {
  return AXES.flatMap((axis): LoopItem[] => {
    const turns = runTurns(scene, plane, axis);
    if (turns.value === 0) return [];
    const repeats = axis === 'x' ? repeatsAcross(plane.repeat) : repeatsDown(plane.repeat);
    if (!repeats) return [{ kind: 'slides', planeId: plane.id }];
    return [
      {
        kind: 'run',
        planeId: plane.id,
        axis,
        ...toNearest(turns.value, turns.closed, Math.round(turns.value) || 0),
      },
    ];
  });
}

const toNearest = (turns: number, closed: boolean, nearest: number) => ({
  turns,
  nearest,
  error: nearest / turns - 1,
  closed,
});

/** Turns over the shot. Of a cycle by whole numbers: it closes when frames divides times · length. */
export function runTurns(scene: Scene, plane: Plane, axis: 'x' | 'y'): { value: number; closed: boolean } {
  const { run } = plane;
  const { lengthFrames } = scene;
  if (!run) return { value: 0, closed: true };
  if (run.kind === 'cycle') {
    const steps = (axis === 'x' ? run.timesX : run.timesY) * lengthFrames;
    return { value: steps / run.frames, closed: steps % run.frames === 0 };
  }
  const { depthSpx } = standingAt(scene, plane, 1);
  const spx = run.unit === 'own' ? 1 / speedAtDepth(depthSpx, scene.homeDistanceSpx) : 1;
  const value =
    (runDistance(channelOf(run[axis]), lengthFrames + 1) * spx) / repeatPeriodSpx(scene, plane)[axis];
  return { value, closed: Math.abs(value - Math.round(value)) < CLOSED };
}

/** Ticks of the plane's own rate over the shot, against those of one turn: ratios of whole numbers. */
function movingItems(scene: Scene, plane: Plane): LoopItem[] {
  const { content } = plane;
  if (content.kind !== 'moving' || content.exposures.length === 1) return [];
  if (content.cycle === 'once') return [{ kind: 'once', planeId: plane.id }];
  const own = content.rate ?? scene.rate;
  const ticks = scene.lengthFrames * own.num * scene.rate.den;
  const turn = turnTicks(content) * own.den * scene.rate.num;
  const turns = ticks / turn;
  return [
    {
      kind: 'moving',
      planeId: plane.id,
      ...toNearest(turns, ticks % turn === 0, Math.max(1, Math.round(turns))),
    },
  ];
}

/** What it takes to close everything that can close. */
export interface LoopCost {
  /** How many would stand still. */
  readonly standing: number;
  /** The largest share that the speed of anything else changes by; 0 when all closes already. */
  readonly worstError: number;
}

export function loopCost(items: readonly LoopItem[]): LoopCost {
  const open = items.filter(canClose).filter(({ closed }) => !closed);
  const goOn = open.filter(({ nearest }) => nearest !== 0);
  return {
    standing: open.length - goOn.length,
    worstError: Math.max(0, ...goOn.map(({ error }) => Math.abs(error))),
  };
}
