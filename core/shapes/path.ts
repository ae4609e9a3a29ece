import type { Point } from '../geometry/index.ts';
import { fail, ok, type Result } from '../units/index.ts';

/** A point of an outline with its handles; a handle equal to the point makes that side straight. All in art px. */
export interface PathNode {
  readonly at: Point;
  /** Handle of the span that arrives. */
  readonly in: Point;
  /** Handle of the span that leaves. */
  readonly out: Point;
}

/** One closed outline. */
export type Outline = readonly PathNode[];

export const PATH_LIMITS = { length: 200_000, nodes: 5000 } as const;

const NUMBER = '[-+]?(?:\\d+\\.?\\d*|\\.\\d+)(?:e[-+]?\\d+)?';
/** Absolute M, L, C and Z of SVG path data with all letters written: what this program writes. */
export const PATH_PATTERN = new RegExp(
  `^M${NUMBER} ${NUMBER}(?: (?:L${NUMBER} ${NUMBER}|C${NUMBER} ${NUMBER} ${NUMBER} ${NUMBER} ${NUMBER} ${NUMBER}))* Z(?: M${NUMBER} ${NUMBER}(?: (?:L${NUMBER} ${NUMBER}|C${NUMBER} ${NUMBER} ${NUMBER} ${NUMBER} ${NUMBER} ${NUMBER}))* Z)*$`,
);

/** Reads path data (SVG 2, section 9.3) of closed outlines made of M, L, C and Z, absolute. */
export function parsePath(data: string): Result<Outline[], 'not-a-path'> {
  if (data.length > PATH_LIMITS.length || !PATH_PATTERN.test(data)) return fail('not-a-path');
  const outlines: PathNode[][] = [];
  for (const [, letter, rest] of data.matchAll(/([MLCZ])([^MLCZ]*)/g)) {
    const n = (rest ?? '').trim().split(/ +/).map(Number);
    const point = (i: number): Point => ({ x: n[i] as number, y: n[i + 1] as number });
    const nodes = outlines.at(-1);
    const last = nodes?.at(-1);
    if (letter === 'M') outlines.push([plainNode(point(0))]);
    else if (letter === 'Z' && nodes) closeOutline(nodes);
    else if (letter === 'L' && nodes) nodes.push(plainNode(point(0)));
    else if (letter === 'C' && nodes && last) {
      nodes[nodes.length - 1] = { ...last, out: point(0) };
      nodes.push({ at: point(4), in: point(2), out: point(4) });
    }
  }
  return ok(outlines);
}

const plainNode = (at: Point): PathNode => ({ at, in: at, out: at });
export const isSame = (p: Point, q: Point): boolean => p.x === q.x && p.y === q.y;

/** A last point on the first one is the first one: its arriving handle belongs there. */
function closeOutline(nodes: PathNode[]): void {
  const [first, last] = [nodes[0], nodes.at(-1)];
  if (!first || !last || nodes.length < 2 || !isSame(first.at, last.at)) return;
  nodes.pop();
  nodes[0] = { ...first, in: last.in };
}

const written = (v: number): string => String(Math.round(v * 1000) / 1000);
const pair = ({ x, y }: Point): string => `${written(x)} ${written(y)}`;

/** Path data of closed outlines, rounded to a thousandth of an art px. */
export const pathData = (outlines: readonly Outline[]): string =>
  outlines
    .filter((nodes) => nodes.length > 1)
    .map((nodes) => {
      const spans = nodes.map((node, i) => {
        const next = nodes[(i + 1) % nodes.length] as PathNode;
        const straight = isSame(node.out, node.at) && isSame(next.in, next.at);
        return straight ? `L${pair(next.at)}` : `C${pair(node.out)} ${pair(next.in)} ${pair(next.at)}`;
      });
      return `M${pair((nodes[0] as PathNode).at)} ${spans.join(' ')} Z`;
    })
    .join(' ');

/** Handle length of a quarter circle, as a share of its radius: 4/3·(√2 − 1). */
const QUARTER = (4 / 3) * (Math.SQRT2 - 1);

/** An ellipse as four cubic spans; off a true one by less than 0.03 % of the radius (common practice, no source). */
export function ellipseOutline(box: { x0: number; y0: number; x1: number; y1: number }): Outline {
  const [cx, cy] = [(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2];
  const [rx, ry] = [(box.x1 - box.x0) / 2, (box.y1 - box.y0) / 2];
  const corner = (ux: number, uy: number): PathNode => ({
    at: { x: cx + rx * ux, y: cy + ry * uy },
    in: { x: cx + rx * (ux + QUARTER * uy), y: cy + ry * (uy - QUARTER * ux) },
    out: { x: cx + rx * (ux - QUARTER * uy), y: cy + ry * (uy + QUARTER * ux) },
  });
  return [corner(1, 0), corner(0, 1), corner(-1, 0), corner(0, -1)];
}

export const rectangleOutline = (box: { x0: number; y0: number; x1: number; y1: number }): Outline =>
  [
    { x: box.x0, y: box.y0 },
    { x: box.x1, y: box.y0 },
    { x: box.x1, y: box.y1 },
    { x: box.x0, y: box.y1 },
  ].map(plainNode);
