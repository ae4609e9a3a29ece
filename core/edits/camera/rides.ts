import { applyAffine, type Point } from '../../geometry/index.ts';
import type { PlaneId, Scene } from '../../scene/index.ts';
import { planeOf } from '../../scene/records/index.ts';
import { cameraAfterDrag, placePlane } from '../../stage/index.ts';
import {
  type ChannelRef,
  cameraPoseAt,
  channelAt,
  interpolationOf,
  type PathOwner,
  shownScale,
  stageFrameOf,
  standingAt,
  steadyPoseAt,
} from '../../staging/index.ts';
import { type Key, layKeys, reduceToKeys } from '../../timing/index.ts';
import { isChannelLocked, withChannel } from '../keys/index.ts';
import { frameToCarrier } from '../planes/index.ts';
import { bakeTrack } from './tracks.ts';

/** A gesture as it was ridden: how far the pen was from where it was put down, output px, a frame each from `firstFrame`. */
export interface Ridden {
  readonly firstFrame: number;
  readonly byPx: readonly Point[];
  /** How far the keys may be from it, stage px. */
  readonly toleranceSpx: number;
}

/** Keys the camera so that the datum follows the pen, or a plane so that it does. Few keys; those it rides over are given up. */
export function ride(scene: Scene, owner: PathOwner, ridden: Ridden): Scene {
  const free = bakeTrack(scene, owner) ?? scene;
  return owner.on === 'camera' ? rideCamera(free, ridden) : ridePlane(free, owner.plane, ridden);
}

function rideCamera(scene: Scene, ridden: Ridden): Scene {
  const stage = stageFrameOf(scene);
  const start = steadyPoseAt(scene, ridden.firstFrame);
  const places = ridden.byPx.map((by, i) => {
    const pose = cameraPoseAt(scene, ridden.firstFrame + i);
    return (
      cameraAfterDrag(stage, { ...pose, xSpx: start.xSpx, ySpx: start.ySpx }, by) ?? {
        x: start.xSpx,
        y: start.ySpx,
      }
    );
  });
  const laid = lay(
    scene,
    { on: 'camera', name: 'panX' },
    places.map((p) => p.x),
    ridden,
  );
  return lay(
    laid,
    { on: 'camera', name: 'panY' },
    places.map((p) => p.y),
    ridden,
  );
}

function ridePlane(scene: Scene, id: PlaneId, ridden: Ridden): Scene {
  const plane = planeOf(scene, id);
  if (!plane) return scene;
  const stage = stageFrameOf(scene);
  const { artToFrame } = placePlane(
    stage,
    cameraPoseAt(scene, ridden.firstFrame),
    standingAt(scene, plane, ridden.firstFrame),
  );
  if (!artToFrame) return scene;
  const { anchorXArtPx, anchorYArtPx } = plane.transform;
  const held = applyAffine(artToFrame, { x: anchorXArtPx, y: anchorYArtPx });
  let last: Point = { x: plane.transform.xSpx, y: plane.transform.ySpx };
  const places = ridden.byPx.map((by, i) => {
    const back = frameToCarrier(scene, plane, ridden.firstFrame + i);
    if (back) last = applyAffine(back, { x: held.x + by.x, y: held.y + by.y });
    return last;
  });
  const laid = lay(
    scene,
    { on: 'plane', plane: id, name: 'x' },
    places.map((p) => p.x),
    ridden,
  );
  return lay(
    laid,
    { on: 'plane', plane: id, name: 'y' },
    places.map((p) => p.y),
    ridden,
  );
}

/** A channel in shown values over the frames of the ride; what it leaves alone is not keyed. */
function lay(
  scene: Scene,
  ref: ChannelRef,
  shown: readonly number[],
  { firstFrame, toleranceSpx }: Ridden,
): Scene {
  const channel = channelAt(scene, ref);
  if (!channel || isChannelLocked(scene, ref)) return scene;
  const { store } = shownScale(scene, ref);
  const keys: Key[] = reduceToKeys(
    shown.map(store),
    firstFrame,
    toleranceSpx,
    interpolationOf(scene, ref.name),
  );
  if (keys.length < 2 && channel.keys.length === 0) return scene;
  const last = firstFrame + shown.length - 1;
  const outside = channel.keys.filter((key) => key.frame < firstFrame || key.frame > last);
  return withChannel(scene, ref, layKeys({ ...channel, keys: outside }, keys));
}
