import { type Point, translation } from '@keen-ridge/core/geometry';
import type { Shape } from '@keen-ridge/core/scene';
import {
  cubicAt,
  isInside,
  isSmooth,
  mapOutline,
  moveHandle,
  moveNode,
  type Outline,
  type PathNode,
} from '@keen-ridge/core/shapes';
import type { NodePlace } from './node-place.ts';
import { outlinesOf } from './shape-tool.ts';

/** What of a shape a press has taken hold of: all of it, a node, or one of the two handles of the chosen node. */
export type Grip =
  | { readonly kind: 'shape'; readonly from: Point }
  | { readonly kind: 'node' | 'in' | 'out'; readonly place: NodePlace; readonly smooth: boolean };

/** The node or handle of an outline within `reach` (art px) of a point; handles are those of the chosen node. */
export function gripAt(
  outlines: readonly Outline[],
  chosen: NodePlace | null,
  at: Point,
  reach: number,
): Extract<Grip, { place: NodePlace }> | null {
  const near = (p: Point, q: Point): boolean => Math.hypot(p.x - q.x, p.y - q.y) < reach;
  for (const [o, outline] of outlines.entries()) {
    for (const [index, n] of outline.entries()) {
      const place = { outline: o, index };
      const smooth = isSmooth(n);
      const handles = chosen?.outline === o && chosen.index === index;
      if (handles && !near(n.out, n.at) && near(n.out, at)) return { kind: 'out', place, smooth };
      if (handles && !near(n.in, n.at) && near(n.in, at)) return { kind: 'in', place, smooth };
      if (near(n.at, at)) return { kind: 'node', place, smooth };
    }
  }
  return null;
}

/** The outlines with what was grasped pulled to a point. */
export function pulled(outlines: readonly Outline[], grip: Grip, to: Point): readonly Outline[] {
  if (grip.kind === 'shape') {
    const by = translation(to.x - grip.from.x, to.y - grip.from.y);
    return outlines.map((outline) => mapOutline(outline, by));
  }
  const { kind, place, smooth } = grip;
  return outlines.map((outline, i) => {
    if (i !== place.outline) return outline;
    return kind === 'node'
      ? moveNode(outline, place.index, to)
      : moveHandle(outline, place.index, kind, to, smooth);
  });
}

/** The nearest shape that a point lies in. */
export const shapeAt = (shapes: readonly Shape[], at: Point): Shape | undefined =>
  shapes.find((shape) => isInside(outlinesOf(shape), at));

/** The place of an outline nearest to a point, if it is within reach. */
export function edgeAt(
  outlines: readonly Outline[],
  at: Point,
  reach: number,
): (NodePlace & { t: number }) | null {
  let best: (NodePlace & { t: number; away: number }) | null = null;
  for (const [o, outline] of outlines.entries()) {
    for (const [index, n] of outline.entries()) {
      const next = outline[(index + 1) % outline.length] as PathNode;
      for (let t = 0.02; t < 1; t += 0.02) {
        const p = cubicAt(n.at, n.out, next.in, next.at, t);
        const away = Math.hypot(p.x - at.x, p.y - at.y);
        if (away < (best?.away ?? reach)) best = { outline: o, index, t, away };
      }
    }
  }
  return best;
}
