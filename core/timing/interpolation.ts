import { colourDistance, mixPacked, shiftPacked } from '../paint/index.ts';

/**
 * How values between two keys are found: by even steps; by even growth (`log`, values of one sign); by even growth
 * of the distance that is left to a value, such as that of a camera to a plane; by even steps of one over the value
 * (`inverse`, positive values: haze thickens evenly as the visibility falls); or, of packed colours, straight through OKLab.
 */
export type Interpolation = 'linear' | 'log' | 'inverse' | 'colour' | { readonly logTo: number };

/**
 * The same values on a scale on which the interpolation is a straight line: themselves, or the logarithm of their
 * distance from the pivot. Null where growth is not defined between the two: a value at the pivot or beyond.
 */
export function straightened(
  from: number,
  to: number,
  interpolation: Interpolation,
): { readonly from: number; readonly to: number; readonly back: (straight: number) => number } | null {
  if (interpolation === 'linear') return { from, to, back: (v) => v };
  if (interpolation === 'colour') return null;
  if (interpolation === 'inverse')
    return from > 0 && to > 0 ? { from: 1 / from, to: 1 / to, back: (v) => 1 / v } : null;
  const pivot = interpolation === 'log' ? 0 : interpolation.logTo;
  const [a, b] = [from - pivot, to - pivot];
  if (!(a * b > 0)) return null;
  const sign = Math.sign(a);
  return { from: Math.log(a * sign), to: Math.log(b * sign), back: (v) => pivot + sign * Math.exp(v) };
}

/** The value at `progress` from `from` to `to`; even steps where growth is not defined. */
export function interpolate(
  from: number,
  to: number,
  progress: number,
  interpolation: Interpolation,
): number {
  if (interpolation === 'linear' || from === to) return from + (to - from) * progress;
  if (interpolation === 'colour') return mixPacked(from, to, Math.min(1, Math.max(0, progress)));
  if (interpolation === 'inverse') {
    const straight = 1 / from + (1 / to - 1 / from) * progress;
    return from > 0 && to > 0 && straight > 0 ? 1 / straight : from + (to - from) * progress;
  }
  const pivot = interpolation === 'log' ? 0 : interpolation.logTo;
  const [a, b] = [from - pivot, to - pivot];
  return a * b > 0 ? pivot + a * (b / a) ** progress : from + (to - from) * progress;
}

/** What lies between two values, in the unit of the channel; of colours how far they are apart in OKLab, in hundredths. */
export const stepBetween = (from: number, to: number, interpolation: Interpolation): number =>
  interpolation === 'colour' ? 100 * colourDistance(from, to) : to - from;

/** The change of a value that takes `now` to `goal`: by a ratio, of colours by a step in OKLab, by a step. */
export function shiftBy(now: number, goal: number, interpolation: Interpolation): (value: number) => number {
  if (interpolation === 'log' || interpolation === 'inverse') return (v) => v * (goal / now);
  if (interpolation === 'colour') return (v) => shiftPacked(v, now, goal);
  return (v) => v + (goal - now);
}
