import type { Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import {
  CAMERA_LOOKS,
  type ChannelRef,
  channelId,
  LENS_CHANNELS,
  ridesOnCamera,
  shownValueAt,
} from '../../staging/index.ts';
import { PLANE_LOOKS } from '../../staging/looks/index.ts';
import { EASE_PRESETS } from '../../timing/index.ts';
import { easeSelected, isChannelLocked, keyAsItIs, setChannelValue } from '../keys/index.ts';

/** The light of the whole picture: the camera's filter, and of what rides on the camera its own. */
function lights(scene: Scene): ChannelRef[] {
  const riders = planesOf(scene).filter((plane) => !plane.hidden && ridesOnCamera(scene, plane));
  return [
    { on: 'camera', name: 'brightness' },
    ...riders.map(({ id }): ChannelRef => ({ on: 'plane', plane: id, name: 'brightness' })),
  ];
}

/** From black over the first `frames` frames to what there is then. */
export function fadeIn(scene: Scene, frames: number): Scene {
  const end = Math.min(scene.lengthFrames, 1 + Math.max(1, frames));
  return lights(scene).reduce((faded, ref) => {
    if (isChannelLocked(faded, ref)) return faded;
    return evenly(setChannelValue(keyAsItIs(faded, ref, end), ref, 0, { frame: 1, keying: true }), ref, 1);
  }, scene);
}

/** From what there is to black over the last `frames` frames. */
export function fadeOut(scene: Scene, frames: number): Scene {
  const last = scene.lengthFrames;
  const from = Math.max(1, last - Math.max(1, frames));
  return lights(scene).reduce((faded, ref) => {
    if (isChannelLocked(faded, ref)) return faded;
    return evenly(
      setChannelValue(keyAsItIs(faded, ref, from), ref, 0, { frame: last, keying: true }),
      ref,
      from,
    );
  }, scene);
}

/** The span that leaves the key at a frame goes at one speed. */
const evenly = (scene: Scene, ref: ChannelRef, frame: number): Scene =>
  easeSelected(scene, new Map([[channelId(ref), new Set([frame])]]), EASE_PRESETS.linear);

/** Every channel that makes up the look of the shot: the camera's, and each plane's own. */
export function lookRefs(scene: Scene): ChannelRef[] {
  return [
    ...[...LENS_CHANNELS, ...CAMERA_LOOKS].map((name): ChannelRef => ({ on: 'camera', name })),
    ...planesOf(scene).flatMap(({ id }) =>
      [...PLANE_LOOKS, 'opacity' as const, 'blur' as const].map(
        (name): ChannelRef => ({ on: 'plane', plane: id, name }),
      ),
    ),
  ];
}

/**
 * Takes the look of the shot over to that of another frame: what differs is keyed as it is `over` frames before `at`, and at
 * `at` as it is at `like`. The scene itself where nothing differs.
 */
export function crossToLook(
  scene: Scene,
  { like, at, over }: { readonly like: number; readonly at: number; readonly over: number },
): Scene {
  const from = Math.max(1, at - Math.max(1, over));
  return lookRefs(scene).reduce((changed, ref) => {
    const goal = shownValueAt(scene, ref, like);
    if (goal === shownValueAt(scene, ref, at) || isChannelLocked(scene, ref)) return changed;
    const held = from < at ? keyAsItIs(changed, ref, from) : changed;
    return setChannelValue(held, ref, goal, { frame: at, keying: true });
  }, scene);
}
