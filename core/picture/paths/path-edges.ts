import type { Affine, Point } from '../../geometry/index.ts';
import { flatten, type Outline } from '../../shapes/index.ts';

/** Edges of closed outlines in image px, four values each: x0 y0 x1 y1. */
export type PathEdges = Float32Array;

/**
 * The edges of `outlines` after `map`, clipped to the image: above and below they drop out, to the left and right
 * they are pressed on the border, since what lies to the right of an edge is covered however far off the edge is.
 */
export function pathEdges(
  outlines: readonly Outline[],
  map: Affine,
  widthPx: number,
  heightPx: number,
): PathEdges {
  const edges: number[] = [];
  for (const outline of outlines) {
    const points = flatten(outline, map);
    points.forEach((from, i) => {
      addClipped(from, points[(i + 1) % points.length] as Point, widthPx, heightPx, edges);
    });
  }
  return Float32Array.from(edges);
}

/** The edges of several outlines as those of one. */
export function joinEdges(parts: readonly PathEdges[]): PathEdges {
  const [only] = parts;
  if (parts.length === 1 && only) return only;
  const joined = new Float32Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    joined.set(part, at);
    at += part.length;
  }
  return joined;
}

function addClipped(from: Point, to: Point, width: number, height: number, edges: number[]): void {
  const [low, high] = [Math.max(0, Math.min(from.y, to.y)), Math.min(height, Math.max(from.y, to.y))];
  if (!(low < high)) return;
  const xAt = (y: number) => from.x + ((to.x - from.x) * (y - from.y)) / (to.y - from.y);
  const yAt = (x: number) => from.y + ((to.y - from.y) * (x - from.x)) / (to.x - from.x);
  const cuts = [low, high];
  for (const border of [0, width]) {
    if (from.x < border === to.x < border) continue;
    const y = yAt(border);
    if (y > low && y < high) cuts.push(y);
  }
  cuts.sort((p, q) => p - q);
  const down = from.y < to.y;
  for (let i = 0; i + 1 < cuts.length; i++) {
    const [y0, y1] = [cuts[i] as number, cuts[i + 1] as number];
    // The middle says on which side of a border the piece lies: its ends may fall on it by rounding.
    const middle = xAt((y0 + y1) / 2);
    const pressed = middle <= 0 ? 0 : middle >= width ? width : null;
    const [x0, x1] = [pressed ?? clamp(xAt(y0), width), pressed ?? clamp(xAt(y1), width)];
    edges.push(...(down ? [x0, y0, x1, y1] : [x1, y1, x0, y0]));
  }
}

const clamp = (x: number, width: number): number => Math.min(width, Math.max(0, x));

/** Whole px round the edges: left, right, top, bottom; empty edges give an empty box. */
export function edgeBounds(edges: PathEdges): { left: number; right: number; top: number; bottom: number } {
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let i = 0; i < edges.length; i += 2) {
    left = Math.min(left, edges[i] as number);
    right = Math.max(right, edges[i] as number);
    top = Math.min(top, edges[i + 1] as number);
    bottom = Math.max(bottom, edges[i + 1] as number);
  }
  if (edges.length === 0) return { left: 0, right: 0, top: 0, bottom: 0 };
  return {
    left: Math.floor(left),
    right: Math.ceil(right),
    top: Math.floor(top),
    bottom: Math.ceil(bottom),
  };
}
