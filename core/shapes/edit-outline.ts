import { type Affine, applyAffine, type Point } from '../geometry/index.ts';
import { isSame, type Outline, type PathNode } from './path.ts';

const minus = (p: Point, q: Point): Point => ({ x: p.x - q.x, y: p.y - q.y });
const plus = (p: Point, q: Point): Point => ({ x: p.x + q.x, y: p.y + q.y });
const times = (p: Point, k: number): Point => ({ x: p.x * k, y: p.y * k });
const between = (p: Point, q: Point, t: number): Point => plus(p, times(minus(q, p), t));
const replaced = (outline: Outline, index: number, node: PathNode): Outline =>
  outline.map((old, i) => (i === index ? node : old));

/** Moves a node with its handles. */
export function moveNode(outline: Outline, index: number, to: Point): Outline {
  const node = outline[index];
  if (!node) return outline;
  const by = minus(to, node.at);
  return replaced(outline, index, { at: to, in: plus(node.in, by), out: plus(node.out, by) });
}

/** Moves one handle; at a smooth node the other one turns with it and keeps its length. */
export function moveHandle(
  outline: Outline,
  index: number,
  side: 'in' | 'out',
  to: Point,
  smooth: boolean,
): Outline {
  const node = outline[index];
  if (!node) return outline;
  const other = side === 'in' ? 'out' : 'in';
  const reach = Math.hypot(to.x - node.at.x, to.y - node.at.y);
  const length = Math.hypot(node[other].x - node.at.x, node[other].y - node.at.y);
  const opposite =
    smooth && reach > 0 ? plus(node.at, times(minus(node.at, to), length / reach)) : node[other];
  return replaced(outline, index, { ...node, [side]: to, [other]: opposite });
}

/** Whether both handles lie on one line through the node, on opposite sides. */
export function isSmooth({ at, in: before, out: after }: PathNode): boolean {
  const [p, q] = [minus(before, at), minus(after, at)];
  const lengths = Math.hypot(p.x, p.y) * Math.hypot(q.x, q.y);
  return lengths > 0 && (p.x * q.x + p.y * q.y) / lengths < -0.9999;
}

/** Makes a node smooth, with handles along its neighbours' chord (a third of the way), or straight, without any. */
export function setSmooth(outline: Outline, index: number, smooth: boolean): Outline {
  const node = outline[index];
  if (!node || outline.length < 2) return outline;
  if (!smooth) return replaced(outline, index, { at: node.at, in: node.at, out: node.at });
  const before = (outline[(index + outline.length - 1) % outline.length] as PathNode).at;
  const after = (outline[(index + 1) % outline.length] as PathNode).at;
  const chord = minus(after, before);
  const size = Math.hypot(chord.x, chord.y) || 1;
  const handle = (towards: Point, sign: number) =>
    plus(node.at, times(chord, (sign * Math.hypot(towards.x - node.at.x, towards.y - node.at.y)) / 3 / size));
  return replaced(outline, index, { at: node.at, in: handle(before, -1), out: handle(after, 1) });
}

/** A new node in the span that leaves `index`, at `t` of it; the outline keeps its form (de Casteljau). */
export function addNode(outline: Outline, index: number, t: number): Outline {
  const node = outline[index];
  const nextIndex = (index + 1) % outline.length;
  const next = outline[nextIndex];
  if (!node || !next) return outline;
  const [a, b, c] = [
    between(node.at, node.out, t),
    between(node.out, next.in, t),
    between(next.in, next.at, t),
  ];
  const [d, e] = [between(a, b, t), between(b, c, t)];
  const straight = isSame(node.out, node.at) && isSame(next.in, next.at);
  const middle = between(d, e, t);
  const made: PathNode = straight ? { at: middle, in: middle, out: middle } : { at: middle, in: d, out: e };
  const changed = outline.map((old, i) => {
    if (straight) return old;
    if (i === index && i === nextIndex) return { ...old, out: a, in: c };
    if (i === index) return { ...old, out: a };
    return i === nextIndex ? { ...old, in: c } : old;
  });
  return [...changed.slice(0, index + 1), made, ...changed.slice(index + 1)];
}

/** The outline without a node; one of fewer than two nodes is gone altogether. */
export const deleteNode = (outline: Outline, index: number): Outline =>
  outline.length <= 2 ? [] : outline.filter((_, i) => i !== index);

export const mapOutline = (outline: Outline, map: Affine): Outline =>
  outline.map((node) => ({
    at: applyAffine(map, node.at),
    in: applyAffine(map, node.in),
    out: applyAffine(map, node.out),
  }));
