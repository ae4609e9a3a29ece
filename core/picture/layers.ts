import {
  type Affine,
  applyAffine,
  type Box,
  compose,
  greatestScale,
  IDENTITY,
  invertAffine,
  leastScale,
  mapBox,
  scaling,
  translation,
} from '../geometry/index.ts';
import { mipCount, mipLevelFor, mipSizePx } from '../image/index.ts';
import type { ColourMatrix, Triple } from '../paint/index.ts';
import { factsOfShown, type Shown } from '../staging/content/index.ts';
import type { FramePlan, PlanePlan } from '../staging/frame/index.ts';
import { kernelVariance, readingOf, widestStep } from './filter/index.ts';
import { blurIn, reducedFrame } from './group-frame.ts';
import type { Beyond, GroupLayer, ImageLayer, LayerMode, LevelRead, RenderLayer } from './layer.ts';
import { type LayerLook, layerLook, type Vignette } from './layer-look.ts';
import { tiledPathLayers } from './paths/path-layers.ts';
import { readOn } from './read-on.ts';
import { edgeOfArt } from './soft-edge.ts';
import type { RenderView } from './view.ts';

/** The layers of a plan that leave a mark, far to near. Singular maps and clear planes drop out. */
export function renderLayers(plan: FramePlan, view: RenderView): RenderLayer[] {
  const vignette = vignetteIn(plan, view);
  const onEach = plan.light ? null : vignette;
  const layers = plan.planes.map((plane) => planeLayers(plane, plan, view, onEach));
  const nearest = plan.planes.findLastIndex((plane) => plane.look.filtered);
  const filtered = layers.slice(0, nearest + 1).flat();
  const before = layers.slice(nearest + 1).flat();
  const lit = plan.light ? underLight(filtered, plan.light, view, vignette) : filtered;
  const glow = plan.glow > 0 && nearest >= 0 ? [glowLayer(plan, view, vignette)] : [];
  return [...lit, ...glow, ...before];
}

/** Layers as one picture, as bright as the filter lets them through. */
function underLight(
  inner: readonly RenderLayer[],
  [red, green, blue]: Triple,
  { widthPx, heightPx }: RenderView,
  vignette: Vignette | null,
): RenderLayer[] {
  const isPlain = red === 1 && green === 1 && blue === 1;
  if (inner.length === 0 || (isPlain && !vignette)) return [...inner];
  const matrix: ColourMatrix | null = isPlain ? null : [red, 0, 0, 0, green, 0, 0, 0, blue];
  return [
    {
      kind: 'group',
      inner,
      widthPx,
      heightPx,
      imageToGroup: IDENTITY,
      gaussianSigmaPx: 0,
      discRadiusPx: 0,
      look: { matrix, curve: null, vignette },
      opacity: 1,
      mode: 'paint',
    },
  ];
}

/**
 * What is laid over by light is not hazed: air takes of its light. A shadow or a lamp far off is that much weaker, and
 * none where nothing comes through.
 */
function throughAirAs(plane: DrawnPlane): DrawnPlane {
  const { air } = plane.look;
  if (plane.mode === 'paint' || !air || air.transmission === 1) return plane;
  const gains = air.gain.some((gain) => gain !== 1);
  const look = { ...plane.look, air: gains ? { ...air, transmission: 1 } : null };
  return { ...plane, opacity: plane.opacity * air.transmission, look };
}

/** Planes whose art is smaller on the image than this leave no mark. */
const LEAST_SHOWN_PX = 1 / 512;

type DrawnPlane = Extract<PlanePlan, { state: 'drawn' }>;

type PlanSize = Pick<FramePlan, 'widthPx' | 'heightPx'>;

/** `smooth`: for a picture that is reduced, to be blurred. */
function planeLayers(
  planned: PlanePlan,
  size: PlanSize,
  view: RenderView,
  vignette: Vignette | null,
  smooth = false,
): RenderLayer[] {
  if (planned.state !== 'drawn' || planned.opacity <= 0) return [];
  const plane = throughAirAs(planned);
  const blur = blurIn(plane, view);
  // Shapes are laid over one by one: where all of them are to be as one, they are drawn by themselves first.
  const asOne =
    plane.shown.kind === 'paths' &&
    (plane.mode !== 'paint' || (plane.opacity < 1 && plane.shown.paths.length > 1));
  const softened = plane.softEdgePx > 0 && plane.shown.kind === 'image';
  if (!blur && !asOne && !softened)
    return sharpLayers(plane, view, layerLook(plane.look, vignette), { smooth, beyond: null });
  // What comes in from its edge has no paint at its border that could go on.
  const beyond = blur && !softened && plane.repeat === 'none' ? readOn(plane, size) : null;
  const group = blur
    ? reducedFrame(view, blur, paintedOnImage(plane, view, beyond))
    : { frame: { ...view, imageToGroup: IDENTITY, cell: 1 }, blur: { sigmaPx: 0, radiusPx: 0 } };
  if (!group) return [];
  const { frame, blur: reduced } = group;
  const drawing = { smooth: smooth || frame.cell > 1, beyond };
  const painted = sharpLayers(
    { ...plane, opacity: 1, mode: 'paint' },
    frame,
    layerLook(plane.look, null),
    drawing,
  );
  if (painted.length === 0) return [];
  const inner = softened ? [...painted, ...edgeLayers(plane, frame)] : painted;
  return [
    {
      kind: 'group',
      inner,
      widthPx: frame.widthPx,
      heightPx: frame.heightPx,
      imageToGroup: frame.imageToGroup,
      gaussianSigmaPx: withoutOwnBlur(reduced.sigmaPx, inner, frame.cell),
      discRadiusPx: reduced.radiusPx,
      look: plane.look.filtered && vignette ? { matrix: null, curve: null, vignette } : null,
      opacity: plane.opacity,
      mode: plane.mode,
    },
  ];
}

