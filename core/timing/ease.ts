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

/** Kinds of ease that one number shapes. */
export const EASE_WAYS = ['in', 'out', 'in-out'] as const;
export type EaseWay = (typeof EASE_WAYS)[number];

/**
 * An ease whose handles reach `strength` (0 to 1) of the span along the time: 0 is even, 0.42 the W3C keyword of that
 * name, 1 the strongest that never turns back.
 */
export function easeOfStrength(way: EaseWay, strength: number): Ease {
  const reach = Math.min(1, Math.max(0, strength));
  const [x1, x2] = [way === 'out' ? 0 : reach, way === 'in' ? 1 : complement(reach)];
  return { kind: 'bezier', x1, y1: 0, x2, y2: 1 };
}

/** 1 − v, as it would be typed where rounding alone keeps it from that: 0.42 for 0.58. */
function complement(v: number): number {
  const typed = Math.round((1 - v) * 1e12) / 1e12;
  return Math.abs(typed - (1 - v)) < 1e-15 ? typed : 1 - v;
}

/** The way and strength that make this ease, or null where one number does not. */
export function strengthOf(ease: Ease): { readonly way: EaseWay; readonly strength: number } | null {
  if (ease.kind !== 'bezier' || ease.y1 !== 0 || ease.y2 !== 1) return null;
  if (ease.x2 === 1 && ease.x1 > 0) return { way: 'in', strength: ease.x1 };
  if (ease.x1 === 0) return { way: 'out', strength: complement(ease.x2) };
  return Math.abs(ease.x1 - (1 - ease.x2)) < 1e-9 ? { way: 'in-out', strength: ease.x1 } : null;
}

/** Whether it leaves the values that it runs between: not where the channel cannot. */
export const overshoots = (ease: Ease): boolean =>
  ease.kind === 'bezier' && (ease.y1 < 0 || ease.y1 > 1 || ease.y2 < 0 || ease.y2 > 1);

/** The same ease kept between the values that it runs between. */
export const withoutOvershoot = (ease: Ease): Ease =>
  ease.kind === 'bezier' ? { ...ease, y1: within01(ease.y1), y2: within01(ease.y2) } : ease;

/** Leaves what lies within as it is, a minus before nought too. */
const within01 = (v: number): number => (v < 0 ? 0 : Math.min(1, v));

/** Run backwards in time. A hold stays one: what waits and then jumps has no mirror image among eases. */
export const reversedEase = (ease: Ease): Ease =>
  ease.kind === 'bezier'
    ? {
        kind: 'bezier',
        x1: complement(ease.x2),
        y1: complement(ease.y2),
        x2: complement(ease.x1),
        y2: complement(ease.y1),
      }
    : ease;

/** An ease whose time runs evenly: progress is the cubic polynomial of these two Bézier ordinates. */
export const polynomialEase = (y1: number, y2: number): Ease => ({
  kind: 'bezier',
  x1: 1 / 3,
  y1,
  x2: 2 / 3,
  y2,
});

/** Progress a share of the span at its start and at its end: the slopes of the curve there. */
export function endSlopes(ease: Ease): { readonly start: number; readonly end: number } {
  switch (ease.kind) {
    case 'linear':
      return { start: 1, end: 1 };
    case 'hold':
      return { start: 0, end: 0 };
    case 'bezier': {
      const { x1, y1, x2, y2 } = ease;
      const slope = (x: number, y: number, thenX: number, thenY: number) =>
        x > 0 ? y / x : y !== 0 ? Math.sign(y) * 1e6 : thenX > 0 ? thenY / thenX : 1;
      return { start: slope(x1, y1, x2, y2), end: slope(1 - x2, 1 - y2, 1 - x1, 1 - y1) };
    }
    default:
      return assertNever(ease);
  }
}

/**
 * The two parts of an ease cut at input `t` (inside 0 to 1), each as an ease of its own, and the progress at the cut:
 * de Casteljau's subdivision, so that together they run exactly as the whole did. A part over which nothing changes
 * is even.
 */
