import type { ArtRef, Plane, PlaneId, Repeat, Run, Scene } from '../../scene/index.ts';
import { channelOf, keysOf, planesOf, recordOf, withPlanes } from '../../scene/records/index.ts';
import { speedAtDepth } from '../../stage/index.ts';
import { factsOf } from '../../staging/content/index.ts';
import { standingAt } from '../../staging/index.ts';
import { channelValueAt, EASE_PRESETS, mapValues, putKey, shiftChannel } from '../../timing/index.ts';
import type { CameraChange } from '../keys/index.ts';
import { withFreePlanes } from '../planes/index.ts';

type SpeedRun = Extract<Run, { kind: 'speed' }>;

export type RunUnit = SpeedRun['unit'];

const resting = (value: number): SpeedRun['x'] => ({ value, keys: {} });

export const setPlanesRepeat = (scene: Scene, ids: ReadonlySet<PlaneId>, repeat: Repeat): Scene =>
  withFreePlanes(scene, ids, (plane) => ({ ...plane, repeat }));

/** A plane's image, shortened so that it meets itself: what is left of it keeps its place. */
export const setClosedSeam = (
  scene: Scene,
  id: PlaneId,
  art: ArtRef,
  { axis, fadePx }: { readonly axis: 'across' | 'down'; readonly fadePx: number },
): Scene =>
  withPlanes(scene, new Set([id]), (plane) => {
    if (plane.content.kind !== 'still') return plane;
    const made = { kind: 'seam-closed' as const, from: plane.content.art, axis, fadePx };
    return { ...plane, content: { kind: 'still', art, made } };
  });

/**
 * How fast a plane runs at `frame`, px a frame, east and south positive: `datum` as a plane on the datum would slide,
 * `own` as it is seen through the home camera.
 */
export function runSpeedAt(
  scene: Scene,
  plane: Plane,
  frame: number,
): { readonly datum: { x: number; y: number }; readonly own: { x: number; y: number } } {
  const { carrier, depthSpx } = standingAt(scene, plane, frame);
  const { run, transform, content } = plane;
  const speed = speedAtDepth(depthSpx, scene.homeDistanceSpx);
  const both = (x: number, y: number, unit: RunUnit) =>
    unit === 'datum'
      ? { datum: { x, y }, own: { x: x * speed, y: y * speed } }
      : { datum: { x: x / speed, y: y / speed }, own: { x, y } };
  if (!run) return both(0, 0, 'datum');
  if (run.kind === 'speed')
    return both(
      channelValueAt(channelOf(run.x), frame, 'linear'),
      channelValueAt(channelOf(run.y), frame, 'linear'),
      run.unit,
    );
  const { widthPx, heightPx } = factsOf(content);
  const period = (sizePx: number, scale: number) => sizePx * Math.abs(scale) * carrier.depthScale;
  return both(
    (run.timesX * period(widthPx, transform.scaleX)) / run.frames,
    (run.timesY * period(heightPx, transform.scaleY)) / run.frames,
    'datum',
  );
}

/** The run as speeds: what runs in whole cycles takes the speed that this comes to. */
export function asSpeed(scene: Scene, plane: Plane, unit: RunUnit): SpeedRun {
  const { run } = plane;
  if (run?.kind === 'speed' && run.unit === unit) return run;
  const now = runSpeedAt(scene, plane, 1)[unit];
  if (run?.kind !== 'speed') return { kind: 'speed', unit, x: resting(now.x), y: resting(now.y) };
  const { depthSpx } = standingAt(scene, plane, 1);
  const speed = speedAtDepth(depthSpx, scene.homeDistanceSpx);
  const factor = unit === 'own' ? speed : 1 / speed;
  return { kind: 'speed', unit, x: timesFactor(run.x, factor), y: timesFactor(run.y, factor) };
}

export const timesFactor = (channel: SpeedRun['x'], factor: number): SpeedRun['x'] =>
  recordOf(mapValues(channelOf(channel), (value) => value * factor));

