import { assertNever } from '../units/index.ts';
import { type Ease, easeProgress } from './ease.ts';

export interface Key {
  /** Whole frame; frames count from 1. No two keys of a channel share one. */
  readonly frame: number;
  readonly value: number;
  /** Ease of the span that leaves this key. */
  readonly ease: Ease;
}

/** A value over time: `value` where there are no keys; keys in order of frame otherwise. */
export interface Channel {
  readonly value: number;
  readonly keys: readonly Key[];
}

/** How values between two keys are found: by even steps, or by even growth (positive values only). */
export type Interpolation = 'linear' | 'log';

/** The value at `frame` (may be fractional). Before the first key and after the last the value rests. */
export function channelValueAt(channel: Channel, frame: number, interpolation: Interpolation): number {
  const { keys } = channel;
  const first = keys[0];
  if (!first) return channel.value;
  if (frame <= first.frame) return first.value;
  const index = spanIndexAt(keys, frame);
  const from = keys[index] as Key;
  const to = keys[index + 1];
  if (!to) return from.value;
  const progress = easeProgress(from.ease, (frame - from.frame) / (to.frame - from.frame));
  return interpolate(from.value, to.value, progress, interpolation);
}

function interpolate(from: number, to: number, progress: number, interpolation: Interpolation): number {
  switch (interpolation) {
    case 'linear':
      return from + (to - from) * progress;
    case 'log':
      return from * (to / from) ** progress;
    default:
      return assertNever(interpolation);
  }
}

/** Index of the last key at or before `frame`; `keys` in order and `frame` not before the first. */
function spanIndexAt(keys: readonly Key[], frame: number): number {
  let low = 0;
  let high = keys.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((keys[middle] as Key).frame <= frame) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The key that stands at `frame`, if one does. */
export const keyAt = (channel: Channel, frame: number): Key | undefined =>
  channel.keys.find((key) => key.frame === frame);

/**
 * Speed along the span that leaves key `index`: `samples` values in units per frame, signed, at the middles of
 * equal parts of the span. Empty for the last key.
 */
export function speedProfile(
  channel: Channel,
  index: number,
  samples: number,
  interpolation: Interpolation,
): number[] {
  const from = channel.keys[index];
  const to = channel.keys[index + 1];
  if (!from || !to) return [];
  const step = (to.frame - from.frame) / samples;
  const at = (i: number) =>
    i === samples && from.ease.kind === 'hold'
      ? from.value
      : channelValueAt(channel, from.frame + i * step, interpolation);
  return Array.from({ length: samples }, (_, i) => (at(i + 1) - at(i)) / step);
}
