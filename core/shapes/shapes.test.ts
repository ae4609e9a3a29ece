import { svgPathProperties } from 'svg-path-properties';
import { describe, expect, it } from 'vitest';
import { IDENTITY, scaling } from '../geometry/index.ts';
import { addNode, deleteNode, isSmooth, moveHandle, moveNode, setSmooth } from './edit-outline.ts';
import { flatten, isInside, outlinesBox } from './flatten.ts';
import { ellipseOutline, type Outline, parsePath, pathData, rectangleOutline } from './path.ts';

const read = (data: string): Outline[] => {
  const parsed = parsePath(data);
  if (!parsed.ok) throw new Error(parsed.error);
  return parsed.value;
};
const BLOB = 'M10 80 C40 10 65 10 95 80 C150 150 180 150 180 80 L100 200 Z';

const length = (points: readonly { x: number; y: number }[]) =>
  points.reduce((sum, p, i) => {
    const q = points[(i + 1) % points.length] ?? p;
    return sum + Math.hypot(q.x - p.x, q.y - p.y);
  }, 0);

describe('path data', () => {
  it('comes back as it was written', () => {
    expect(pathData(read(BLOB))).toBe('M10 80 C40 10 65 10 95 80 C150 150 180 150 180 80 L100 200 L10 80 Z');
    const twice = pathData([...read(BLOB), rectangleOutline({ x0: 0, y0: 0, x1: 5, y1: 5 })]);
    expect(pathData(read(twice))).toBe(twice);
  });

  it.each([
    '',
    'M0 0',
    'M0 0 l5 5 Z',
    'M0 0 A5 5 0 0 0 9 9 Z',
    'M0 0 L1 Z',
    'javascript:alert(1)',
    `M${'9'.repeat(300_000)} 0 Z`,
  ])('refuses %s', (data) => {
    expect(parsePath(data).ok).toBe(false);
  });

  it('flattens to the length that svg-path-properties 1 measures', () => {
    const theirs = new svgPathProperties(BLOB).getTotalLength();
    expect(Math.abs(length(flatten(read(BLOB)[0] ?? [], IDENTITY)) - theirs) / theirs).toBeLessThan(2e-4);
    const large = length(flatten(read(BLOB)[0] ?? [], scaling(40)));
    expect(Math.abs(large / 40 - theirs) / theirs).toBeLessThan(1e-5);
  });
});

describe('outlines', () => {
  const circle = ellipseOutline({ x0: -50, y0: -50, x1: 50, y1: 50 });

  it('of an ellipse stay within 0.03 % of a true one', () => {
    for (const { x, y } of flatten(circle, IDENTITY))
      expect(Math.abs(Math.hypot(x, y) - 50)).toBeLessThan(0.015);
    expect(circle.every(isSmooth)).toBe(true);
    expect(outlinesBox([circle])).toEqual({ x0: -50, y0: -50, x1: 50, y1: 50 });
  });

  it('keep their form when a node is added', () => {
    const more = addNode(circle, 1, 0.3);
    expect(more).toHaveLength(5);
    for (const { x, y } of flatten(more, IDENTITY))
      expect(Math.abs(Math.hypot(x, y) - 50)).toBeLessThan(0.015);
    const square = addNode(rectangleOutline({ x0: 0, y0: 0, x1: 10, y1: 10 }), 0, 0.5);
    expect(pathData([square])).toBe('M0 0 L5 0 L10 0 L10 10 L0 10 L0 0 Z');
  });

  it('move a node with its handles, and the far handle of a smooth node with the near one', () => {
    const moved = moveNode(circle, 0, { x: 60, y: 5 });
    expect(moved[0]?.out.x).toBeCloseTo(60, 9);
    const turned = moveHandle(circle, 0, 'out', { x: 100, y: 0 }, true);
    expect(turned[0] && isSmooth(turned[0])).toBe(true);
    expect(turned[0]?.in.y).toBeCloseTo(0, 9);
    const broken = moveHandle(circle, 0, 'out', { x: 100, y: 0 }, false);
    expect(broken[0]?.in).toEqual(circle[0]?.in);
  });

  it('turn corners round and back, and lose nodes', () => {
    const square = rectangleOutline({ x0: 0, y0: 0, x1: 10, y1: 10 });
    const round = setSmooth(square, 2, true);
    expect(round[2] && isSmooth(round[2])).toBe(true);
    expect(setSmooth(round, 2, false)).toEqual(square);
    expect(deleteNode(square, 1)).toHaveLength(3);
    expect(deleteNode(square.slice(0, 2), 0)).toEqual([]);
  });

  it('know what lies inside them', () => {
    expect(isInside([circle], { x: 34, y: 34 })).toBe(true);
    expect(isInside([circle], { x: 36, y: 36 })).toBe(false);
    expect(isInside([], { x: 0, y: 0 })).toBe(false);
  });
});