/** What takes the alpha of a plane in from its edge, to be drawn over the plane alone. */
function edgeLayers(plane: DrawnPlane, view: RenderView): RenderLayer[] {
  const { shown, repeat } = plane;
  if (shown.kind !== 'image') return [];
  const art = { ...shown.art, id: edgeOfArt(shown.art.id, repeat) };
  const mask = { ...plane, shown: { ...shown, art }, opacity: 1, mode: 'within' as const };
  // Distances are level ground: there is nothing to sharpen.
  return sharpLayers(mask, view, null, { smooth: true, beyond: null });
}

/** The variance of one px, px²: what a path is softened by at its border. */
const PX_VARIANCE = 1 / 12;

/** What reading has softened a layer by, px² of the picture that it is drawn in. */
function ownVariance(layer: RenderLayer | undefined): number {
  if (layer?.kind !== 'image') return PX_VARIANCE;
  const { stepV, passV } = readingOf(layer.imageToLevel, layer.smooth);
  if (stepV <= 1) return 0;
  // A texel of a coarser level is itself the mean of so many.
  const texel = (1 - 4 ** -layer.level) / 12;
  return (kernelVariance(passV) + texel) / (stepV * stepV);
}

/** What a Gaussian must still do in a picture reduced to 1/cell, beyond what the sharp picture would have had by itself. */
function withoutOwnBlur(sigmaPx: number, inner: readonly RenderLayer[], cell: number): number {
  if (sigmaPx <= 0) return 0;
  const own = ownVariance(inner[0]);
  return Math.sqrt(Math.max(0, sigmaPx * sigmaPx - own * (1 - 1 / (cell * cell))));
}

/** Bounds of a plane's paint in image px, with what is read on beyond it; null where it is tiled without end. */
function paintedOnImage(plane: DrawnPlane, view: RenderView, beyond: Beyond | null): Box | null {
  if (plane.repeat !== 'none') return null;
  const facts = factsOfShown(plane.shown);
  const { x0, y0, x1, y1 } = facts.painted ?? { x0: 0, y0: 0, x1: facts.widthPx, y1: facts.heightPx };
  const { left, right, top, bottom } = beyond ?? { left: 0, right: 0, top: 0, bottom: 0 };
  const box = { x0: x0 - left, y0: y0 - top, x1: x1 + right, y1: y1 + bottom };
  return mapBox(compose(view.frameToImage, plane.artToFrame), box);
}

interface Drawing {
  readonly smooth: boolean;
  readonly beyond: Beyond | null;
}

function sharpLayers(
  plane: Omit<DrawnPlane, 'mode'> & { readonly mode: LayerMode },
  view: RenderView,
  look: LayerLook | null,
  drawing: Drawing,
): RenderLayer[] {
  const artToImage = compose(view.frameToImage, plane.artToFrame);
  const imageToArt = invertAffine(artToImage);
  if (!imageToArt) return [];
  const { shown } = plane;
  if (shown.kind === 'paths') {
    const grown = drawing.beyond ? compose(artToImage, stretched(shown.facts, drawing.beyond)) : artToImage;
    return tiledPathLayers(shown, grown, plane, view, look);
  }
  const { widthPx, heightPx } = shown.art;
  const vanishes =
    plane.repeat === 'none' && leastScale(artToImage) * Math.max(widthPx, heightPx) < LEAST_SHOWN_PX;
  return vanishes ? [] : [imageLayer(shown.art, artToImage, imageToArt, plane, look, drawing)];
}

/** Takes a card to what it is with its paint read on beyond its sides. */
function stretched({ widthPx, heightPx }: PlanSize, { left, right, top, bottom }: Beyond): Affine {
  const [wide, high] = [(widthPx + left + right) / widthPx, (heightPx + top + bottom) / heightPx];
  return compose(translation(-left, -top), scaling(wide, high));
}

