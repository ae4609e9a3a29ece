import type { Affine } from '../geometry/index.ts';
import type { Side } from '../image/index.ts';
import type { BlendMode, Paint } from '../paint/index.ts';
import type { ArtId, Repeat } from '../scene/index.ts';
import type { LayerLook } from './layer-look.ts';
import type { PathEdges } from './paths/path-edges.ts';

/** A mip level to sample. */
export interface LevelRead {
  readonly level: number;
  /** Image px to texels of that level, both continuous (pixel i covers [i, i + 1)). */
  readonly imageToLevel: Affine;
}

/** A length at each side of the art. */
export type Beyond = Readonly<Record<Side, number>>;

/** As planes are laid over; `within`: what is behind is kept as far in from the edge as the image says. */
export type LayerMode = BlendMode | 'within';

/** One drawn image, resolved for one view. */
export interface ImageLayer extends LevelRead {
  readonly kind: 'image';
  readonly artId: ArtId;
  readonly widthPx: number;
  readonly heightPx: number;
  /** The next coarser level, mixed in by `weight` (0 to 1) where one level gives way to the other. */
  readonly blend: (LevelRead & { readonly weight: number }) | null;
  readonly look: LayerLook | null;
  /** 0 to 1. */
  readonly opacity: number;
  /** Art px by which the paint is read on beyond each side, as if it went on; null where it ends with the art. */
  readonly beyond: Beyond | null;
  /** Weighed for what will be blurred: `smoothPass`. */
  readonly smooth: boolean;
  /** How it is laid over what is behind it. */
  readonly mode: LayerMode;
  /** Of distances to the edge (`within`): art px over which what is behind comes in. */
  readonly softEdgePx: number;
  /** Along which axes of the level reading comes round again instead of ending. */
  readonly repeat: Repeat;
}

/** One filled path, resolved for one view: drawn from its outline, so it is sharp at any size. */
export interface PathLayer {
  readonly kind: 'path';
  readonly edges: PathEdges;
  readonly paint: Paint;
  /** Image px to the plane of the gradient; the identity for a solid. */
  readonly imageToGradient: Affine;
  readonly look: LayerLook | null;
  readonly opacity: number;
}

/** Layers drawn by themselves first, on a clear ground, then blurred, then laid over as one picture. */
export interface GroupLayer {
  readonly kind: 'group';
  /** Far to near, resolved for a view of their own. */
  readonly inner: readonly RenderLayer[];
  readonly widthPx: number;
  readonly heightPx: number;
  /** Image px to px of the group's own picture. */
  readonly imageToGroup: Affine;
  /** In px of the group's picture; 0 leaves it sharp. */
  readonly gaussianSigmaPx: number;
  readonly discRadiusPx: number;
  readonly look: LayerLook | null;
  readonly opacity: number;
  readonly mode: BlendMode;
}

export type RenderLayer = ImageLayer | PathLayer | GroupLayer;

/** Every group among the layers and within groups, each after those that it holds. */
export const groupsIn = (layers: readonly RenderLayer[]): GroupLayer[] =>
  layers.flatMap((layer) => (layer.kind === 'group' ? [...groupsIn(layer.inner), layer] : []));

/** Clear air bends nothing: it stands between a grade and a filter alone. */
const bends = (curve: LayerLook['curve']): boolean =>
  curve !== null && !(curve.kind === 'air' && curve.transmission === 1);

/** Whether the layers hold a gradient, a blur, air or a vignette, whose slow steps would show as bands if they were rounded to the nearest. */
export const needsDither = (layers: readonly RenderLayer[]): boolean =>
  layers.some(
    (layer) =>
      (layer.kind === 'group' &&
        (layer.gaussianSigmaPx > 0 || layer.discRadiusPx > 0 || needsDither(layer.inner))) ||
      (layer.kind === 'path' && layer.paint.kind !== 'solid') ||
      (layer.look !== null && (bends(layer.look.curve) || layer.look.vignette !== null)),
  );

/** Where the image begins and ends in texels of a level: with its border, or further where its paint is read on beyond it. */
export function levelBounds(
  { widthPx, heightPx, beyond }: Pick<ImageLayer, 'widthPx' | 'heightPx' | 'beyond'>,
  level: { readonly widthPx: number; readonly heightPx: number },
): Record<Side, number> {
  const { left, right, top, bottom } = beyond ?? NOTHING_BEYOND;
  return {
    left: 0 - (left * level.widthPx) / widthPx,
    right: ((widthPx + right) * level.widthPx) / widthPx,
    top: 0 - (top * level.heightPx) / heightPx,
    bottom: ((heightPx + bottom) * level.heightPx) / heightPx,
  };
}

const NOTHING_BEYOND = { left: 0, right: 0, top: 0, bottom: 0 };
