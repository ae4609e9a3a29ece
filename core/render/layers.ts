import type { ArtId } from '../document/index.ts';
import { type Affine, compose, invertAffine, leastScale } from '../geometry/index.ts';
import { mipCount, mipLevelFor } from '../image/index.ts';
import type { FramePlan } from '../shot/index.ts';

/** Premultiplied 8-bit RGBA laid under everything. */
export interface Background {
  readonly r: number;
  readonly g: number;
  readonly b: number;
  readonly a: number;
}

export const CLEAR: Background = { r: 0, g: 0, b: 0, a: 0 };
export const BLACK: Background = { r: 0, g: 0, b: 0, a: 255 };

/** The window that a plan is rendered through. */
export interface RenderView {
  readonly widthPx: number;
  readonly heightPx: number;
  /** From the plan's frame px to this image's px. */
  readonly frameToImage: Affine;
  readonly background: Background;
}

/** One drawn plane, resolved for one image. */
export interface RenderLayer {
  readonly artId: ArtId;
  readonly widthPx: number;
  readonly heightPx: number;
  /** Mip level to sample. */
  readonly level: number;
  /** Image px to texels of that level, both continuous (pixel i covers [i, i + 1)). */
  readonly imageToLevel: Affine;
  /** 0 to 1. */
  readonly opacity: number;
}

/** The layers of a plan that leave a mark, far to near. Singular maps and clear planes drop out. */
export function renderLayers(plan: FramePlan, view: RenderView): RenderLayer[] {
  return plan.planes.flatMap((plane) => {
    if (plane.state !== 'drawn' || plane.opacity <= 0) return [];
    const artToImage = compose(view.frameToImage, plane.artToFrame);
    const imageToArt = invertAffine(artToImage);
    if (!imageToArt) return [];
    const { id: artId, widthPx, heightPx } = plane.art;
    const level = mipLevelFor(leastScale(artToImage), mipCount(widthPx, heightPx));
    const perTexel = 1 / 2 ** level;
    const { a, b, c, d, e, f } = imageToArt;
    const imageToLevel = {
      a: a * perTexel,
      b: b * perTexel,
      c: c * perTexel,
      d: d * perTexel,
      e: e * perTexel,
      f: f * perTexel,
    };
    return [{ artId, widthPx, heightPx, level, imageToLevel, opacity: plane.opacity }];
  });
}
