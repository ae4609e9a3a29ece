import { applyAffine } from '../../geometry/index.ts';
import { boxToGradient, type Paint, rampOf } from '../../paint/index.ts';
import { insideTest, outlinesBox, parsePath } from '../../shapes/index.ts';
import type { Shown } from '../../staging/content/index.ts';
import { memo } from '../../units/index.ts';
import { type AlphaMap, alphaMapOf } from './alpha-map.ts';

/** Texels along the longer side: shapes stand in for paint to come. */
const FINEST = 256;

type Paths = Extract<Shown, { kind: 'paths' }>;

/** How much paint filled outlines have, looked up at the middle of every texel. */
export const alphaOfPaths = memo((shown: Paths): AlphaMap => {
  const { widthPx, heightPx } = shown.facts;
  const scale = Math.min(1, FINEST / Math.max(widthPx, heightPx));
  const [columns, rows] = [
    Math.max(1, Math.round(widthPx * scale)),
    Math.max(1, Math.round(heightPx * scale)),
  ];
  const clear = new Float32Array(columns * rows).fill(1);
  for (const { path, paint } of shown.paths) {
    const read = parsePath(path);
    const box = read.ok && outlinesBox(read.value);
    if (!read.ok || !box) continue;
    const opacityAt = opacityOf(paint, box);
    const isInside = insideTest(read.value);
    for (let row = 0; row < rows; row++) {
      const y = ((row + 0.5) * heightPx) / rows;
      if (y < box.y0 || y > box.y1) continue;
      for (let column = 0; column < columns; column++) {
        const x = ((column + 0.5) * widthPx) / columns;
        if (x < box.x0 || x > box.x1 || !isInside({ x, y })) continue;
        clear[row * columns + column]! *= 1 - opacityAt(x, y);
      }
    }
  }
  const data = Uint8Array.from(clear, (share) => Math.round((1 - share) * 255));
  return alphaMapOf(widthPx, heightPx, { columns, rows, data });
});

/** How opaque a paint is at a point of the art, 0 to 1. */
function opacityOf(paint: Paint, box: { x0: number; y0: number; x1: number; y1: number }) {
  if (paint.kind === 'solid') return () => paint.opacity;
  const { x0, y0, x1, y1 } = box;
  const toGradient = boxToGradient(paint, { x: x0, y: y0, widthPx: x1 - x0, heightPx: y1 - y0 });
  const ramp = rampOf(paint);
  const last = ramp.length / 4 - 1;
  return (x: number, y: number) => {
    const at = applyAffine(toGradient, { x, y });
    const t = paint.kind === 'linear' ? at.x : Math.hypot(at.x, at.y);
    return ramp[4 * Math.round(Math.min(1, Math.max(0, t)) * last) + 3]! / 255;
  };
}
