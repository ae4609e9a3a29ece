import { type Channel, channelValueAt, type Interpolation, type Key } from './channel.ts';
import { EASE_PRESETS, type Ease } from './ease.ts';

const inOrder = (keys: readonly Key[]): Key[] => [...keys].sort((p, q) => p.frame - q.frame);

/** Puts a key at `frame`, replacing the value of one that is there. A new key takes the ease of the span it splits. */
export function putKey(channel: Channel, frame: number, value: number): Channel {
  const there = channel.keys.find((key) => key.frame === frame);
  if (there) {
    return { ...channel, keys: channel.keys.map((key) => (key === there ? { ...key, value } : key)) };
  }
  const before = channel.keys.findLast((key) => key.frame < frame);
  const key: Key = { frame, value, ease: before?.ease ?? EASE_PRESETS['in-out'] };
  return { ...channel, keys: inOrder([...channel.keys, key]) };
}

/** Takes keys away. When the last goes, the channel rests at the value it had there. */
export function deleteKeys(channel: Channel, frames: ReadonlySet<number>): Channel {
  const keys = channel.keys.filter((key) => !frames.has(key.frame));
  const lastGone = keys.length === 0 ? channel.keys[0] : undefined;
  return { value: lastGone ? lastGone.value : channel.value, keys };
}

/** Moves keys by whole frames. Two keys never share a frame: the moved one wins. */
export function moveKeys(channel: Channel, frames: ReadonlySet<number>, byFrames: number): Channel {
  const moved = channel.keys
    .filter((key) => frames.has(key.frame))
    .map((key) => ({ ...key, frame: key.frame + byFrames }));
  const taken = new Set(moved.map((key) => key.frame));
  const rest = channel.keys.filter((key) => !frames.has(key.frame) && !taken.has(key.frame));
  return { ...channel, keys: inOrder([...rest, ...moved]) };
}

/** Sets the ease of the spans that leave the keys at `frames`. */
export function setEase(channel: Channel, frames: ReadonlySet<number>, ease: Ease): Channel {
  return { ...channel, keys: channel.keys.map((key) => (frames.has(key.frame) ? { ...key, ease } : key)) };
}

/** Shifts the whole channel so that it passes through `value` at `frame`; makes no key. Log channels shift by a ratio. */
export function shiftChannel(
  channel: Channel,
  frame: number,
  value: number,
  interpolation: Interpolation,
): Channel {
  const now = channelValueAt(channel, frame, interpolation);
  const shift = (v: number) => (interpolation === 'log' ? v * (value / now) : v + (value - now));
  return {
    value: shift(channel.value),
    keys: channel.keys.map((key) => ({ ...key, value: shift(key.value) })),
  };
}
