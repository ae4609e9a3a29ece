import { type Affine, type Box, compose, type Point, scaling, translation } from '@keen-ridge/core/geometry';
import type { ElementSize } from '../ui/use-element-size.ts';

/** How the frame lies in the picture, CSS px. */
export interface PictureFit {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
  /** CSS px per output px. */
  readonly scale: number;
}

/** Where a view stands: CSS px per output px, and the output px in the middle of the room. */
export interface ViewPlace {
  readonly scale: number;
  readonly x: number;
  readonly y: number;
}

/** The place from which all of `content` (output px) is seen, with `margin` of the room left round it. */
export function fittedPlace(room: ElementSize, content: Box, margin: number): ViewPlace {
  const share = 1 - 2 * margin;
  const scale = Math.min(
    (room.width * share) / (content.x1 - content.x0),
    (room.height * share) / (content.y1 - content.y0),
  );
  return { scale, x: (content.x0 + content.x1) / 2, y: (content.y0 + content.y1) / 2 };
}

/** At its own size a picture lies px on px: half a px beside them it would be seen softer than it is. */
const onPx = (at: number, scale: number): number => (scale === 1 ? Math.round(at) : at);

export const fitAt = (
  { scale, x, y }: ViewPlace,
  room: ElementSize,
  frame: { readonly widthPx: number; readonly heightPx: number },
): PictureFit => ({
  left: onPx(room.width / 2 - x * scale, scale),
  top: onPx(room.height / 2 - y * scale, scale),
  width: frame.widthPx * scale,
  height: frame.heightPx * scale,
  scale,
});

/** The place after zooming to `scale` about a point of the room (CSS px), which stays where it is. */
export function zoomedPlace(from: ViewPlace, room: ElementSize, scale: number, about: Point): ViewPlace {
  const [dx, dy] = [about.x - room.width / 2, about.y - room.height / 2];
  return {
    scale,
    x: from.x + dx / from.scale - dx / scale,
    y: from.y + dy / from.scale - dy / scale,
  };
}

/** The place after two points of the room (CSS px) have gone from `before` to `after`, with what was under them. */
export function pinchedPlace(
  from: ViewPlace,
  room: ElementSize,
  before: readonly [Point, Point],
  after: readonly [Point, Point],
): ViewPlace {
  const middle = ([p, q]: readonly [Point, Point]) => ({ x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 });
  const apart = ([p, q]: readonly [Point, Point]) => Math.max(1, Math.hypot(p.x - q.x, p.y - q.y));
  const zoomed = zoomedPlace(from, room, from.scale * (apart(after) / apart(before)), middle(before));
  const [a, b] = [middle(before), middle(after)];
  return { ...zoomed, x: zoomed.x - (b.x - a.x) / zoomed.scale, y: zoomed.y - (b.y - a.y) / zoomed.scale };
}

/** Frame px to device px of the picture. */
export const frameToDevice = (fit: Pick<PictureFit, 'left' | 'top' | 'scale'>, pixelRatio: number): Affine =>
  compose(scaling(pixelRatio), compose(translation(fit.left, fit.top), scaling(fit.scale)));
