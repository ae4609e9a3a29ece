import type { KeySelection } from '@keen-ridge/core/edits/keys';
import type { Scene } from '@keen-ridge/core/scene';
import { markersOf } from '@keen-ridge/core/scene/records';
import { type ChannelId, channelAt, keyedChannels } from '@keen-ridge/core/staging';
import { extentOf } from '@keen-ridge/core/units';
import type { SelectedKey } from '../state/choice.ts';

export function keySelection(keys: readonly SelectedKey[]): KeySelection {
  const byChannel = new Map<ChannelId, Set<number>>();
  for (const { channel, frame } of keys)
    byChannel.set(channel, (byChannel.get(channel) ?? new Set()).add(frame));
  return byChannel;
}

export const selectedOf = (keys: KeySelection): SelectedKey[] =>
  [...keys].flatMap(([channel, frames]) => [...frames].map((frame) => ({ channel, frame })));

/** The nearest frame with a key or a marker before or after `frame`, or null. */
export function nextKeyFrame(scene: Scene, frame: number, direction: 1 | -1): number | null {
  const keys = keyedChannels(scene).flatMap(
    (ref) => channelAt(scene, ref)?.keys.map((key) => key.frame) ?? [],
  );
  const frames = [...keys, ...markersOf(scene).map((marker) => marker.frame)];
  const beyond = frames.filter((f) => (f - frame) * direction > 0 && f >= 1 && f <= scene.lengthFrames);
  const [earliest, latest] = extentOf(beyond);
  return beyond.length === 0 ? null : direction === 1 ? earliest : latest;
}