export interface RunSpeed {
  readonly x?: number;
  readonly y?: number;
  readonly unit: RunUnit;
}

/** Gives planes a run speed at a frame: keyed there, or shifting the whole run, as Keying says. */
export function setRunSpeed(
  scene: Scene,
  ids: ReadonlySet<PlaneId>,
  { x, y, unit }: RunSpeed,
  { frame, keying }: CameraChange,
): Scene {
  const put = (channel: SpeedRun['x'], value: number | undefined): SpeedRun['x'] => {
    if (value === undefined) return channel;
    const changed = keying
      ? putKey(channelOf(channel), frame, value)
      : shiftChannel(channelOf(channel), frame, value, 'linear');
    return recordOf(changed);
  };
  return withFreePlanes(scene, ids, (plane) => {
    const run = asSpeed(scene, plane, unit);
    return { ...plane, run: { ...run, x: put(run.x, x), y: put(run.y, y) } };
  });
}

/** Planes run in the other unit at the same speed. */
export const setRunUnit = (scene: Scene, ids: ReadonlySet<PlaneId>, unit: RunUnit): Scene =>
  withFreePlanes(scene, ids, (plane) => (plane.run ? { ...plane, run: asSpeed(scene, plane, unit) } : plane));

export const stopRuns = (scene: Scene, ids: ReadonlySet<PlaneId>): Scene =>
  withFreePlanes(scene, ids, (plane) => ({ ...plane, run: null }));

/**
 * Lets a run start and stop: still before `start`, at speed from `start + ramp` to `stop − ramp`, still from `stop` on.
 * With a ramp it gathers and loses speed evenly. Whatever keys there were are replaced.
 */
export function runBetween(
  scene: Scene,
  ids: ReadonlySet<PlaneId>,
  { start, stop, ramp }: { readonly start: number; readonly stop: number; readonly ramp: number },
): Scene {
  const between = (channel: SpeedRun['x']): SpeedRun['x'] => {
    const top = [channel.value, ...keysOf(channel).map((key) => key.value)].reduce((p, q) =>
      Math.abs(q) > Math.abs(p) ? q : p,
    );
    if (top === 0) return resting(0);
    const [ease, hold] = [EASE_PRESETS.linear, EASE_PRESETS.hold];
    const up = Math.min(ramp, Math.floor((stop - start) / 2));
    const keys =
      up > 0
        ? [
            { frame: start, value: 0, ease },
            { frame: start + up, value: top, ease },
            { frame: stop - up, value: top, ease },
            { frame: stop, value: 0, ease },
          ]
        : [
            { frame: start - 1, value: 0, ease: hold },
            { frame: start, value: top, ease: hold },
            { frame: stop, value: 0, ease: hold },
          ];
    return recordOf({ value: top, keys: keys.filter((key, i) => key.frame !== keys[i - 1]?.frame) });
  };
  return withFreePlanes(scene, ids, (plane) => {
    if (!plane.run) return plane;
    const run = asSpeed(scene, plane, plane.run.kind === 'speed' ? plane.run.unit : 'datum');
    return { ...plane, run: { ...run, x: between(run.x), y: between(run.y) } };
  });
}

/**
 * Runs the world past what stands still: every plane that runs or is tiled across takes one speed at the datum, px a
 * frame, east positive, and slides on screen by its depth. Planes on the camera or on other planes stay as they are.
 */
export function runWorld(scene: Scene, pxAFrame: number): Scene {
  const world = new Set(worldPlanes(scene).map(({ id }) => id));
  return withPlanes(scene, world, (plane) => ({
    ...plane,
    run: { kind: 'speed', unit: 'datum', x: resting(pxAFrame), y: resting(0) },
  }));
}

/** What `runWorld` drives. */
export const worldPlanes = (scene: Scene): Plane[] =>
  planesOf(scene).filter(
    (plane) =>
      plane.mount.on === 'stage' &&
      !plane.locked &&
      (plane.run !== null || plane.repeat === 'across' || plane.repeat === 'both'),
  );
