import { type Beyond, roundsOn, withinKeys } from './beyond.ts';
import { type Ease, easeProgress } from './ease.ts';
import { type Interpolation, interpolate, stepBetween } from './interpolation.ts';

export interface Key {
  /** Whole frame; frames count from 1. No two keys of a channel share one. */
  readonly frame: number;
  readonly value: number;
  /** Ease of the span that leaves this key. */
  readonly ease: Ease;
  /** The name of what the value is taken from while that is there; `value` is what it was when it was keyed. */
  readonly follows?: string | undefined;
}

/** A value over time: `value` where there are no keys; keys in order of frame otherwise. */
export interface Channel {
  readonly value: number;
  /** As of a key. */
  readonly follows?: string | undefined;
  readonly keys: readonly Key[];
  /** Rests at `value` as if it had no keys; they are kept. */
  readonly muted?: true | undefined;
  /** No edit reaches it. */
  readonly locked?: true | undefined;
  /** What it does before its first key, and after its last; without a word it rests. */
  readonly before?: Beyond | undefined;
  readonly after?: Beyond | undefined;
}

/** The value at `frame` (may be fractional). Beyond its keys it rests, or goes on as it says. */
export function channelValueAt(channel: Channel, frame: number, interpolation: Interpolation): number {
  if (channel.muted) return channel.value;
  const within = withinKeys(channel, frame);
  if (!within) return keyedValueAt(channel, frame, interpolation);
  return roundsOn(channel, keyedValueAt(channel, within.frame, interpolation), within.round, interpolation);
}

/** The value by the keys alone. */
function keyedValueAt(
  { value, keys }: Pick<Channel, 'value' | 'keys'>,
  frame: number,
  interpolation: Interpolation,
): number {
  const first = keys[0];
  if (!first) return value;
  if (frame <= first.frame) return first.value;
  const index = spanIndexAt(keys, frame);
  const from = keys[index] as Key;
  const to = keys[index + 1];
  if (!to) return from.value;
  const progress = easeProgress(from.ease, (frame - from.frame) / (to.frame - from.frame));
  return interpolate(from.value, to.value, progress, interpolation);
}

/** Index of the last key at or before `frame`; `keys` in order and `frame` not before the first. */
export function spanIndexAt(keys: readonly { readonly frame: number }[], frame: number): number {
  let low = 0;
  let high = keys.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((keys[middle] as { frame: number }).frame <= frame) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The key that stands at `frame`, if one does. */
export const keyAt = (channel: Channel, frame: number): Key | undefined =>
  channel.keys.find((key) => key.frame === frame);

/**
 * Speed along the span that leaves key `index`: `samples` values in units per frame, signed, at the middles of
 * equal parts of the span. Empty for the last key. Muted or not: it is what the keys say.
 */
export function speedProfile(
  { value, keys }: Channel,
  index: number,
  samples: number,
  interpolation: Interpolation,
): number[] {
  const from = keys[index];
  const to = keys[index + 1];
  if (!from || !to) return [];
  const step = (to.frame - from.frame) / samples;
  const at = (i: number) =>
    i === samples && from.ease.kind === 'hold'
      ? from.value
      : channelValueAt({ value, keys }, from.frame + i * step, interpolation);
  return Array.from({ length: samples }, (_, i) => stepBetween(at(i), at(i + 1), interpolation) / step);
}

/** Share of the faster of the two speeds by which they may differ at a key and still count as one. */
const SMOOTH_WITHIN = 0.02;
const JUST_BESIDE = 1e-4;

/**
 * Speeds just before and just after key `index`, units a frame, and whether they jump: a start or a stop from speed,
 * or a change of it that is felt. Null for what is no key.
 */
export function speedsAtKey(
  { value, keys }: Channel,
  index: number,
  interpolation: Interpolation,
): { readonly before: number; readonly after: number; readonly jumps: boolean } | null {
  const key = keys[index];
  if (!key) return null;
  const at = (frame: number) => channelValueAt({ value, keys }, frame, interpolation);
  const [earlier, later] = [keys[index - 1], keys[index + 1]];
  const held = earlier?.ease.kind === 'hold' && earlier.value !== key.value;
  const before = earlier
    ? stepBetween(at(key.frame - JUST_BESIDE), key.value, interpolation) / JUST_BESIDE
    : 0;
  const after = later ? stepBetween(key.value, at(key.frame + JUST_BESIDE), interpolation) / JUST_BESIDE : 0;
  // Speeds are differences of values that lie close together: what rounding makes of them is no jump.
  const rounding = 1e-9 + (1e-13 * Math.abs(key.value)) / JUST_BESIDE;
  const faster = Math.max(
    Math.abs(before),
    Math.abs(after),
    meanSpeed(earlier, key, interpolation),
    meanSpeed(key, later, interpolation),
  );
  return {
    before: held ? 0 : before,
    after,
    jumps: held || Math.abs(before - after) > SMOOTH_WITHIN * faster + rounding,
  };
}

const meanSpeed = (from: Key | undefined, to: Key | undefined, interpolation: Interpolation): number =>
  from && to ? Math.abs(stepBetween(from.value, to.value, interpolation)) / (to.frame - from.frame) : 0;
