import { type Affine, applyAffine, compose, invertAffine, type Point } from '../../geometry/index.ts';
import type { Scene } from '../../scene/index.ts';
import { planeOf } from '../../scene/records/index.ts';
import { type CameraPose, nearLimitSpx, poseFor, stageToFrame } from '../../stage/index.ts';
import {
  carrierOf,
  channelAt,
  type PathOwner,
  pathPlaceAt,
  pathRefsOf,
  stageFrameOf,
  trackOf,
  trackRefOf,
} from '../../staging/index.ts';
import { movePoint, type Place, type TrackPoint } from '../../timing/moves/index.ts';
import { setChannelValue } from '../keys/index.ts';
import { editTrack } from './tracks.ts';

/** A point that shapes a path: a key of it, or a bend. Without a track, the keys are those of its channels. */
export interface PathMark {
  readonly kind: TrackPoint['kind'];
  /** Of a key. */
  readonly frame: number | null;
  readonly at: Place;
}

/** The keys and bends of a path in the order that it is travelled. */
export function pathMarks(scene: Scene, owner: PathOwner): PathMark[] {
  const track = trackOf(scene, trackRefOf(owner));
  if (track && !track.muted) {
    return track.points.map((point) => ({
      kind: point.kind,
      frame: point.kind === 'key' ? point.frame : null,
      at: point.at,
    }));
  }
  const frames = pathRefsOf(owner).flatMap(
    (ref) => channelAt(scene, ref)?.keys.map((key) => key.frame) ?? [],
  );
  return [...new Set(frames)]
    .sort((p, q) => p - q)
    .map((frame) => ({ kind: 'key', frame, at: pathPlaceAt(scene, owner, frame) }));
}

/** Puts a mark of a path elsewhere: a point of its track, or the keys of its channels on that frame. */
export function movePathMark(scene: Scene, owner: PathOwner, index: number, at: Place): Scene {
  const track = trackOf(scene, trackRefOf(owner));
  if (track && !track.muted) {
    return editTrack(scene, owner, (t) => movePoint(t, index, at));
  }
  const mark = pathMarks(scene, owner)[index];
  if (!mark || mark.frame === null) return scene;
  const { frame } = mark;
  const rest = restOfOwner(scene, owner);
  return pathRefsOf(owner).reduce(
    (changed, ref, axis) =>
      at[axis] === mark.at[axis]
        ? changed
        : setChannelValue(changed, ref, at[axis]! + rest[axis]!, { frame, keying: true }),
    scene,
  );
}

/** What the coordinates of a path count from. */
function restOfOwner(scene: Scene, owner: PathOwner): Place {
  const plane = owner.on === 'plane' ? planeOf(scene, owner.plane) : undefined;
  return plane ? [plane.transform.xSpx, plane.transform.ySpx, plane.depthSpx] : [0, 0, 0];
}

/**
 * How the places of a path lie on the frame, output px, as a camera sees them at `atFrame`: the camera's own where its
 * axis meets the datum, a plane's where its anchor stands, at its own depth. Null where the camera has passed a place.
 */
export function pathOnFrame(
  scene: Scene,
  owner: PathOwner,
  pose: CameraPose,
  atFrame: number,
): {
  readonly toFrame: (place: Place) => Point | null;
  readonly fromFrame: (at: Point, place: Place) => Place | null;
} {
  const stage = stageFrameOf(scene);
  const plane = owner.on === 'plane' ? planeOf(scene, owner.plane) : undefined;
  const carrier = plane && carrierOf(scene, plane, atFrame);
  const rest = restOfOwner(scene, owner);
  const from = carrier ? poseFor(stage, pose, carrier.root) : pose;
  const mapAt = (z: number): Affine | null => {
    const depth = carrier ? carrier.depthSpx + carrier.depthScale * (rest[2] + z) : 0;
    const distance = depth - from.zSpx;
    if (distance <= nearLimitSpx(stage)) return null;
    const map = stageToFrame(stage, from, distance);
    return carrier ? compose(map, carrier.toStage) : map;
  };
  return {
    toFrame: ([x, y, z]) => {
      const map = mapAt(z);
      return map && applyAffine(map, { x: x + rest[0], y: y + rest[1] });
    },
    fromFrame: (at, [, , z]) => {
      const map = mapAt(z);
      const back = map && invertAffine(map);
      const p = back && applyAffine(back, at);
      return p && [p.x - rest[0], p.y - rest[1], z];
    },
  };
}
