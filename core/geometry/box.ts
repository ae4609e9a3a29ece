import { type Affine, applyAffine } from './affine.ts';

/** A half-open box [x0, x1) × [y0, y1). */
export interface Box {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

/** The smallest upright box round the mapped corners of `box`. */
export function mapBox(m: Affine, box: Box): Box {
  const corners = [
    applyAffine(m, { x: box.x0, y: box.y0 }),
    applyAffine(m, { x: box.x1, y: box.y0 }),
    applyAffine(m, { x: box.x0, y: box.y1 }),
    applyAffine(m, { x: box.x1, y: box.y1 }),
  ];
  const xs = corners.map((p) => p.x);
  const ys = corners.map((p) => p.y);
  return { x0: Math.min(...xs), y0: Math.min(...ys), x1: Math.max(...xs), y1: Math.max(...ys) };
}

/** The common part, or null when the boxes do not overlap. */
export function intersectBoxes(p: Box, q: Box): Box | null {
  const x0 = Math.max(p.x0, q.x0);
  const y0 = Math.max(p.y0, q.y0);
  const x1 = Math.min(p.x1, q.x1);
  const y1 = Math.min(p.y1, q.y1);
  return x0 < x1 && y0 < y1 ? { x0, y0, x1, y1 } : null;
}
