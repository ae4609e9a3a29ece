/** A point of space, stage px: east, south, and away from the camera's home or towards it as its owner says. */
export type Place = readonly [number, number, number];

/** A cubic Bézier curve in space. */
export type Cubic = readonly [Place, Place, Place, Place];

export const combine = (a: Place, b: Place, ka: number, kb: number): Place => [
  a[0] * ka + b[0] * kb,
  a[1] * ka + b[1] * kb,
  a[2] * ka + b[2] * kb,
];
const between = (a: Place, b: Place): number => Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);

export function pointOn([p0, p1, p2, p3]: Cubic, u: number): Place {
  const v = 1 - u;
  const [a, b, c, d] = [v * v * v, 3 * v * v * u, 3 * v * u * u, u * u * u];
  const at = (i: 0 | 1 | 2) => a * p0[i] + b * p1[i] + c * p2[i] + d * p3[i];
  return [at(0), at(1), at(2)];
}

function speedOn([p0, p1, p2, p3]: Cubic, u: number): number {
  const v = 1 - u;
  const [a, b, c] = [3 * v * v, 6 * v * u, 3 * u * u];
  const at = (i: 0 | 1 | 2) => a * (p1[i] - p0[i]) + b * (p2[i] - p1[i]) + c * (p3[i] - p2[i]);
  return Math.hypot(at(0), at(1), at(2));
}

/** Nodes and weights of Gauss–Legendre quadrature with 8 points (Abramowitz & Stegun, table 25.4). */
const NODES = [0.1834346424956498, 0.525532409916329, 0.7966664774136267, 0.9602898564975363] as const;
const WEIGHTS = [0.362683783378362, 0.3137066458778873, 0.2223810344533745, 0.1012285362903763] as const;

function lengthBetween(cubic: Cubic, from: number, to: number): number {
  const [middle, half] = [(from + to) / 2, (to - from) / 2];
  let sum = 0;
  for (const [i, node] of NODES.entries()) {
    sum +=
      (WEIGHTS[i] as number) * (speedOn(cubic, middle - half * node) + speedOn(cubic, middle + half * node));
  }
  return sum * half;
}

const PARTS = 24;

/** A curve with the lengths of its equal parts: knows its length and the point at any length along it. */
export class MeasuredCubic {
  readonly lengthSpx: number;
  private readonly cubic: Cubic;
  /** Length at i/PARTS. */
  private readonly lengths: readonly number[];

  constructor(cubic: Cubic) {
    this.cubic = cubic;
    const lengths = [0];
    for (let i = 0; i < PARTS; i++) {
      lengths.push((lengths[i] as number) + lengthBetween(cubic, i / PARTS, (i + 1) / PARTS));
    }
    this.lengths = lengths;
    this.lengthSpx = lengths[PARTS] as number;
  }

  /** The point `length` along the curve from its start; beyond either end straight on. */
  pointAt(length: number): Place {
    if (length <= 0) return this.beyond(0, length);
    if (length >= this.lengthSpx) return this.beyond(1, length - this.lengthSpx);
    return pointOn(this.cubic, this.parameterAt(length));
  }

  private parameterAt(length: number): number {
    let [low, high] = [0, PARTS];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if ((this.lengths[middle] as number) <= length) low = middle;
      else high = middle;
    }
    const base = this.lengths[low] as number;
    let [from, to] = [low / PARTS, high / PARTS];
    const wide = (this.lengths[high] as number) - base;
    let u = from + ((length - base) / (wide || 1)) * (to - from);
    // Newton's steps, kept inside a bracket that shrinks.
    for (let step = 0; step < 40; step++) {
      const miss = base + lengthBetween(this.cubic, low / PARTS, u) - length;
      if (Math.abs(miss) <= 1e-12 * (1 + this.lengthSpx)) break;
      if (miss > 0) to = u;
      else from = u;
      const next = u - miss / speedOn(this.cubic, u);
      u = next > from && next < to ? next : (from + to) / 2;
    }
    return u;
  }

  private beyond(end: 0 | 1, by: number): Place {
    const [p0, p1, p2, p3] = this.cubic;
    const at = end === 0 ? p0 : p3;
    if (by === 0) return at;
    const ahead =
      end === 0 ? [p1, p2, p3].map((p) => [p0, p] as const) : [p2, p1, p0].map((p) => [p, p3] as const);
    const way = ahead.find(([p, q]) => between(p, q) > 0);
    if (!way) return at;
    const [from, to] = way;
    const k = by / between(from, to);
    return [at[0] + (to[0] - from[0]) * k, at[1] + (to[1] - from[1]) * k, at[2] + (to[2] - from[2]) * k];
  }
}

/** The handle of an end or corner next to a smooth point: that which makes the cubic a parabola, the calmest curve there. */
const towards = (end: Place, other: Place, handle: Place): Place =>
  combine(combine(end, other, 1 / 3, -1 / 3), handle, 1, 1);

export interface PathPoint {
  readonly at: Place;
  /** The path turns through it without a corner. */
  readonly smooth: boolean;
}

/**
 * The cubics of a path through points in order: through smooth ones as a centripetal Catmull–Rom spline (Yuksel,
 * Schaefer & Keyser 2011), which has neither loops nor cusps between them; by a parabola into corners and ends.
 */
export function cubicsThrough(points: readonly PathPoint[]): Cubic[] {
  const tangents = points.map(({ at, smooth }, i): Place | null => {
    const [before, after] = [points[i - 1]?.at, points[i + 1]?.at];
    if (!smooth || !before || !after) return null;
    const [d1, d2] = [Math.sqrt(between(before, at)), Math.sqrt(between(at, after))];
    if (d1 === 0 || d2 === 0) return null;
    const [into, out, over] = [
      combine(at, before, 1 / d1, -1 / d1),
      combine(after, at, 1 / d2, -1 / d2),
      combine(after, before, 1 / (d1 + d2), -1 / (d1 + d2)),
    ];
    return combine(combine(into, out, 1, 1), over, 1, -1);
  });
  return points.slice(0, -1).map(({ at: from }, i): Cubic => {
    const to = (points[i + 1] as PathPoint).at;
    const reach = Math.sqrt(between(from, to)) / 3;
    const [leaves, arrives] = [tangents[i], tangents[i + 1]];
    const out = leaves && combine(from, leaves, 1, reach);
    const into = arrives && combine(to, arrives, 1, -reach);
    return [
      from,
      out ?? (into ? towards(from, to, into) : combine(from, to, 2 / 3, 1 / 3)),
      into ?? (out ? towards(to, from, out) : combine(from, to, 1 / 3, 2 / 3)),
      to,
    ];
  });
}
