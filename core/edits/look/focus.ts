import type { PlaneId, Scene } from '../../scene/index.ts';
import { channelOf, planeOf, recordOf } from '../../scene/records/index.ts';
import { cameraPoseAt, distanceToPlane, irisForBlur, lensAt } from '../../staging/index.ts';
import { depthOf } from '../../staging/looks/index.ts';
import { type Channel, putKey } from '../../timing/index.ts';
import { type CameraChange, fromTheStart, isChannelLocked, setChannelValue } from '../keys/index.ts';

const FOCUS = { on: 'camera', name: 'focus' } as const;

/**
 * Makes a plane sharp, wherever it goes: keyed at the frame, or for the whole shot where nothing is keyed and Keying is
 * off. The scene itself where the plane cannot be focused on: it is gone, or rides on the camera.
 */
export function focusOn(scene: Scene, id: PlaneId, { frame, keying }: CameraChange): Scene {
  const depth = depthOf(scene, id, frame);
  if (depth === null || isChannelLocked(scene, FOCUS)) return scene;
  const channel = channelOf(scene.camera.focus);
  if (channel.keys.length === 0 && !keying)
    return withFocus(scene, { ...channel, value: depth, follows: id });
  const put = putKey(fromTheStart(channel, frame), frame, depth);
  return withFocus(scene, {
    ...put,
    keys: put.keys.map((key) => (key.frame === frame ? { ...key, follows: id } : key)),
  });
}

const withFocus = (scene: Scene, channel: Channel): Scene => ({
  ...scene,
  camera: { ...scene.camera, focus: recordOf(channel) },
});

/** Opens the iris as far as blurs a plane by so many output px at the frame; null where it is in focus or passed. */
export function setIrisForBlur(
  scene: Scene,
  id: PlaneId,
  blurPx: number,
  change: CameraChange,
): Scene | null {
  const pose = cameraPoseAt(scene, change.frame);
  const distance = distanceToPlane(scene, id, pose, change.frame);
  // A shut lens has no focus to speak of: it is looked at as if it were open.
  const open = setChannelValue(scene, { on: 'camera', name: 'iris' }, 1, { ...change, keying: false });
  const lens = lensAt({ ...open, move: { ...open.move, keepBlur: undefined } }, change.frame, pose);
  const iris = lens && distance !== null ? irisForBlur(lens, distance, blurPx) : null;
  return iris === null ? null : setChannelValue(scene, { on: 'camera', name: 'iris' }, iris, change);
}

/** Keeps a plane blurred by so many output px through the shot, or no longer. */
export function setKeepBlur(
  scene: Scene,
  keep: { readonly plane: PlaneId; readonly blurPx: number } | null,
): Scene {
  const { keepBlur: _, ...move } = scene.move;
  if (keep && !planeOf(scene, keep.plane)) return scene;
  return { ...scene, move: keep ? { ...move, keepBlur: { ...keep } } : move };
}
