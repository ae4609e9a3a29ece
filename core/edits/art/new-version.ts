import type { PxMap } from '../../geometry/index.ts';
import type { Origin, Plane, PlaneId, Scene } from '../../scene/index.ts';
import { planeOf, planesOf, withPlaneList } from '../../scene/records/index.ts';
import { factsOf } from '../../staging/content/index.ts';
import { withMovesScaled } from '../../staging/index.ts';
import { remountOrphans, tidyName, withPinsMapped } from '../planes/index.ts';
import { type CutAgain, type CutResult, changeCut, cutStepsOf, cutsOf } from './cut-plane.ts';
import { type PaintedLayer, planeFromLayer } from './place-art.ts';

/** Small pictures of art, for finding a layer whose name has changed: 8 × 8 RGBA, premultiplied, 0 to 255. */
export type Likeness = readonly number[];

/** What becomes of a plane or a layer when a changed painting comes in. */
export type LayerMatch =
  | { readonly kind: 'same-name' | 'same-likeness'; readonly planeId: PlaneId; readonly layerIndex: number }
  | { readonly kind: 'lost'; readonly planeId: PlaneId }
  | { readonly kind: 'added'; readonly layerIndex: number };

export interface NewVersion {
  readonly layers: readonly PaintedLayer[];
  readonly matches: readonly LayerMatch[];
  /** New ids for the added layers, by their index. */
  readonly idOf: (layerIndex: number) => PlaneId;
  readonly removeLost: boolean;
  /** Cuts that were made again on the new paint, in the order of `cutsToMake`. */
  readonly cuts?: readonly { readonly result: CutResult; readonly map: PxMap }[];
}

/** A cut of what came from a painting, to be made again on its next version. */
export interface CutToMake {
  readonly cut: CutAgain;
  /** The layer that the painting's plane takes; what is cut of a piece is cut of the new piece. */
  readonly layerIndex: number;
  /** From px of the painting before, of that layer, to px of it now. */
  readonly map: PxMap;
}

/** Which cuts are to be made again when a next version comes in, each after those whose pieces it cuts. */
export function cutsToMake(
  scene: Scene,
  layers: readonly PaintedLayer[],
  matches: readonly LayerMatch[],
): CutToMake[] {
  return matches.flatMap((match) => {
    if (match.kind === 'lost' || match.kind === 'added') return [];
    const plane = planeOf(scene, match.planeId);
    const layer = layers[match.layerIndex];
    const [first] = plane ? cutStepsOf(plane) : [];
    if (!plane || !layer || !first) return [];
    const map = pxMapOf(plane, planeFromLayer(plane.id, layer).origin as Origin);
    return cutsOf(scene, first.from.id).map((cut) => ({ cut, layerIndex: match.layerIndex, map }));
  });
}

function pxMapOf(plane: Plane, origin: Origin): PxMap {
  const before = plane.origin;
  if (!before) return { scale: 1, dxPx: 0, dyPx: 0 };
  const scale = origin.paintingWidthPx / before.paintingWidthPx;
  return { scale, dxPx: scale * before.xPx - origin.xPx, dyPx: scale * before.yPx - origin.yPx };
}

/** A canvas that an art was laid on to be painted over: its size, and where the art's upper left corner lies, art px. */
export interface PaintedOver {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly xPx: number;
  readonly yPx: number;
}

/** The scene in which a plane's art counts as cut from such a canvas: a next version of that canvas lands in place. */
export const onCanvas = (scene: Scene, id: PlaneId, file: string, canvas: PaintedOver): Scene =>
  withPlaneList(
    scene,
    planesOf(scene).map((plane): Plane => {
      if (plane.id !== id) return plane;
      const { widthPx, heightPx, xPx, yPx } = canvas;
      const painting = { paintingWidthPx: widthPx, paintingHeightPx: heightPx };
      return { ...plane, origin: { file, layer: plane.name, xPx, yPx, ...painting } };
    }),
  );

interface MatchOptions {
  readonly layerLikenesses: readonly (Likeness | null)[];
  readonly planeLikenesses: ReadonlyMap<PlaneId, Likeness>;
}

/** Mean difference a value (0 to 255) under which two looks are the same painting, touched up. */
export const SAME_LOOK = 26;

/**
 * Which layer of the changed painting is the next version of which plane: by the layer's name in its group, then by
 * its name alone, then tidied, then by look among those that are left, best pair first.
 */
