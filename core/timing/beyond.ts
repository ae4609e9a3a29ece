import { type Interpolation, interpolate } from './interpolation.ts';

/**
 * What a channel does after its last key or before its first, besides resting there: its keys once more, there and back,
 * or once more from where they have led to.
 */
export const BEYONDS = ['repeat', 'there-and-back', 'go-on'] as const;
export type Beyond = (typeof BEYONDS)[number];

/** Keys in order of frame, and what is done beyond them. */
interface Continued {
  readonly keys: readonly { readonly frame: number }[];
  readonly before?: Beyond | undefined;
  readonly after?: Beyond | undefined;
}

interface ContinuedValues extends Continued {
  readonly keys: readonly { readonly frame: number; readonly value: number }[];
}

/** Where a frame beyond the keys lies among them. */
export interface Within {
  /** A frame from the first key to the last. */
  readonly frame: number;
  /** How often the keys have run by then, counted from 0 among them; negative before the first. */
  readonly round: number;
}

/** The keys that a frame stands for that lies beyond them; null where the channel rests there. */
export function withinKeys({ keys, before, after }: Continued, frame: number): Within | null {
  const [first, last] = [keys[0], keys.at(-1)];
  if (!first || !last || first.frame === last.frame) return null;
  const length = last.frame - first.frame;
  if (frame > last.frame && after) {
    const past = frame - last.frame;
    const round = Math.floor(past / length) + 1;
    return { frame: placeIn(first, last, past - (round - 1) * length, after, round), round };
  }
  if (frame < first.frame && before) {
    const early = first.frame - frame;
    const round = Math.ceil(early / length);
    return { frame: placeIn(first, last, round * length - early, before, round), round: -round };
  }
  return null;
}

const placeIn = (
  first: { readonly frame: number },
  last: { readonly frame: number },
  into: number,
  beyond: Beyond,
  round: number,
): number => (beyond === 'there-and-back' && round % 2 === 1 ? last.frame - into : first.frame + into);

/** A value among the keys as it is so many rounds on: further by what each round gains, on the channel's own scale. */
export function roundsOn(
  { keys, before, after }: ContinuedValues,
  value: number,
  round: number,
  interpolation: Interpolation,
): number {
  const beyond = round < 0 ? before : after;
  const [first, last] = [keys[0], keys.at(-1)];
  if (beyond !== 'go-on' || round === 0 || !first || !last) return value;
  if (interpolation === 'linear') return value + round * (last.value - first.value);
  // Colours, and what lies in the air, have an end: they come round again.
  if (interpolation === 'colour' || interpolation === 'inverse') return value;
  // On a scale of ratios each round multiplies: what lies as far from the first key as the last one does, in ratio.
  const gain = interpolate(first.value, last.value, Math.abs(round), interpolation);
  const pivot = interpolation === 'log' ? 0 : interpolation.logTo;
  const ratio = (gain - pivot) / (first.value - pivot);
  return pivot + (value - pivot) * (round > 0 ? ratio : 1 / ratio);
}
