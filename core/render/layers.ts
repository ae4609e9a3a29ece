import {
  type ArtId,
  type PaintedPath,
  type Repeat,
  repeatsAcross,
  repeatsDown,
  type Shown,
} from '../document/index.ts';
import {
  type Affine,
  type Box,
  compose,
  IDENTITY,
  invertAffine,
  leastScale,
  mapBox,
  scaling,
  translation,
} from '../geometry/index.ts';
import { mipCount, mipLevelFor } from '../image/index.ts';
import { boxToGradient, type Paint } from '../look/index.ts';
import { type Outline, outlinesBox, parsePath } from '../shapes/index.ts';
import type { FramePlan, PlanePlan } from '../shot/index.ts';
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
      ? [imageLayer(plane.shown.art, artToImage, imageToArt, plane)]
      : tiledPathLayers(plane.shown, artToImage, plane, view);
  });
}

type Art = Extract<Shown, { kind: 'image' }>['art'];

type Drawn = Pick<PlanePlan, 'opacity' | 'repeat'>;

function imageLayer(
  art: Art,
  artToImage: Affine,
  imageToArt: Affine,
  { opacity, repeat }: Drawn,
): ImageLayer {
  const { id: artId, widthPx, heightPx } = art;
  const wanted = mipLevelFor(leastScale(artToImage), mipCount(widthPx, heightPx));
  const level = Math.min(wanted, repeatLevels(art, repeat));
  const imageToLevel = compose(scaling(1 / 2 ** level), imageToArt);
  return { kind: 'image', artId, widthPx, heightPx, level, imageToLevel, opacity, repeat };
}

/**
 * The coarsest level at which a tiled image still has a whole number of texels, so that its seam stays where it is:
 * how often 2 divides the size along which it repeats.
 */
export function repeatLevels(
  { widthPx, heightPx }: Pick<Art, 'widthPx' | 'heightPx'>,
  repeat: Repeat,
): number {
  const twos = (size: number) => Math.log2(size & -size);
  return Math.min(
    repeatsAcross(repeat) ? twos(widthPx) : Number.POSITIVE_INFINITY,
    repeatsDown(repeat) ? twos(heightPx) : Number.POSITIVE_INFINITY,
  );
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

/** Copies beyond this many are too small to tell apart. */
const MOST_COPIES = 400;

/** A tiled plane of paths is drawn copy by copy, as many as the view shows. */
function tiledPathLayers(
  shown: Extract<Shown, { kind: 'paths' }>,
  artToImage: Affine,
  { opacity, repeat }: Drawn,
  view: RenderView,
): PathLayer[] {
  const back = invertAffine(artToImage);
  if (!back) return [];
  const { widthPx, heightPx, painted } = shown.facts;
  if (repeat === 'none' || !painted) return pathLayers(shown, artToImage, back, opacity, view);
  const seen = mapBox(back, { x0: 0, y0: 0, x1: view.widthPx, y1: view.heightPx });
  const copies = (from: number, to: number, p0: number, p1: number, period: number, tiled: boolean) => {
    const first = Math.ceil((from - p1) / period);
    const count = Math.max(0, Math.floor((to - p0) / period) - first + 1);
    return tiled ? Array.from({ length: Math.min(count, MOST_COPIES) }, (_, i) => (first + i) * period) : [0];
  };
  const across = copies(seen.x0, seen.x1, painted.x0, painted.x1, widthPx, repeatsAcross(repeat));
  const down = copies(seen.y0, seen.y1, painted.y0, painted.y1, heightPx, repeatsDown(repeat));
  return down.flatMap((y) =>
    across.flatMap((x) => {
      const copyToImage = compose(artToImage, translation(x, y));
      return pathLayers(shown, copyToImage, compose(translation(-x, -y), back), opacity, view);
    }),
  );
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
