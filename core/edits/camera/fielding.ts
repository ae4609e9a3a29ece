import { applyAffine, type Box, rotation } from '../../geometry/index.ts';
import { LIMITS, type PlaneId, type Scene } from '../../scene/index.ts';
import { keysOf, planesOf } from '../../scene/records/index.ts';
import { focalPx } from '../../stage/index.ts';
import {
  type CameraChannel,
  type ChannelId,
  type ChannelRef,
  cameraPoseAt,
  channelAt,
  channelId,
  interpolationOf,
  MOVE_CHANNELS,
  stageFrameOf,
  standingAt,
  steadyPoseAt,
} from '../../staging/index.ts';
import { layKeys, reduceToKeys } from '../../timing/index.ts';
import { type Field, smoothStep, smoothWay } from '../../timing/moves/index.ts';
import { extentOf } from '../../units/index.ts';
import {
  type CameraChange,
  isChannelLocked,
  isOnTrack,
  keyAsItIs,
  reverseSelected,
  setCamera,
  setChannelBeyond,
  withChannel,
} from '../keys/index.ts';
import { paintOnFrame } from '../planes/index.ts';
import type { Sizing } from './sizing.ts';
import { bakeTrack } from './tracks.ts';

/** The field of the datum that the camera sees at `frame`; null past it. */
export function fieldAt(scene: Scene, frame: number): Field | null {
  const pose = cameraPoseAt(scene, frame);
  const distance = -pose.zSpx;
  if (distance <= 0) return null;
  return {
    x: pose.xSpx,
    y: pose.ySpx,
    width: (scene.frame.widthPx * distance) / focalPx(stageFrameOf(scene), pose),
  };
}

/** The frames on which the camera's move begins and ends: its outermost keys, or the ends of the shot. */
function endsOfMove(scene: Scene): number[] {
  const frames = MOVE_CHANNELS.flatMap((name) => keysOf(scene.camera[name]).map((key) => key.frame));
  const [first, last] = extentOf(frames);
  return first < last ? [first, last] : [1, scene.lengthFrames];
}

/**
 * Gives camera channels new values at one frame and changes nothing at the ends of the move: a channel without keys gets
 * them there first, as it is. With Keying off it shifts as ever.
 */
export function setCameraHere(
  scene: Scene,
  values: Partial<Record<CameraChannel, number>>,
  change: CameraChange,
): Scene {
  if (!change.keying) return setCamera(scene, values, change);
  const ends = endsOfMove(scene).filter((frame) => frame !== change.frame);
  const held = MOVE_CHANNELS.reduce((changed, name) => {
    const ref: ChannelRef = { on: 'camera', name };
    const bare =
      values[name] !== undefined && !isOnTrack(changed, ref) && keysOf(changed.camera[name]).length === 0;
    return bare ? ends.reduce((keyed, frame) => keyAsItIs(keyed, ref, frame), changed) : changed;
  }, scene);
  return setCamera(held, values, change);
}

/** Sizes the field of the datum by `factor` (2 sees twice as much), by zoom or by truck. */
export function sizeField(scene: Scene, factor: number, sizing: Sizing, change: CameraChange): Scene {
  const pose = steadyPoseAt(scene, change.frame);
  if (!(factor > 0)) return scene;
  if (sizing === 'zoom') return setCameraHere(scene, { zoom: pose.zoom / factor }, change);
  return setCameraHere(scene, { truck: scene.homeDistanceSpx + pose.zSpx * factor }, change);
}

/** Frames the paint of planes at a frame: its middle on the axis, and so large that all of it just fits. */
export function framePlanes(
  scene: Scene,
  ids: ReadonlySet<PlaneId>,
  sizing: Sizing,
  change: CameraChange,
): Scene | null {
  let next = scene;
  // Planes at several depths move against one another as the camera does, so it closes in on the answer.
  for (let step = 0; step < 12; step++) {
    const box = paintBox(next, ids, change.frame);
    const nearest = nearestDistance(next, ids, change.frame);
    if (!box || nearest === null) return step === 0 ? null : next;
    const stage = stageFrameOf(next);
    const pose = steadyPoseAt(next, change.frame);
    const { widthPx, heightPx } = next.frame;
    const off = { x: (box.x0 + box.x1 - widthPx) / 2, y: (box.y0 + box.y1 - heightPx) / 2 };
    const byStage = applyAffine(rotation(pose.rollDeg), off);
    const perPx = nearest / focalPx(stage, cameraPoseAt(next, change.frame));
    const grow = Math.min(widthPx / (box.x1 - box.x0), heightPx / (box.y1 - box.y0));
    if (Math.abs(grow - 1) < 1e-9 && Math.hypot(off.x, off.y) < 1e-6) break;
    const sized =
      sizing === 'zoom'
        ? { zoom: Math.min(LIMITS.zoom.max, Math.max(LIMITS.zoom.min, pose.zoom * grow)) }
        : { truck: next.homeDistanceSpx + pose.zSpx + nearest * (1 - 1 / grow) };
    next = setCamera(
      next,
      { panX: pose.xSpx + byStage.x * perPx, panY: pose.ySpx + byStage.y * perPx, ...sized },
      change,
    );
  }
  return next;
}

