import {
  CAMERA_CHANNELS,
  type CameraChannel,
  type KeySelection,
  type Scene,
} from '@keen-ridge/core/document';
import type { SelectedKey } from './session.ts';

export function keySelection(keys: readonly SelectedKey[]): KeySelection {
  const byChannel = new Map<CameraChannel, Set<number>>();
  for (const { channel, frame } of keys)
    byChannel.set(channel, (byChannel.get(channel) ?? new Set()).add(frame));
  return byChannel;
}

/** The nearest frame with a camera key before or after `frame`, or null. */
export function nextKeyFrame(scene: Scene, frame: number, direction: 1 | -1): number | null {
  const frames = CAMERA_CHANNELS.flatMap((name) => scene.camera[name].keys.map((key) => key.frame));
  const beyond = frames.filter((f) => (f - frame) * direction > 0 && f >= 1 && f <= scene.lengthFrames);
  return beyond.length === 0 ? null : direction === 1 ? Math.min(...beyond) : Math.max(...beyond);
}
