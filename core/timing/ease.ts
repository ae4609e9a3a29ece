import { assertNever } from '../units/index.ts';

/**
 * How a span runs from its first key to its next. The ease belongs to the span that leaves the key.
 * `bezier` is cubic-bezier(x1, y1, x2, y2) of W3C CSS Easing Functions Level 1, section 2.2:
 * x1 and x2 in [0, 1], y free (overshoot).
 */
export type Ease =
  | { readonly kind: 'linear' }
  | { readonly kind: 'hold' }
  | {
      readonly kind: 'bezier';
      readonly x1: number;
      readonly y1: number;
      readonly x2: number;
      readonly y2: number;
    };

export const EASE_PRESET_NAMES = ['linear', 'hold', 'in', 'out', 'in-out'] as const;
export type EasePresetName = (typeof EASE_PRESET_NAMES)[number];

/** The keyword values of W3C CSS Easing Functions Level 1, section 2.2.1 (ease-in, ease-out, ease-in-out). */
export const EASE_PRESETS: Readonly<Record<EasePresetName, Ease>> = {
  linear: { kind: 'linear' },
  hold: { kind: 'hold' },
  in: { kind: 'bezier', x1: 0.42, y1: 0, x2: 1, y2: 1 },
  out: { kind: 'bezier', x1: 0, y1: 0, x2: 0.58, y2: 1 },
  'in-out': { kind: 'bezier', x1: 0.42, y1: 0, x2: 0.58, y2: 1 },
};

/** The preset that an ease is, or null for a custom curve. */
export function easePresetOf(ease: Ease): EasePresetName | null {
  return EASE_PRESET_NAMES.find((name) => sameEase(EASE_PRESETS[name], ease)) ?? null;
}

function sameEase(p: Ease, q: Ease): boolean {
  if (p.kind !== 'bezier' || q.kind !== 'bezier') return p.kind === q.kind;
  return p.x1 === q.x1 && p.y1 === q.y1 && p.x2 === q.x2 && p.y2 === q.y2;
}

/** Output progress for input progress `t` in [0, 1]. Hold stays at 0 until the span ends. */
export function easeProgress(ease: Ease, t: number): number {
  if (t <= 0) return 0;
  if (t >= 1) return 1;
  switch (ease.kind) {
    case 'linear':
      return t;
    case 'hold':
      return 0;
    case 'bezier': {
      const u = bezierParameterAt(t, ease.x1, ease.x2);
      return cubic(u, ease.y1, ease.y2);
    }
    default:
      return assertNever(ease);
  }
}

/** One coordinate of the curve through 0, p1, p2, 1. */
const cubic = (u: number, p1: number, p2: number): number =>
  ((1 + 3 * p1 - 3 * p2) * u + (3 * p2 - 6 * p1)) * u * u + 3 * p1 * u;

const cubicSlope = (u: number, p1: number, p2: number): number =>
  3 * (1 + 3 * p1 - 3 * p2) * u * u + 2 * (3 * p2 - 6 * p1) * u + 3 * p1;

/** Where x(u) = t; x is monotone for x1, x2 in [0, 1], so Newton steps are kept inside a shrinking bracket. */
function bezierParameterAt(t: number, x1: number, x2: number): number {
  let [low, high, u] = [0, 1, t];
  for (let step = 0; step < 64; step++) {
    const miss = cubic(u, x1, x2) - t;
    if (Math.abs(miss) < 1e-14) return u;
    if (miss > 0) high = u;
    else low = u;
    const slope = cubicSlope(u, x1, x2);
    const newton = u - miss / slope;
    u = slope > 0 && newton > low && newton < high ? newton : (low + high) / 2;
  }
  return u;
}
