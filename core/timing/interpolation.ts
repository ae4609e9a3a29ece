/**
 * How values between two keys are found: by even steps; by even growth (`log`, values of one sign); or by even growth
 * of the distance that is left to a value, such as that of a camera to a plane.
 */
export type Interpolation = 'linear' | 'log' | { readonly logTo: number };

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
  const pivot = interpolation === 'log' ? 0 : interpolation.logTo;
  const [a, b] = [from - pivot, to - pivot];
  return a * b > 0 ? pivot + a * (b / a) ** progress : from + (to - from) * progress;
}
