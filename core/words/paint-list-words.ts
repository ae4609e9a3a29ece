import { SIDES, type Side } from '../image/index.ts';
import type { GuideCanvas, PaintNeed } from '../survey/index.ts';

const number = new Intl.NumberFormat('en', { maximumFractionDigits: 0 });

export const PAINT_LIST_WORDS = {
  plane: 'Plane',
  is: 'It is',
  paint: 'Paint it',
  sides: { left: 'West', right: 'East', top: 'North', bottom: 'South' } satisfies Record<Side, string>,
} as const;

/** A line of the paint list: what there is, how large to paint it, and at each side what to add or what is spare. */
export interface NeedWords {
  readonly is: string;
  readonly paint: string;
  readonly sides: Readonly<Record<Side, string>>;
}

/** Sides are the art's own. */
export function needWords(need: PaintNeed, canvas: GuideCanvas): NeedWords {
  const { standsIn, widthPx, heightPx, extendPx, sparePx } = need;
  const size = (width: number, height: number) => `${number.format(width)} × ${number.format(height)} px`;
  const grows = SIDES.some((side) => extendPx[side] > 0);
  const asItIs = !standsIn && !grows && canvas.scale <= 1;
  const side = (at: Side): string => {
    if (extendPx[at] > 0) return `add ${number.format(extendPx[at])}`;
    const spare = sparePx[at];
    return spare === null ? '' : spare > 0 ? `${number.format(spare)} spare` : '0';
  };
  return {
    is: standsIn ? 'blocked in' : size(widthPx, heightPx),
    paint: asItIs ? 'as it is' : size(canvas.fileWidthPx, canvas.fileHeightPx),
    sides: { left: side('left'), right: side('right'), top: side('top'), bottom: side('bottom') },
  };
}
