import { ellipseOutline, type Outline, pathData, rectangleOutline } from './path.ts';

/** A standing figure and a scale of its heads, as path data in a box of `widthPx` × `heightPx`. */
export interface Figure {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly body: string;
  /** One short bar at every head's height, from the crown down to the soles. */
  readonly scale: string;
}

const WIDTH_SHARE = 0.5;
const BAR_PX = 0.004;

/**
 * A plain stand-in: upright, feet on the lower side of the box, as many heads tall as said. Proportions below the chin
 * stretch with the rest; they are only there to be compared with doors and trees.
 */
export function standInFigure(heightPx: number, heads: number): Figure {
  const widthPx = heightPx * WIDTH_SHARE;
  const head = heightPx / heads;
  const [middle, chin] = [widthPx / 2, head];
  const below = heightPx - chin;
  const at = (share: number) => chin + below * share;
  const half = (share: number) => heightPx * share;
  const right = [
    { x: half(0.022), y: at(0) },
    { x: half(0.1), y: at(0.06) },
    { x: half(0.125), y: at(0.3) },
    { x: half(0.13), y: at(0.5) },
    { x: half(0.095), y: at(0.5) },
    { x: half(0.085), y: at(0.18) },
    { x: half(0.075), y: at(0.42) },
    { x: half(0.085), y: at(0.55) },
    { x: half(0.07), y: at(0.98) },
    { x: half(0.085), y: at(1) },
    { x: half(0.012), y: at(1) },
    { x: half(0.006), y: at(0.56) },
  ];
  const outline = [
    ...right.map(({ x, y }) => ({ x: middle + x, y })),
    ...right.toReversed().map(({ x, y }) => ({ x: middle - x, y })),
  ];
  const bar = heightPx * BAR_PX;
  const bars = Array.from({ length: Math.floor(heads) + 1 }, (_, i) => {
    const y = Math.min(heightPx - bar, i * head);
    return rectangleOutline({ x0: 0, y0: y, x1: widthPx * 0.12, y1: y + bar });
  });
  return {
    widthPx,
    heightPx,
    body: pathData([
      ellipseOutline({ x0: middle - head * 0.36, y0: 0, x1: middle + head * 0.36, y1: head }),
      outline.map((at): Outline[number] => ({ at, in: at, out: at })),
    ]),
    scale: pathData(bars),
  };
}
