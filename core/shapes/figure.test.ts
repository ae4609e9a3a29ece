import { describe, expect, it } from 'vitest';
import { standInFigure } from './figure.ts';
import { isInside, outlinesBox } from './flatten.ts';
import { parsePath } from './path.ts';

const outlines = (path: string) => {
  const read = parsePath(path);
  if (!read.ok) throw new Error(path);
  return read.value;
};

describe('the stand-in figure', () => {
  it.each([
    [480, 6],
    [1000, 7.5],
    [60, 2],
  ])('stands from crown to soles in %d px, with a mark for each of its %d heads', (heightPx, heads) => {
    const figure = standInFigure(heightPx, heads);
    const box = outlinesBox(outlines(figure.body))!;
    expect(box.y0).toBeCloseTo(0, 6);
    expect(box.y1).toBeCloseTo(heightPx, 6);
    expect(box.x0).toBeGreaterThanOrEqual(0);
    expect(box.x1).toBeLessThanOrEqual(figure.widthPx);
    const marks = outlines(figure.scale);
    expect(marks).toHaveLength(Math.floor(heads) + 1);
    // Path data keeps thousandths of a px.
    expect(marks[1]![0]!.at.y).toBeCloseTo(heightPx / heads, 2);
    expect(outlinesBox(marks)!.y1).toBeLessThanOrEqual(heightPx + 1e-3);
  });

  it('is alike to the left and right, with paint in the head and none beside it', () => {
    const { body, widthPx, heightPx } = standInFigure(600, 6);
    const figure = outlines(body);
    const at = (x: number, y: number) => isInside(figure, { x: widthPx / 2 + x, y });
    expect([at(0, 50), at(80, 50), at(-80, 50), at(0, 300)]).toEqual([true, false, false, true]);
    for (let y = 5; y < heightPx; y += 31) for (let x = 3; x < 100; x += 13) expect(at(x, y)).toBe(at(-x, y));
  });
});
