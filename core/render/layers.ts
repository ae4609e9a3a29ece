import type { ArtId, PaintedPath, Shown } from '../document/index.ts';
import {
  type Affine,
  type Box,
  compose,
  IDENTITY,
  invertAffine,
  leastScale,
  scaling,
} from '../geometry/index.ts';
import { mipCount, mipLevelFor } from '../image/index.ts';
import { boxToGradient, type Paint } from '../look/index.ts';
import { type Outline, outlinesBox, parsePath } from '../shapes/index.ts';
import type { FramePlan } from '../shot/index.ts';
import { type PathEdges, pathEdges } from './path-edges.ts';

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

/** One drawn image, resolved for one view. */
export interface ImageLayer {
  readonly kind: 'image';
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

/** One filled path, resolved for one view: drawn from its outline, so it is sharp at any size. */
export interface PathLayer {
  readonly kind: 'path';
  readonly edges: PathEdges;
  readonly paint: Paint;
  /** Image px to the plane of the gradient; the identity for a solid. */
  readonly imageToGradient: Affine;
  readonly opacity: number;
}
export type RenderLayer = ImageLayer | PathLayer;

/** The layers of a plan that leave a mark, far to near. Singular maps and clear planes drop out. */
export function renderLayers(plan: FramePlan, view: RenderView): RenderLayer[] {
  return plan.planes.flatMap((plane): RenderLayer[] => {
    if (plane.state !== 'drawn' || plane.opacity <= 0) return [];
    const artToImage = compose(view.frameToImage, plane.artToFrame);
    const imageToArt = invertAffine(artToImage);
    if (!imageToArt) return [];
    return plane.shown.kind === 'image'
      ? [imageLayer(plane.shown.art, artToImage, imageToArt, plane.opacity)]
      : pathLayers(plane.shown, artToImage, imageToArt, plane.opacity, view);
  });
}

type Art = Extract<Shown, { kind: 'image' }>['art'];

function imageLayer(art: Art, artToImage: Affine, imageToArt: Affine, opacity: number): ImageLayer {
  const { id: artId, widthPx, heightPx } = art;
  const level = mipLevelFor(leastScale(artToImage), mipCount(widthPx, heightPx));
  const imageToLevel = compose(scaling(1 / 2 ** level), imageToArt);
  return { kind: 'image', artId, widthPx, heightPx, level, imageToLevel, opacity };
}

interface ReadPath {
  readonly outlines: readonly Outline[];
  readonly box: Box | null;
}
const readPaths = new WeakMap<PaintedPath, ReadPath>();

/** The outlines of a path and their bounds, read once: the same path is drawn frame after frame. */
function readOutlines(painted: PaintedPath): ReadPath {
  const known = readPaths.get(painted);
  if (known) return known;
  const parsed = parsePath(painted.path);
  const outlines = parsed.ok ? parsed.value : [];
  const read = { outlines, box: outlinesBox(outlines) };
  readPaths.set(painted, read);
  return read;
}

/** Far to near: the list of paths has the nearest first. */
function pathLayers(
  shown: Extract<Shown, { kind: 'paths' }>,
  artToImage: Affine,
  imageToArt: Affine,
  opacity: number,
  view: RenderView,
): PathLayer[] {
  return shown.paths.toReversed().flatMap((painted): PathLayer[] => {
    const { paint } = painted;
    const { outlines, box } = readOutlines(painted);
    if (!box) return [];
    const edges = pathEdges(outlines, artToImage, view.widthPx, view.heightPx);
    if (edges.length === 0) return [];
    const { x0: x, y0: y, x1, y1 } = box;
    const imageToGradient =
      paint.kind === 'solid'
        ? IDENTITY
        : compose(boxToGradient(paint, { x, y, widthPx: x1 - x, heightPx: y1 - y }), imageToArt);
    return [{ kind: 'path', edges, paint, imageToGradient, opacity }];
  });
}

/** Whether the layers hold a gradient, whose slow steps would show as bands if they were rounded to the nearest. */
export const needsDither = (layers: readonly RenderLayer[]): boolean =>
  layers.some((layer) => layer.kind === 'path' && layer.paint.kind !== 'solid');