function paintBox(scene: Scene, ids: ReadonlySet<PlaneId>, frame: number): Box | null {
  const boxes = planesOf(scene).flatMap((plane) => {
    const box = ids.has(plane.id) ? paintOnFrame(scene, plane, frame) : null;
    return box ? [box] : [];
  });
  if (boxes.length === 0) return null;
  return {
    x0: Math.min(...boxes.map((box) => box.x0)),
    y0: Math.min(...boxes.map((box) => box.y0)),
    x1: Math.max(...boxes.map((box) => box.x1)),
    y1: Math.max(...boxes.map((box) => box.y1)),
  };
}

function nearestDistance(scene: Scene, ids: ReadonlySet<PlaneId>, frame: number): number | null {
  const pose = cameraPoseAt(scene, frame);
  const distances = planesOf(scene)
    .filter((plane) => ids.has(plane.id) && standingAt(scene, plane, frame).root === 'stage')
    .map((plane) => standingAt(scene, plane, frame).depthSpx - pose.zSpx)
    .filter((distance) => distance > 0);
  return distances.length > 0 ? Math.min(...distances) : null;
}

/** The camera's move backwards: what was seen first is seen last, and the other way round. */
export function swapEnds(scene: Scene): Scene {
  const refs = (['track', ...MOVE_CHANNELS] as const).map((name): ChannelRef => ({ on: 'camera', name }));
  const keys = new Map<ChannelId, ReadonlySet<number>>(
    refs.map((ref) => [channelId(ref), new Set(channelAt(scene, ref)?.keys.map((key) => key.frame))]),
  );
  // Between the ends of the shot, so that whatever rests before the move rests after it.
  const reversed = reverseSelected(scene, keys, [1, scene.lengthFrames]);
  return refs.reduce((changed, ref) => {
    const { before = null, after = null } = channelAt(scene, ref) ?? {};
    return setChannelBeyond(setChannelBeyond(changed, ref, 'before', after), ref, 'after', before);
  }, reversed);
}

/**
 * Keys pan and zoom from one frame to another along the smooth way between the fields that they see: one even glide that
 * pulls out and closes in. Eased at both ends; few keys, within `tolerancePx` on screen. Null where a field is not there.
 */
export function smoothZoomPan(scene: Scene, from: number, to: number, tolerancePx = 0.1): Scene | null {
  const free = bakeTrack(scene, { on: 'camera' }) ?? scene;
  const [first, last] = [fieldAt(free, from), fieldAt(free, to)];
  if (!first || !last || to - from < 2) return null;
  const way = smoothWay(first, last);
  const stage = stageFrameOf(free);
  const fields = Array.from({ length: to - from + 1 }, (_, i) => way.at(smoothStep(i / (to - from))));
  const zooms = fields.map(
    (field, i) =>
      (free.frame.widthPx * -steadyPoseAt(free, from + i).zSpx) / (stage.homeDistanceSpx * field.width),
  );
  const [narrowest, widest] = extentOf(zooms);
  const lay = (changed: Scene, name: CameraChannel, values: readonly number[], tolerance: number): Scene => {
    const ref: ChannelRef = { on: 'camera', name };
    const channel = channelAt(changed, ref)!;
    if (isChannelLocked(changed, ref)) return changed;
    const outside = channel.keys.filter((key) => key.frame < from || key.frame > to);
    const keys = reduceToKeys(values, from, tolerance, interpolationOf(changed, name));
    return withChannel(changed, ref, layKeys({ ...channel, keys: outside }, keys));
  };
  const panned = lay(
    free,
    'panX',
    fields.map((field) => field.x),
    tolerancePx / widest,
  );
  const both = lay(
    panned,
    'panY',
    fields.map((field) => field.y),
    tolerancePx / widest,
  );
  // A zoom that is wrong by a share moves the edge of the frame by that share of half its width.
  return lay(both, 'zoom', zooms, (narrowest * tolerancePx * 2) / free.frame.widthPx);
}