function vignetteIn(plan: FramePlan, view: RenderView): Vignette | null {
  if (plan.vignette <= 0) return null;
  const { x: centreX, y: centreY } = applyAffine(view.frameToImage, {
    x: plan.widthPx / 2,
    y: plan.heightPx / 2,
  });
  const halfDiagonalPx = (leastScale(view.frameToImage) * Math.hypot(plan.widthPx, plan.heightPx)) / 2;
  return { strength: plan.vignette, centreX, centreY, halfDiagonalPx };
}

/** Standard deviation of the glow, as a share of the frame's width. */
const GLOW_SHARE = 0.015;

/** What is bright of all that the filter lies over, by its square, blurred, to be screened over it. */
function glowLayer(plan: FramePlan, view: RenderView, vignette: Vignette | null): GroupLayer {
  const reduced = reducedFrame(
    view,
    { sigmaPx: GLOW_SHARE * plan.widthPx * leastScale(view.frameToImage), radiusPx: 0 },
    null,
  );
  if (!reduced) throw new Error('A view shows itself');
  const { frame, blur } = reduced;
  const { widthPx, heightPx } = frame;
  const planes = plan.planes.flatMap((plane) =>
    plane.look.filtered ? planeLayers(plane, plan, frame, null, frame.cell > 1) : [],
  );
  const plain = { kind: 'group', widthPx, heightPx, discRadiusPx: 0 } as const;
  const lit = plan.light ? underLight(planes, plan.light, frame, null) : planes;
  // Squared before it is blurred: a lamp counts by what it is, not by what is left of it.
  const squared: GroupLayer = {
    ...plain,
    inner: lit,
    imageToGroup: IDENTITY,
    gaussianSigmaPx: 0,
    look: { matrix: null, curve: { kind: 'glow' }, vignette: null },
    opacity: 1,
    mode: 'paint',
  };
  return {
    ...plain,
    inner: [squared],
    imageToGroup: frame.imageToGroup,
    gaussianSigmaPx: blur.sigmaPx,
    look: vignette ? { matrix: null, curve: null, vignette } : null,
    opacity: plan.glow,
    mode: 'screen',
  };
}

type Art = Extract<Shown, { kind: 'image' }>['art'];

type Drawn = Pick<PlanePlan, 'opacity' | 'repeat' | 'softEdgePx'> & { readonly mode: LayerMode };

function imageLayer(
  art: Art,
  artToImage: Affine,
  imageToArt: Affine,
  { opacity, repeat, mode, softEdgePx }: Drawn,
  look: LayerLook | null,
  { smooth, beyond }: Drawing,
): ImageLayer {
  const { id: artId, widthPx, heightPx } = art;
  const levels = mipCount(widthPx, heightPx);
  const scale = greatestScale(artToImage) * (smooth ? LEAST_SMOOTH_STEP : LEAST_STEP);
  const finest = mipLevelFor(scale, levels);
  // What is squashed is read at the level of its finer axis, as far as the kernel can widen along the other.
  const squashed = mipLevelFor((widestStep(smooth) / 2) * leastScale(artToImage), levels);
  const level = Math.max(finest, squashed);
  const read = (at: number): LevelRead => ({
    level: at,
    imageToLevel: compose(
      scaling(mipSizePx(widthPx, at) / widthPx, mipSizePx(heightPx, at) / heightPx),
      imageToArt,
    ),
  });
  const weight = level + 1 < levels && level === finest ? blendWeight(scale, level) : 0;
  const blend = weight > 0 ? { ...read(level + 1), weight } : null;
  return {
    kind: 'image',
    artId,
    widthPx,
    heightPx,
    ...read(level),
    blend,
    look,
    opacity,
    beyond,
    smooth,
    mode,
    softEdgePx,
    repeat,
  };
}

/**
 * Least texels to an output px of every level but the finest. Nearer to one of them for each px the kernel lets through what
 * falls on it and dims what falls between, so that detail would beat as a truck comes past a half, a quarter, an eighth.
 */
const LEAST_STEP = 8 / 7;

/** The same of what will be blurred: a level's texel stands for what is anywhere in it, which a finer one tells better. */
const LEAST_SMOOTH_STEP = 5 / 2;

/** The last part of a level's octave, over which the next coarser one is mixed in, so that nothing jumps in a truck. */
const BLEND_OCTAVES = 0.3;

/** Share of the next coarser level: 0 through most of the octave, for sharpness, rising to 1 where that level takes over. */
const blendWeight = (scale: number, level: number): number =>
  Math.min(1, Math.max(0, (Math.log2(1 / scale) - level - 1 + BLEND_OCTAVES) / BLEND_OCTAVES));
