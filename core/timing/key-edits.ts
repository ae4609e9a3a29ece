import { type Channel, channelValueAt, type Key, keyAt } from './channel.ts';
import { EASE_PRESETS, type Ease, reversedEase, splitEase } from './ease.ts';
import { type Interpolation, interpolate, shiftBy } from './interpolation.ts';

export const inOrder = <K extends { readonly frame: number }>(keys: readonly K[]): K[] =>
  [...keys].sort((p, q) => p.frame - q.frame);

/** Puts a key at `frame`, replacing the value of one that is there. A new key takes the ease of the span it splits. */
export function putKey(channel: Channel, frame: number, value: number): Channel {
  const there = keyAt(channel, frame);
  if (there) {
    return {
      ...channel,
      keys: channel.keys.map((key) => (key === there ? { frame, value, ease: key.ease } : key)),
    };
  }
  const before = channel.keys.findLast((key) => key.frame < frame);
  const key: Key = { frame, value, ease: before?.ease ?? EASE_PRESETS['in-out'] };
  return { ...channel, keys: inOrder([...channel.keys, key]) };
}

/** Sets a key at `frame` that changes nothing: the span that it splits runs as it did, in two eases. */
export function splitAt(channel: Channel, frame: number, interpolation: Interpolation): Channel {
  const { keys } = channel;
  if (keyAt(channel, frame)) return channel;
  const index = keys.findLastIndex((key) => key.frame < frame);
  const [from, to] = [keys[index], keys[index + 1]];
  if (!from || !to)
    return putKey(channel, frame, channelValueAt({ ...channel, muted: undefined }, frame, interpolation));
  const { at, parts } = splitEase(from.ease, (frame - from.frame) / (to.frame - from.frame));
  const value = interpolate(from.value, to.value, at, interpolation);
  return {
    ...channel,
    keys: [
      ...keys.slice(0, index),
      { ...from, ease: parts[0] },
      { frame, value, ease: parts[1] },
      ...keys.slice(index + 1),
    ],
  };
}

/** Takes keys away. When the last goes, the channel rests at the value it had there. */
export function deleteKeys(channel: Channel, frames: ReadonlySet<number>): Channel {
  const keys = channel.keys.filter((key) => !frames.has(key.frame));
  const lastGone = keys.length === 0 ? channel.keys[0] : undefined;
  return { ...channel, value: lastGone ? lastGone.value : channel.value, keys };
}

/** Keys on the frames that `to` says, snapped to whole ones. Two keys never share a frame: a moved one wins, the later of two. */
export function sendKeys(
  channel: Channel,
  frames: ReadonlySet<number>,
  to: (frame: number) => number,
): Channel {
  const moved = new Map(
    channel.keys
      .filter((key) => frames.has(key.frame))
      .map((key) => {
        const frame = Math.round(to(key.frame));
        return [frame, { ...key, frame }] as const;
      }),
  );
  const rest = channel.keys.filter((key) => !frames.has(key.frame) && !moved.has(key.frame));
  return { ...channel, keys: inOrder([...rest, ...moved.values()]) };
}

/** Moves keys by whole frames. Two keys never share a frame: the moved one wins. */
export const moveKeys = (channel: Channel, frames: ReadonlySet<number>, byFrames: number): Channel =>
  sendKeys(channel, frames, (frame) => frame + byFrames);

/** Stretches keys in time about `about` (a frame): 2 takes twice as long. */
export const stretchKeys = (
  channel: Channel,
  frames: ReadonlySet<number>,
  about: number,
  factor: number,
): Channel => sendKeys(channel, frames, (frame) => about + (frame - about) * factor);

/** Rolls one key to `frame`, never past its neighbours: both its spans change, nothing else does. */
export function rollKey(channel: Channel, at: number, frame: number): Channel {
  const index = channel.keys.findIndex((key) => key.frame === at);
  if (index < 0) return channel;
  const least = (channel.keys[index - 1]?.frame ?? Number.NEGATIVE_INFINITY) + 1;
  const most = (channel.keys[index + 1]?.frame ?? Number.POSITIVE_INFINITY) - 1;
  const to = Math.min(most, Math.max(least, Math.round(frame)));
  return { ...channel, keys: channel.keys.map((key, i) => (i === index ? { ...key, frame: to } : key)) };
}

/**
 * Runs the chosen keys backwards between the first and the last of `bounds`, eases with them: the value at frame f
 * becomes that at bounds[0] + bounds[1] − f. Held spans stay held. The ease that leaves the last one stays there.
 */
export function reverseKeys(
  channel: Channel,
  frames: ReadonlySet<number>,
  [first, last]: readonly [number, number],
): Channel {
  const chosen = channel.keys.filter((key) => frames.has(key.frame));
  const lastEase = chosen.at(-1)?.ease;
  if (!lastEase) return channel;
  const mirrored = chosen.map((key, i): Key => {
    const before = chosen[i - 1];
    return {
      frame: first + last - key.frame,
      value: key.value,
      ...(key.follows ? { follows: key.follows } : {}),
      ease: before ? reversedEase(before.ease) : lastEase,
    };
  });
  const taken = new Set(mirrored.map((key) => key.frame));
  const rest = channel.keys.filter((key) => !frames.has(key.frame) && !taken.has(key.frame));
  return { ...channel, keys: inOrder([...rest, ...mirrored]) };
}

/** Lays keys into the channel; they win over keys on the same frames. */
export function layKeys(channel: Channel, keys: readonly Key[]): Channel {
  const taken = new Set(keys.map((key) => key.frame));
  return { ...channel, keys: inOrder([...channel.keys.filter((key) => !taken.has(key.frame)), ...keys]) };
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
  return mapValues(channel, shiftBy(channelValueAt(channel, frame, interpolation), value, interpolation));
}

/** Every value of the channel, kept and keyed, through `change`. */
export const mapValues = (channel: Channel, change: (value: number) => number): Channel => ({
  ...channel,
  value: change(channel.value),
  keys: channel.keys.map((key) => ({ ...key, value: change(key.value) })),
});

/**
 * Puts a rest of `frames` in at `frame`: two equal keys, so that the value truly stands still between them. Later keys
 * are pushed on by as much, or those that the rest covers are given up. What has no keys rests already.
 */
export function restAt(
  channel: Channel,
  frame: number,
  frames: number,
  { pushLater, interpolation }: { readonly pushLater: boolean; readonly interpolation: Interpolation },
): Channel {
  if (channel.keys.length === 0) return channel;
  const split = splitAt(channel, frame, interpolation);
  const here = keyAt(split, frame) as Key;
  const still: Key = { ...here, ease: EASE_PRESETS.linear };
  const end: Key = { ...here, frame: frame + frames };
  const later = split.keys.filter((key) => key.frame > frame);
  const after = pushLater
    ? later.map((key) => ({ ...key, frame: key.frame + frames }))
    : later.filter((key) => key.frame > end.frame);
  return { ...split, keys: [...split.keys.filter((key) => key.frame < frame), still, end, ...after] };
}
