import { type Affine, type Box, compose, leastScale, scaling, translation } from '../geometry/index.ts';
import type { RenderView } from './view.ts';

/** A blur in px of some picture: a Gaussian and a disc, one after the other. */
export interface Blur {
  readonly sigmaPx: number;
  readonly radiusPx: number;
}

/** Diameters under this change no byte. */
const LEAST_BLUR_PX = 0.05;

/** A disc this narrow is a few px: a Gaussian of its variance, which unlike it is the same along both axes, stands for it. */
const LEAST_DISC_PX = 3;

/**
 * The blur of a plane in px of the view's image; null where it is sharp. A Gaussian that spreads as far as a disc of
 * diameter b has the same variance: σ = b/4.
 */
export function blurIn(
  { blurPx, defocusPx }: { readonly blurPx: number; readonly defocusPx: number },
  view: RenderView,
): Blur | null {
  const scale = leastScale(view.frameToImage);
  // Wider than the picture itself everything is one colour.
  const most = 2 * Math.hypot(view.widthPx, view.heightPx);
  const own = Math.min(most, blurPx * scale);
  const lens = Math.min(most, defocusPx * scale);
  if (own < LEAST_BLUR_PX && lens < LEAST_BLUR_PX) return null;
  return lens < LEAST_DISC_PX
    ? { sigmaPx: Math.hypot(own, lens) / 4, radiusPx: 0 }
    : { sigmaPx: own / 4, radiusPx: lens / 2 };
}

/** A blur this wide, in px of the reduced picture, is still exact enough: reading between the px loses under 1/255. */
const KEPT = { sigmaPx: 4, radiusPx: 10 };
export interface GroupFrame extends RenderView {
  readonly imageToGroup: Affine;
  /** Image px that one of its px is wide. */
  readonly cell: number;
}

/**
 * The picture in which a blur of a view is made: reduced as far as the blur allows, with what it draws in from outside,
 * and no larger than what is painted within `painted` (image px; null for everywhere) can reach. Null where it shows nothing.
 */
export function reducedFrame(
  view: RenderView,
  blur: Blur,
  painted: Box | null,
): { frame: GroupFrame; blur: Blur } | null {
  const halvings = Math.max(
    0,
    Math.floor(Math.log2(Math.max(blur.sigmaPx / KEPT.sigmaPx, blur.radiusPx / KEPT.radiusPx))),
  );
  const cell = 2 ** halvings;
  const margin = Math.ceil((3 * blur.sigmaPx + blur.radiusPx + 2) / cell) * cell;
  const along = (size: number, from: number, to: number) => {
    const start = Math.max(-margin, Math.floor((from - margin) / cell) * cell);
    return { start, cells: Math.ceil((Math.min(size + margin, to + margin) - start) / cell) };
  };
  const { x0, x1, y0, y1 } = painted ?? { x0: 0, y0: 0, x1: view.widthPx, y1: view.heightPx };
  const [across, down] = [along(view.widthPx, x0, x1), along(view.heightPx, y0, y1)];
  if (across.cells <= 0 || down.cells <= 0) return null;
  const imageToGroup = compose(scaling(1 / cell), translation(-across.start, -down.start));
  const frame = {
    widthPx: across.cells,
    heightPx: down.cells,
    frameToImage: compose(imageToGroup, view.frameToImage),
    background: { r: 0, g: 0, b: 0, a: 0 },
    imageToGroup,
    cell,
  };
  return { frame, blur: { sigmaPx: blur.sigmaPx / cell, radiusPx: blur.radiusPx / cell } };
}
