import { LIMITS, type PlaneId, type Scene } from '../scene/index.ts';
import { channelOf, planeOf } from '../scene/records/index.ts';
import { type CameraPose, nearLimitSpx, type StageFrame } from '../stage/index.ts';
import { channelValueAt } from '../timing/index.ts';
import { swayAt, trackPlaceAt } from '../timing/moves/index.ts';
import type { POSE_CHANNELS } from './camera-channels.ts';
import { interpolationOf } from './channels.ts';
import { standingAt } from './standings.ts';

export const stageFrameOf = (scene: Pick<Scene, 'frame' | 'homeDistanceSpx'>): StageFrame => ({
  widthPx: scene.frame.widthPx,
  heightPx: scene.frame.heightPx,
  homeDistanceSpx: scene.homeDistanceSpx,
});

/** The camera as it is keyed. Truck counts from home, inwards positive: cz = −D + truck. */
export function steadyPoseAt(scene: Scene, frame: number): CameraPose {
  const { track } = scene.move;
  const value = (name: (typeof POSE_CHANNELS)[number]) =>
    channelValueAt(channelOf(scene.camera[name]), frame, interpolationOf(scene, name));
  const [x, y, z] =
    track && !track.muted
      ? trackPlaceAt(track, frame)
      : ([value('panX'), value('panY'), value('truck')] as const);
  return {
    xSpx: x,
    ySpx: y,
    zSpx: z - scene.homeDistanceSpx,
    zoom: value('zoom'),
    rollDeg: value('roll'),
  };
}

/** The camera at `frame` as it sees: keyed, swayed, and with the zoom that keeps the size of a plane. */
export function cameraPoseAt(scene: Scene, frame: number): CameraPose {
  const swayed = withSway(scene, steadyPoseAt(scene, frame), frame);
  return scene.move.keepSize ? { ...swayed, zoom: keptZoom(scene, swayed, frame) } : swayed;
}

function withSway(scene: Scene, pose: CameraPose, frame: number): CameraPose {
  const { sway } = scene.move;
  if (!sway?.on) return pose;
  const at = (axis: Parameters<typeof swayAt>[1]) =>
    swayAt(sway, axis, frame, scene.lengthFrames, scene.rate);
  return {
    ...pose,
    xSpx: pose.xSpx + at('panX'),
    ySpx: pose.ySpx + at('panY'),
    zSpx: pose.zSpx + at('truck'),
    rollDeg: pose.rollDeg + at('roll'),
  };
}

/** Distance from a camera to a plane on the stage; null where there is none or it has been passed. */
export function distanceToPlane(scene: Scene, id: PlaneId, pose: CameraPose, frame: number): number | null {
  const plane = planeOf(scene, id);
  const standing = plane && standingAt(scene, plane, frame);
  if (standing?.root !== 'stage') return null;
  const distance = standing.depthSpx - pose.zSpx;
  return distance > nearLimitSpx(stageFrameOf(scene)) ? distance : null;
}

/** Size on screen goes with zoom over distance, so a zoom that grows with the distance keeps it. */
function keptZoom(scene: Scene, pose: CameraPose, frame: number): number {
  const { keepSize } = scene.move;
  const distance = keepSize && distanceToPlane(scene, keepSize.plane, pose, frame);
  if (!keepSize || distance === null) return pose.zoom;
  const within = (zoom: number) => Math.min(LIMITS.zoom.max, Math.max(LIMITS.zoom.min, zoom));
  if (keepSize.how === 'same') return within((pose.zoom * distance) / keepSize.distanceSpx);
  const opening = withSway(scene, steadyPoseAt(scene, 1), 1);
  const from = distanceToPlane(scene, keepSize.plane, opening, 1);
  return from === null ? pose.zoom : within(Math.max(pose.zoom, (opening.zoom * distance) / from));
}