export function matchLayers(
  planes: readonly Plane[],
  layers: readonly PaintedLayer[],
  { layerLikenesses, planeLikenesses }: MatchOptions,
): LayerMatch[] {
  const matches: LayerMatch[] = [];
  const openPlanes = new Set(planes);
  const openLayers = new Set(layers.map((_, i) => i));
  const pair = (kind: 'same-name' | 'same-likeness', plane: Plane, layerIndex: number) => {
    matches.push({ kind, planeId: plane.id, layerIndex });
    openPlanes.delete(plane);
    openLayers.delete(layerIndex);
  };
  const layerPath = ({ group, name }: PaintedLayer) => (group === null ? name : `${group} / ${name}`);
  const planePath = (plane: Plane) => plane.origin?.layer ?? plane.name;
  const lastPart = (path: string) => path.split(' / ').at(-1) ?? path;
  const keys: readonly (readonly [(plane: Plane) => string, (layer: PaintedLayer) => string])[] = [
    [planePath, layerPath],
    [(plane) => lastPart(planePath(plane)), (layer) => layer.name],
    [(plane) => tidyName(lastPart(planePath(plane))), (layer) => tidyName(layer.name)],
  ];
  for (const [ofPlane, ofLayer] of keys) {
    for (const plane of [...openPlanes]) {
      const index = [...openLayers].find((i) => ofLayer(layers[i] as PaintedLayer) === ofPlane(plane));
      if (index !== undefined) pair('same-name', plane, index);
    }
  }
  const byLook = [...openPlanes]
    .flatMap((plane) =>
      [...openLayers].map((index) => ({
        plane,
        index,
        apart: likenessApart(planeLikenesses.get(plane.id), layerLikenesses[index] ?? undefined),
      })),
    )
    .filter(({ apart: d }) => d <= SAME_LOOK)
    .sort((p, q) => p.apart - q.apart);
  for (const { plane, index } of byLook) {
    if (openPlanes.has(plane) && openLayers.has(index)) pair('same-likeness', plane, index);
  }
  for (const plane of openPlanes) matches.push({ kind: 'lost', planeId: plane.id });
  for (const layerIndex of openLayers) matches.push({ kind: 'added', layerIndex });
  return matches;
}

/** Mean difference a value, 0 to 255; infinite where there is nothing to compare. */
export function likenessApart(p: Likeness | undefined, q: Likeness | undefined): number {
  if (!p || !q || p.length !== q.length || p.length === 0) return Number.POSITIVE_INFINITY;
  return p.reduce((sum, value, i) => sum + Math.abs(value - (q[i] as number)), 0) / p.length;
}

/**
 * Puts the changed painting in: matched planes take the new art and keep everything else, each pixel of it where the
 * same pixel of the painting stood; added layers stand where their neighbour in the painting stands.
 */
export function applyNewVersion(scene: Scene, version: NewVersion): Scene {
  const { layers, matches, removeLost, cuts = [] } = version;
  const made = new Set(cuts.map(({ result }) => result.cutId));
  const layerOf = new Map<PlaneId, number>();
  const lost = new Set<PlaneId>();
  for (const match of matches) {
    if (match.kind === 'lost') lost.add(match.planeId);
    else if (match.kind !== 'added') layerOf.set(match.planeId, match.layerIndex);
  }
  const gone = removeLost ? lost : new Set<PlaneId>();
  const kept = planesOf(remountOrphans(scene, gone))
    .filter((plane) => !gone.has(plane.id))
    .map((plane) => {
      const index = layerOf.get(plane.id);
      if (index === undefined) return plane;
      const layer = layers[index] as PaintedLayer;
      // A piece of a cut takes the new piece, not all of the painting.
      const piece = cutStepsOf(plane).at(-1);
      return piece && made.has(piece.cutId)
        ? { ...plane, origin: planeFromLayer(plane.id, layer).origin }
        : withLayer(plane, layer);
    });
  const cut = cuts.reduce(
    (next, { result, map }) => changeCut(next, result, map),
    withPlaneList(scene, kept) as Scene,
  );
  const planes = withRidersKept(planesOf(scene), planesOf(cut));
  const planeOfLayer = new Map([...layerOf].map(([id, index]) => [index, id]));
  return matches.reduce((next, match) => {
    return match.kind === 'added' ? addLayer(next, version, match.layerIndex, planeOfLayer) : next;
  }, withPlaneList(scene, planes) as Scene);
}

