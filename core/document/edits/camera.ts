import { deleteKeys, type Ease, moveKeys, putKey, setEase, shiftChannel } from '../../timing/index.ts';
import { CAMERA_CHANNELS, type CameraChannel, CHANNEL_KINDS } from '../camera-channels.ts';
import type { Scene } from '../scene.ts';

type Channel = Scene['camera'][CameraChannel];

const withChannel = (scene: Scene, name: CameraChannel, channel: ReturnType<typeof putKey>): Scene => ({
  ...scene,
  camera: { ...scene.camera, [name]: channel as Channel },
});

export interface CameraChange {
  readonly frame: number;
  /** On: the value is keyed at the frame. Off: the whole channel shifts and no key is ever made. */
  readonly keying: boolean;
}

/** Gives camera channels new values at a frame. */
export function setCamera(
  scene: Scene,
  values: Partial<Record<CameraChannel, number>>,
  { frame, keying }: CameraChange,
): Scene {
  return CAMERA_CHANNELS.reduce((changed, name) => {
    const value = values[name];
    if (value === undefined) return changed;
    const channel = changed.camera[name];
    const { interpolation } = CHANNEL_KINDS[name];
    return withChannel(
      changed,
      name,
      keying ? putKey(channel, frame, value) : shiftChannel(channel, frame, value, interpolation),
    );
  }, scene);
}

/** Keys of several channels, by frame. */
export type KeySelection = ReadonlyMap<CameraChannel, ReadonlySet<number>>;

const overSelection = (
  scene: Scene,
  keys: KeySelection,
  change: (channel: Channel, frames: ReadonlySet<number>) => ReturnType<typeof putKey>,
): Scene =>
  [...keys].reduce(
    (changed, [name, frames]) => withChannel(changed, name, change(changed.camera[name], frames)),
    scene,
  );

export const moveCameraKeys = (scene: Scene, keys: KeySelection, byFrames: number): Scene =>
  overSelection(scene, keys, (channel, frames) => moveKeys(channel, frames, byFrames));

export const deleteCameraKeys = (scene: Scene, keys: KeySelection): Scene =>
  overSelection(scene, keys, deleteKeys);

/** Sets the ease of the spans that leave the selected keys. */
export const setCameraEase = (scene: Scene, keys: KeySelection, ease: Ease): Scene =>
  overSelection(scene, keys, (channel, frames) => setEase(channel, frames, ease));
