import type { Scene } from '@keen-ridge/core/document';
import { type Affine, compose, scaling, translation } from '@keen-ridge/core/geometry';

/** How the frame lies in the picture, CSS px. */
export interface PictureFit {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
  /** CSS px per output px. */
  readonly scale: number;
}

/** The frame centred with `margin` of the room left round it, where off-frame art shows. */
export function fitFrame(
  frame: Scene['frame'],
  roomWidth: number,
  roomHeight: number,
  margin: number,
): PictureFit {
  const share = 1 - 2 * margin;
  const scale = Math.min((roomWidth * share) / frame.widthPx, (roomHeight * share) / frame.heightPx);
  const [width, height] = [frame.widthPx * scale, frame.heightPx * scale];
  return { left: (roomWidth - width) / 2, top: (roomHeight - height) / 2, width, height, scale };
}

/** Frame px to device px of the picture. */
export const frameToDevice = (fit: PictureFit, pixelRatio: number): Affine =>
  compose(scaling(pixelRatio), compose(translation(fit.left, fit.top), scaling(fit.scale)));
