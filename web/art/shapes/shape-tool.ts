import type { Shape } from '@keen-ridge/core/scene';
import { ellipseOutline, type Outline, parsePath, rectangleOutline } from '@keen-ridge/core/shapes';

export type ShapeTool = 'choose' | 'draw' | 'ellipse' | 'rectangle';

export const outlinesOf = ({ path }: Shape): Outline[] => {
  const read = parsePath(path);
  return read.ok ? read.value : [];
};

export const boxOutline = (
  tool: 'ellipse' | 'rectangle',
  p: { x: number; y: number },
  q: { x: number; y: number },
): Outline => {
  const box = {
    x0: Math.min(p.x, q.x),
    y0: Math.min(p.y, q.y),
    x1: Math.max(p.x, q.x),
    y1: Math.max(p.y, q.y),
  };
  return tool === 'ellipse' ? ellipseOutline(box) : rectangleOutline(box);
};
