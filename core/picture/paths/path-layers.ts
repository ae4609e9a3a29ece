import {
  type Affine,
  type Box,
  compose,
  IDENTITY,
  invertAffine,
  mapBox,
  scaling,
  translation,
} from '../../geometry/index.ts';
import { boxToGradient } from '../../paint/index.ts';
import { type Outline, outlinesBox, parsePath } from '../../shapes/index.ts';
import type { PaintedPath, Shown } from '../../staging/content/index.ts';
import type { PlanePlan } from '../../staging/frame/index.ts';
import { repeatsAcross, repeatsDown } from '../../staging/index.ts';
import { memo } from '../../units/index.ts';
import type { PathLayer } from '../layer.ts';
import type { LayerLook } from '../layer-look.ts';
import type { RenderView } from '../view.ts';
import { joinEdges, type PathEdges, pathEdges } from './path-edges.ts';

interface ReadPath {
  readonly outlines: readonly Outline[];
  readonly box: Box | null;
}

/** The outlines of a path and their bounds, read once: the same path is drawn frame after frame. */
const readOutlines = memo((painted: PaintedPath): ReadPath => {
  const parsed = parsePath(painted.path);
  const outlines = parsed.ok ? parsed.value : [];
  return { outlines, box: outlinesBox(outlines) };
});

/** Copies of a tiled plane that are narrower than this are drawn wider: no px can tell them apart, px. */
const LEAST_COPY_PX = 0.25;

/** Copies of one tiled plane in one picture: past this they are drawn larger, so that the work stays bounded. */
const MOST_COPIES = 262_144;

/** Where along one axis copies stand, art px, and how many times wider than they are they are drawn. */
interface Copies {
  readonly at: readonly number[];
  readonly wider: number;
}

/** Copies of paint [p0, p1] with `period` that reach into [from, to], art px. */
function copiesAlong(
  [from, to]: readonly [number, number],
  [p0, p1]: readonly [number, number],
  period: number,
  wider: number,
): Copies {
  const step = period * wider;
  const first = Math.ceil((from - p1 * wider) / step);
  const count = Math.max(0, Math.floor((to - p0 * wider) / step) - first + 1);
  return { at: Array.from({ length: count }, (_, i) => (first + i) * step), wider };
}

const ONE_COPY: Copies = { at: [0], wider: 1 };

/** A tiled plane of paths is drawn copy by copy, all that the view shows. */
export function tiledPathLayers(
  shown: Extract<Shown, { kind: 'paths' }>,
  artToImage: Affine,
  { opacity, repeat }: Pick<PlanePlan, 'opacity' | 'repeat'>,
  view: RenderView,
  look: LayerLook | null,
): PathLayer[] {
  const back = invertAffine(artToImage);
  if (!back) return [];
  const { widthPx, heightPx, painted } = shown.facts;
  if (repeat === 'none' || !painted) return pathLayers(shown, [artToImage], opacity, view, look);
  const seen = mapBox(back, { x0: 0, y0: 0, x1: view.widthPx, y1: view.heightPx });
  const widenedBy = (period: number, perArtPx: number) =>
    Math.max(1, Math.ceil(LEAST_COPY_PX / (period * perArtPx)));
  const along = (wider: number): { across: Copies; down: Copies } => {
    const { a, b, c, d } = artToImage;
    const x = wider * widenedBy(widthPx, Math.hypot(a, b));
    const y = wider * widenedBy(heightPx, Math.hypot(c, d));
    return {
      across: repeatsAcross(repeat)
        ? copiesAlong([seen.x0, seen.x1], [painted.x0, painted.x1], widthPx, x)
        : ONE_COPY,
      down: repeatsDown(repeat)
        ? copiesAlong([seen.y0, seen.y1], [painted.y0, painted.y1], heightPx, y)
        : ONE_COPY,
    };
  };
  let wider = 1;
  const count = (axis: Copies) => axis.at.length;
  for (let got = along(wider); count(got.across) * count(got.down) > MOST_COPIES; got = along(wider))
    wider *= 2;
  const { across, down } = along(wider);
  return down.at.flatMap((y) =>
    pathLayers(
      shown,
      across.at.map((x) =>
        compose(artToImage, compose(translation(x, y), scaling(across.wider, down.wider))),
      ),
      opacity,
      view,
      look,
    ),
  );
}

/**
 * Far to near (the list of paths has the nearest first), once for each map from art to image. Even paint is one layer
 * for all of them; a gradient, which lies differently in each, is a layer a copy.
 */
function pathLayers(
  shown: Extract<Shown, { kind: 'paths' }>,
  artToImage: readonly Affine[],
  opacity: number,
  view: RenderView,
  look: LayerLook | null,
): PathLayer[] {
  return shown.paths.toReversed().flatMap((painted): PathLayer[] => {
    const { paint } = painted;
    const { outlines, box } = readOutlines(painted);
    if (!box) return [];
    const edgesOf = (map: Affine) => pathEdges(outlines, map, view.widthPx, view.heightPx);
    const layerOf = (edges: PathEdges, imageToGradient: Affine): PathLayer[] =>
      edges.length === 0 ? [] : [{ kind: 'path', edges, paint, imageToGradient, look, opacity }];
    if (paint.kind === 'solid') return layerOf(joinEdges(artToImage.map(edgesOf)), IDENTITY);
    const { x0: x, y0: y, x1, y1 } = box;
    const artToGradient = boxToGradient(paint, { x, y, widthPx: x1 - x, heightPx: y1 - y });
    return artToImage.flatMap((map) => {
      const back = invertAffine(map);
      return back ? layerOf(edgesOf(map), compose(artToGradient, back)) : [];
    });
  });
}
