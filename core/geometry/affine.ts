import { SINGULAR } from '../units/index.ts';
import type { Point } from './point.ts';

/**
 * A 2×3 affine map of column vectors, +X right, +Y down:
 *
 *     x' = a·x + c·y + e
 *     y' = b·x + d·y + f
 *
 * `compose(second, first)` applies `first`, then `second` (the matrix product second·first).
 * Angles are degrees, clockwise on screen positive.
 */
export interface Affine {
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly d: number;
  readonly e: number;
  readonly f: number;
}

export const IDENTITY: Affine = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };

export const translation = (x: number, y: number): Affine => ({ ...IDENTITY, e: x, f: y });

export const scaling = (sx: number, sy: number = sx): Affine => ({ ...IDENTITY, a: sx, d: sy });

/** Cosine and sine at the quarter turns. */
const QUARTERS: ReadonlyMap<number, readonly [number, number]> = new Map([
  [0, [1, 0]],
  [90, [0, 1]],
  [180, [-1, 0]],
  [270, [0, -1]],
]);

/** Exact at the four quarter turns, so that a plane turned by 90° stays pixel for pixel. */
export function rotation(clockwiseDeg: number): Affine {
  if (clockwiseDeg === 0) return IDENTITY;
  const quarter = ((clockwiseDeg % 360) + 360) % 360;
  const exact = QUARTERS.get(quarter);
  const radians = (clockwiseDeg * Math.PI) / 180;
  const cos = exact?.[0] ?? Math.cos(radians);
  const sin = exact?.[1] ?? Math.sin(radians);
  return { a: cos, b: sin, c: -sin, d: cos, e: 0, f: 0 };
}

/** The product second·first. */
export function compose(second: Affine, first: Affine): Affine {
  return {
    a: second.a * first.a + second.c * first.b,
    b: second.b * first.a + second.d * first.b,
    c: second.a * first.c + second.c * first.d,
    d: second.b * first.c + second.d * first.d,
    e: second.a * first.e + second.c * first.f + second.e,
    f: second.b * first.e + second.d * first.f + second.f,
  };
}

export const applyAffine = (m: Affine, p: Point): Point => ({
  x: m.a * p.x + m.c * p.y + m.e,
  y: m.b * p.x + m.d * p.y + m.f,
});

/** The inverse map, or null when the map is singular (a plane squashed to a line). */
export function invertAffine(m: Affine): Affine | null {
  const determinant = m.a * m.d - m.b * m.c;
  if (!(Math.abs(determinant) > SINGULAR)) return null;
  const [a, b, c, d] = [m.d / determinant, -m.b / determinant, -m.c / determinant, m.a / determinant];
  return { a, b, c, d, e: -(a * m.e + c * m.f), f: -(b * m.e + d * m.f) };
}

/** The smaller of the two singular values: output px per source px in the most reduced direction. */
export const leastScale = (m: Affine): number => Math.sqrt(Math.max(0, meanSquare(m) - spread(m)));

/** The larger of the two singular values: output px per source px in the least reduced direction. */
export const greatestScale = (m: Affine): number => Math.sqrt(meanSquare(m) + spread(m));

const meanSquare = ({ a, b, c, d }: Affine): number => (a * a + b * b + c * c + d * d) / 2;

function spread(m: Affine): number {
  const determinant = m.a * m.d - m.b * m.c;
  return Math.sqrt(Math.max(0, meanSquare(m) ** 2 - determinant * determinant));
}
