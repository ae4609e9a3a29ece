import type { PlaneId } from '../../scene/index.ts';
import type { PaintNeed } from '../paint-list.ts';

/** What a plane is to be painted on: the art as it is, grown by what this move needs, so fine that nothing is soft. */
export interface GuideCanvas {
  readonly planeId: PlaneId;
  /** Art px: the whole canvas, and where the upper left corner of the art as it is lies on it. */
  readonly widthPx: number;
  readonly heightPx: number;
  readonly xPx: number;
  readonly yPx: number;
  /** Px of the file for one art px; the file's width is exactly `widthPx * scale`, its height rounded up. */
  readonly scale: number;
  readonly fileWidthPx: number;
  readonly fileHeightPx: number;
}

/** What stands in for paint to come has no px of its own: its file is as large as the move needs, or as small. */
export function guideCanvas(need: PaintNeed): GuideCanvas {
  const { extendPx, planeId, paintPercent, standsIn } = need;
  const widthPx = Math.ceil(need.widthPx + extendPx.left + extendPx.right);
  const heightPx = Math.ceil(need.heightPx + extendPx.top + extendPx.bottom);
  const wanted = standsIn ? paintPercent / 100 : Math.max(1, paintPercent / 100);
  const fileWidthPx = Math.max(1, Math.ceil(widthPx * wanted - 1e-9));
  const scale = fileWidthPx / widthPx;
  return {
    planeId,
    widthPx,
    heightPx,
    xPx: extendPx.left,
    yPx: extendPx.top,
    scale,
    fileWidthPx,
    fileHeightPx: Math.max(1, Math.ceil(heightPx * scale - 1e-9)),
  };
}
