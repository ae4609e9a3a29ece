import { describe, expect, it } from 'vitest';
import { applyAffine, compose, invertAffine, leastScale, rotation, scaling, translation } from './affine.ts';
import { mapBox } from './box.ts';

describe('affine maps', () => {
  it('apply the first map first', () => {
    const m = compose(translation(10, 0), scaling(2));
    expect(applyAffine(m, { x: 3, y: 4 })).toEqual({ x: 16, y: 8 });
  });

  it('turn clockwise on screen: right goes down', () => {
    expect(applyAffine(rotation(90), { x: 1, y: 0 })).toEqual({ x: 0, y: 1 });
    expect(applyAffine(rotation(-270), { x: 1, y: 0 })).toEqual({ x: 0, y: 1 });
  });

  it('invert, and say null when squashed to a line', () => {
    const m = compose(translation(5, -2), compose(rotation(33), scaling(2, -0.5)));
    const back = invertAffine(m);
    const at = applyAffine(back ?? scaling(0), applyAffine(m, { x: 7, y: 9 }));
    expect(at.x).toBeCloseTo(7, 12);
    expect(at.y).toBeCloseTo(9, 12);
    expect(invertAffine(scaling(1, 0))).toBeNull();
  });

  it('measure the most reduced direction', () => {
    expect(leastScale(compose(rotation(40), scaling(3, 0.25)))).toBeCloseTo(0.25, 12);
  });
});

describe('boxes', () => {
  it('bound a turned box', () => {
    const box = mapBox(rotation(45), { x0: -1, y0: -1, x1: 1, y1: 1 });
    expect(box.x1).toBeCloseTo(Math.SQRT2, 12);
    expect(box.y0).toBeCloseTo(-Math.SQRT2, 12);
  });
});