export function splitEase(
  ease: Ease,
  t: number,
): { readonly at: number; readonly parts: readonly [Ease, Ease] } {
  if (ease.kind !== 'bezier') return { at: easeProgress(ease, t), parts: [ease, ease] };
  const { x1, y1, x2, y2 } = ease;
  const u = bezierParameterAt(t, x1, x2);
  const mix = (a: number, b: number) => a + (b - a) * u;
  const cut = (p1: number, p2: number) => {
    const [a, b, c] = [mix(0, p1), mix(p1, p2), mix(p2, 1)];
    const [d, e] = [mix(a, b), mix(b, c)];
    return { a, c, d, e, at: mix(d, e) };
  };
  const [x, y] = [cut(x1, x2), cut(y1, y2)];
  const part = (
    fromX: number,
    fromY: number,
    toX: number,
    toY: number,
    ...p: readonly [number, number, number, number]
  ): Ease => {
    const [wide, high] = [toX - fromX, toY - fromY];
    if (wide < 1e-9 || Math.abs(high) < 1e-9) return EASE_PRESETS.linear;
    const reach = (v: number) => Math.min(10, Math.max(-10, (v - fromY) / high));
    return {
      kind: 'bezier',
      x1: within01((p[0] - fromX) / wide),
      y1: reach(p[1]),
      x2: within01((p[2] - fromX) / wide),
      y2: reach(p[3]),
    };
  };
  return {
    at: y.at,
    parts: [part(0, 0, x.at, y.at, x.a, y.a, x.d, y.d), part(x.at, y.at, 1, 1, x.e, y.e, x.c, y.c)],
  };
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

/** `easeProgress` for inputs that rise: each search starts from the answer before it. */
export function easeRunner(ease: Ease): (t: number) => number {
  if (ease.kind !== 'bezier') return (t) => easeProgress(ease, t);
  const { x1, y1, x2, y2 } = ease;
  let u = 0;
  return (t) => {
    if (t <= 0) return 0;
    if (t >= 1) return 1;
    u = bezierParameterAt(t, x1, x2, u);
    return cubic(u, y1, y2);
  };
}

/** One coordinate of the curve through 0, p1, p2, 1. */
const cubic = (u: number, p1: number, p2: number): number =>
  ((1 + 3 * p1 - 3 * p2) * u + (3 * p2 - 6 * p1)) * u * u + 3 * p1 * u;

const cubicSlope = (u: number, p1: number, p2: number): number =>
  3 * (1 + 3 * p1 - 3 * p2) * u * u + 2 * (3 * p2 - 6 * p1) * u + 3 * p1;

/** Slopes under this leave the parameter to less than the tolerance of its search says. */
const FLAT = 1e-4;

/** Where x(u) = t; x is monotone for x1, x2 in [0, 1], so Newton steps are kept inside a shrinking bracket. */
function bezierParameterAt(t: number, x1: number, x2: number, near = t): number {
  let low = 0;
  let high = 1;
  let u = near;
  for (let step = 0; step < 64; step++) {
    const miss = cubic(u, x1, x2) - t;
    if (Math.abs(miss) < 1e-14) break;
    if (miss > 0) high = u;
    else low = u;
    const slope = cubicSlope(u, x1, x2);
    const newton = u - miss / slope;
    u = slope > 0 && newton > low && newton < high ? newton : (low + high) / 2;
  }
  return Math.abs(cubicSlope(u, x1, x2)) < FLAT ? flatParameterAt(t, x1, x2, u) : u;
}

/**
 * The same where time nearly stands still, in closed form: about its inflection the cubic is a(v³ + pv + q), whose one real
 * root for p ≥ 0 is −2√(p/3)·sinh(asinh(3q/(2p)·√(3/p))/3), and −∛q where p is 0. Elsewhere than within (`known`) the search
 * stands.
 */
function flatParameterAt(t: number, x1: number, x2: number, known: number): number {
  const [a, b, c] = [1 + 3 * x1 - 3 * x2, 3 * x2 - 6 * x1, 3 * x1];
  const p = (3 * a * c - b * b) / (3 * a * a);
  if (!(a > 0) || p < 0) return known;
  const q = (2 * b * b * b - 9 * a * b * c - 27 * a * a * t) / (27 * a * a * a);
  const root = Math.sqrt(p / 3);
  const v = p < 1e-12 ? -Math.cbrt(q) : -2 * root * Math.sinh(Math.asinh(q / (2 * root ** 3)) / 3);
  return v - b / (3 * a);
}