/**
 * What rides on a plane counts in that plane's own px: where those have become finer, its numbers grow by as much, so
 * that it stays where it was on every frame, at its distance and size, and moves as far.
 */
function withRidersKept(before: readonly Plane[], after: readonly Plane[]): Plane[] {
  const sizes = new Map(before.map((plane) => [plane.id, plane.transform.scaleX]));
  const finer = new Map(after.map(({ id, transform }) => [id, (sizes.get(id) ?? 1) / transform.scaleX]));
  return after.map((plane) => {
    const factor = plane.mount.on === 'plane' ? (finer.get(plane.mount.plane) ?? 1) : 1;
    return factor === 1 ? plane : withMovesScaled(grown(plane, factor), factor);
  });
}

/** A plane with its depth, place and size on its carrier by a factor. */
const grown = (plane: Plane, factor: number): Plane => ({
  ...plane,
  depthSpx: plane.depthSpx * factor,
  transform: {
    ...plane.transform,
    xSpx: plane.transform.xSpx * factor,
    ySpx: plane.transform.ySpx * factor,
    scaleX: plane.transform.scaleX * factor,
    scaleY: plane.transform.scaleY * factor,
  },
});

/** The same plane with another image of the same painting, which may be larger or cropped otherwise. */
function withLayer(plane: Plane, layer: PaintedLayer): Plane {
  const fresh = planeFromLayer(plane.id, layer);
  const content =
    plane.content.kind === 'moving' && fresh.content.kind === 'moving'
      ? { ...plane.content, exposures: fresh.content.exposures }
      : fresh.content;
  const map = layerMap(plane, fresh.origin as Origin, layer);
  const transform = mapped(plane.transform, map);
  return { ...withPinsMapped(plane, map), content, origin: fresh.origin, transform };
}

/** From px of a plane's art to px of the layer that takes its place, whatever the crop and resolution of that. */
function layerMap(plane: Plane, origin: Origin, layer: PaintedLayer): PxMap {
  if (plane.origin) return pxMapOf(plane, origin);
  const facts = factsOf(plane.content);
  const dxPx = (layer.art.widthPx - facts.widthPx) / 2;
  return { scale: 1, dxPx, dyPx: (layer.art.heightPx - facts.heightPx) / 2 };
}

/** The transform that leaves every px of the painting where it was. */
const mapped = (transform: Plane['transform'], { scale, dxPx, dyPx }: PxMap): Plane['transform'] => ({
  ...transform,
  scaleX: transform.scaleX / scale,
  scaleY: transform.scaleY / scale,
  anchorXArtPx: scale * transform.anchorXArtPx + dxPx,
  anchorYArtPx: scale * transform.anchorYArtPx + dyPx,
});

function addLayer(
  scene: Scene,
  { layers, idOf }: NewVersion,
  index: number,
  planeOfLayer: Map<number, PlaneId>,
): Scene {
  const fresh = planeFromLayer(idOf(index), layers[index] as PaintedLayer);
  const neighbour =
    neighbourOf(scene, planeOfLayer, layers, (i) => i > index, 1) ??
    neighbourOf(scene, planeOfLayer, layers, (i) => i < index, -1);
  planeOfLayer.set(index, fresh.id);
  if (!neighbour) return withPlaneList(scene, [fresh, ...planesOf(scene)]);
  const { plane, below } = neighbour;
  const placed: Plane = {
    ...fresh,
    mount: plane.mount,
    depthSpx: plane.depthSpx,
    transform: mapped(
      plane.transform,
      layerMap(plane, fresh.origin as Origin, layers[index] as PaintedLayer),
    ),
  };
  const at = planesOf(scene).indexOf(plane) + (below ? 0 : 1);
  return withPlaneList(scene, [...planesOf(scene).slice(0, at), placed, ...planesOf(scene).slice(at)]);
}

/** The plane of the nearest layer of the painting on one side that is in the shot. */
function neighbourOf(
  scene: Scene,
  planeOfLayer: ReadonlyMap<number, PlaneId>,
  layers: readonly PaintedLayer[],
  onSide: (index: number) => boolean,
  direction: 1 | -1,
): { plane: Plane; below: boolean } | null {
  const indices = layers.map((_, i) => i).filter(onSide);
  for (const index of direction === 1 ? indices : indices.reverse()) {
    const id = planeOfLayer.get(index);
    const plane = id && planeOf(scene, id);
    if (plane?.origin) return { plane, below: direction === 1 };
  }
  return null;
}
