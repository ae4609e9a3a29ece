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
