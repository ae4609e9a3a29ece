import type { BlendMode } from '../../paint/index.ts';
import {
  type ArtRef,
  type Content,
  type Exposure,
  LIMITS,
  type Plane,
  type PlaneId,
  type Scene,
} from '../../scene/index.ts';
import { newPlane } from '../../staging/content/index.ts';
import { cleanName } from '../../units/index.ts';

/** A layer as the painting had it: its upper left corner in px of a painting of the given size. */
export interface PaintedLayer {
  readonly name: string;
  readonly group: string | null;
  /** One still image, or the exposures of a moving one. */
  readonly art: ArtRef;
  readonly moving: { readonly exposures: readonly Exposure[]; readonly rate: Scene['rate'] | null } | null;
  readonly xPx: number;
  readonly yPx: number;
  readonly opacity: number;
  readonly hidden: boolean;
  /** How it is laid over what is behind it; as paint where nothing is said. */
  readonly mode?: BlendMode | undefined;
  readonly file: string;
  readonly paintingWidthPx: number;
  readonly paintingHeightPx: number;
}

export const FITS = ['as-painted', 'fit-width', 'fit-height', 'cover'] as const;
export type Fit = (typeof FITS)[number];

/** How a whole painting is put on the datum: its size against the frame, and where its centre goes. */
export interface PaintingPlace {
  readonly fit: Fit;
  readonly offsetXSpx: number;
  readonly offsetYSpx: number;
}
export const AS_PAINTED: PaintingPlace = { fit: 'as-painted', offsetXSpx: 0, offsetYSpx: 0 };

interface Size {
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Half a px of the border fades out when art is enlarged: as much more puts the fading outside the frame. */
const beyondBorder = (scale: number, sizePx: number): number =>
  scale > 1 && sizePx > 1 ? (scale * sizePx) / (sizePx - 1) : scale;

/** Stage px per painted px. */
export function fitScale(fit: Fit, painting: Size, frame: Size): number {
  const [wide, high] = [frame.widthPx / painting.widthPx, frame.heightPx / painting.heightPx];
  switch (fit) {
    case 'as-painted':
      return 1;
    case 'fit-width':
      return wide;
    case 'fit-height':
      return high;
    case 'cover':
      return Math.max(beyondBorder(wide, painting.widthPx), beyondBorder(high, painting.heightPx));
  }
}

const contentOf = ({ art, moving }: PaintedLayer): Content =>
  moving
    ? { kind: 'moving', exposures: [...moving.exposures], cycle: 'loop', startFrame: 1, rate: moving.rate }
    : { kind: 'still', art, made: null };

/**
 * A plane on the datum, with the painting's centre on the axis of the home camera unless `place` says otherwise.
 * As painted, one art px is one output px; every fit keeps the layers of a painting in place to one another.
 */
export function planeFromLayer(
  id: PlaneId,
  layer: PaintedLayer,
  frame?: Size,
  place: PaintingPlace = AS_PAINTED,
): Plane {
  const { widthPx, heightPx } = layer.art;
  const painting = { widthPx: layer.paintingWidthPx, heightPx: layer.paintingHeightPx };
  const scale = frame ? fitScale(place.fit, painting, frame) : 1;
  const plane = newPlane(id, layer.name, contentOf(layer));
  return {
    ...plane,
    group: layer.group,
    origin: {
      file: layer.file,
      layer:
        layer.group === null
          ? layer.name
          : cleanName(`${layer.group} / ${layer.name}`, LIMITS.nameLength.max),
      xPx: layer.xPx,
      yPx: layer.yPx,
      paintingWidthPx: painting.widthPx,
      paintingHeightPx: painting.heightPx,
    },
    transform: {
      ...plane.transform,
      xSpx: place.offsetXSpx + scale * (layer.xPx + widthPx / 2 - painting.widthPx / 2),
      ySpx: place.offsetYSpx + scale * (layer.yPx + heightPx / 2 - painting.heightPx / 2),
      scaleX: scale,
      scaleY: scale,
    },
    opacity: layer.opacity,
    hidden: layer.hidden,
    ...(layer.mode ? { mode: layer.mode } : {}),
  };
}
