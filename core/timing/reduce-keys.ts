import { type Channel, channelValueAt, type Key } from './channel.ts';
import { EASE_PRESETS, polynomialEase } from './ease.ts';
import { type Interpolation, straightened } from './interpolation.ts';

/**
 * Few keys that pass within `tolerance` of `values`, one a frame from `firstFrame` on: each span is the cubic
 * polynomial that fits best by least squares between two of the values, as long as it can be. The error is measured on
 * the keys as they play, at every frame, and never above the tolerance.
 */
export function reduceToKeys(
  values: ArrayLike<number>,
  firstFrame: number,
  tolerance: number,
  interpolation: Interpolation,
): Key[] {
  const count = values.length;
  if (count === 0) return [];
  const keys: Key[] = [];
  let start = 0;
  while (start < count - 1) {
    const span = longestSpan(values, start, firstFrame, tolerance, interpolation);
    keys.push(span.key);
    start = span.end;
  }
  const last = { frame: firstFrame + start, value: values[start] as number, ease: EASE_PRESETS['in-out'] };
  const flat = keys.length === 1 && keys.every((key) => Math.abs(key.value - last.value) <= tolerance);
  return flat && withinOf(values, keys[0]!.value, tolerance) ? [keys[0]!] : [...keys, last];
}

const withinOf = (values: ArrayLike<number>, value: number, tolerance: number): boolean =>
  Array.from(values).every((v) => Math.abs(v - value) <= tolerance);

interface Fitted {
  readonly key: Key;
  readonly end: number;
}

/** Doubles the length while it fits, then halves the doubt; a span of one frame always fits. */
function longestSpan(
  values: ArrayLike<number>,
  start: number,
  firstFrame: number,
  tolerance: number,
  interpolation: Interpolation,
): Fitted {
  const most = values.length - 1 - start;
  const fit = (length: number) => fitted(values, start, start + length, firstFrame, tolerance, interpolation);
  const whole = fit(most);
  if (whole) return whole;
  let best = fit(1) ?? {
    key: { frame: firstFrame + start, value: values[start] as number, ease: EASE_PRESETS.linear },
    end: start + 1,
  };
  let [good, bad] = [1, most];
  for (let length = 2; length < most; length *= 2) {
    const longer = fit(length);
    if (!longer) {
      bad = length;
      break;
    }
    [best, good] = [longer, length];
  }
  while (bad - good > 1) {
    const middle = (good + bad) >> 1;
    const longer = fit(middle);
    if (longer) [best, good] = [longer, middle];
    else bad = middle;
  }
  return best;
}

function fitted(
  values: ArrayLike<number>,
  start: number,
  end: number,
  firstFrame: number,
  tolerance: number,
  interpolation: Interpolation,
): Fitted | null {
  const [first, last] = [values[start] as number, values[end] as number];
  const ends = (ease: Key['ease']): Channel => ({
    value: first,
    keys: [
      { frame: start, value: first, ease },
      { frame: end, value: last, ease },
    ],
  });
  const fits = (ease: Key['ease']) => {
    const channel = ends(ease);
    for (let i = start + 1; i < end; i++) {
      if (!(Math.abs(channelValueAt(channel, i, interpolation) - (values[i] as number)) <= tolerance))
        return false;
    }
    return true;
  };
  const as = (ease: Key['ease']): Fitted => ({ key: { frame: firstFrame + start, value: first, ease }, end });
  if (fits(EASE_PRESETS.linear)) return as(EASE_PRESETS.linear);
  const straight = straightened(first, last, interpolation);
  const rise = straight ? straight.to - straight.from : 0;
  if (!straight || Math.abs(rise) < 1e-12) return null;
  const ease = bestEase(end - start, (i) => {
    const at = straightened(values[start + i] as number, last, interpolation);
    return at ? (at.from - straight.from) / rise : 0;
  });
  return ease && fits(ease) ? as(ease) : null;
}

/** The largest that an ordinate of an ease may be. */
const REACH = 10;

/** Least squares for the two free ordinates of p(t) = 3(1−t)²t·y1 + 3(1−t)t²·y2 + t³ at the whole frames inside. */
function bestEase(length: number, progress: (index: number) => number): Key['ease'] | null {
  let [aa, ab, bb, ar, br] = [0, 0, 0, 0, 0];
  for (let i = 1; i < length; i++) {
    const t = i / length;
    const [a, b] = [3 * (1 - t) * (1 - t) * t, 3 * (1 - t) * t * t];
    const rest = progress(i) - t * t * t;
    aa += a * a;
    ab += a * b;
    bb += b * b;
    ar += a * rest;
    br += b * rest;
  }
  const determinant = aa * bb - ab * ab;
  // With a single value inside one ordinate is free: the even one.
  const [y1, y2] =
    determinant > 1e-15
      ? [(ar * bb - br * ab) / determinant, (br * aa - ar * ab) / determinant]
      : [1 / 3, aa > 0 ? (br - ab / 3) / bb : 2 / 3];
  if (!(Math.abs(y1) <= REACH && Math.abs(y2) <= REACH)) return null;
  return polynomialEase(y1, y2);
}
