import type { Channel, Key } from './channel.ts';
import { endSlopes, polynomialEase } from './ease.ts';
import { type Interpolation, straightened } from './interpolation.ts';

/**
 * Makes the speed run on through the chosen keys: the span on either side of each meets it at one speed, and no span
 * leaves the values between its keys. Speeds at inner keys are the weighted harmonic mean of Fritsch & Butland (1984,
 * the rule of the PCHIP interpolant): nought where the value turns back. The outermost chosen keys keep the speed of the
 * span beyond them, or start and stop from rest. Spans with less than two chosen ends stay as they are.
 */
export function smoothKeys(
  channel: Channel,
  frames: ReadonlySet<number>,
  interpolation: Interpolation,
): Channel {
  const { keys } = channel;
  const spans = keys.slice(0, -1).map((from, i) => {
    const to = keys[i + 1] as Key;
    const straight = straightened(from.value, to.value, interpolation);
    const rise = straight ? straight.to - straight.from : to.value - from.value;
    const length = to.frame - from.frame;
    return { rise, length, mean: rise / length, chosen: frames.has(from.frame) && frames.has(to.frame) };
  });
  const speeds = keys.map((_, i) => {
    const [before, after] = [spans[i - 1], spans[i]];
    if (!before || !after) return 0;
    if (before.chosen && after.chosen) return throughSpeed(before, after);
    const ease = (keys[before.chosen ? i : i - 1] as Key).ease;
    return before.chosen ? endSlopes(ease).start * after.mean : endSlopes(ease).end * before.mean;
  });
  return {
    ...channel,
    keys: keys.map((key, i) => {
      const span = spans[i];
      if (!span?.chosen || span.rise === 0) return key;
      const share = (speed: number) => limited((speed * span.length) / (3 * span.rise));
      return { ...key, ease: polynomialEase(share(speeds[i] as number), 1 - share(speeds[i + 1] as number)) };
    }),
  };
}

/** Up to three times the mean speed of a span a monotone cubic stays between its ends. */
const limited = (share: number): number => Math.min(1, Math.max(0, share));

interface Span {
  readonly length: number;
  readonly mean: number;
}

function throughSpeed(before: Span, after: Span): number {
  if (before.mean * after.mean <= 0) return 0;
  const [w1, w2] = [2 * after.length + before.length, after.length + 2 * before.length];
  return (w1 + w2) / (w1 / before.mean + w2 / after.mean);
}
