/** What a camera sees on the datum: its middle and the width of its field, stage px. */
export interface Field {
  readonly x: number;
  readonly y: number;
  readonly width: number;
}

/** The trade-off between zooming and panning that the authors found to please most viewers. */
const RHO = Math.SQRT2;

/**
 * The smooth way from one field to another of van Wijk & Nuij, “Smooth and efficient zooming and panning” (IEEE
 * InfoVis 2003, equations 9 and 10): it pulls out just far enough to see both, and every part of it feels as fast.
 * `at` takes progress from 0 to 1.
 */
export function smoothWay(
  from: Field,
  to: Field,
): { readonly length: number; readonly at: (t: number) => Field } {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const u1 = Math.hypot(dx, dy);
  const [w0, w1] = [from.width, to.width];
  const rho2 = RHO * RHO;
  if (u1 < 1e-9 * Math.max(w0, w1)) {
    const length = Math.log(w1 / w0) / RHO;
    return {
      length: Math.abs(length),
      at: (t) => ({ x: from.x + t * dx, y: from.y + t * dy, width: w0 * Math.exp(RHO * t * length) }),
    };
  }
  const b = (end: 0 | 1) => {
    const [w, sign] = end === 0 ? [w0, 1] : [w1, -1];
    return (w1 * w1 - w0 * w0 + sign * rho2 * rho2 * u1 * u1) / (2 * w * rho2 * u1);
  };
  // log(√(b² + 1) − b) loses every digit where the pan is next to nothing beside the fields: there b is huge.
  const r = (end: 0 | 1) => -Math.asinh(b(end));
  const [r0, r1] = [r(0), r(1)];
  const length = (r1 - r0) / RHO;
  return {
    length,
    at: (t) => {
      const s = RHO * t * length;
      // cosh(r0)·tanh(s + r0) − sinh(r0), as one term: two that are alike and huge would be taken from one another.
      const u = (w0 / (rho2 * u1)) * (Math.sinh(s) / Math.cosh(s + r0));
      return { x: from.x + u * dx, y: from.y + u * dy, width: (w0 * Math.cosh(r0)) / Math.cosh(s + r0) };
    },
  };
}
