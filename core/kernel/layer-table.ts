import { LRUCache } from 'lru-cache';
import type { Affine } from '../geometry/index.ts';
import { rangeFor } from '../image/index.ts';
import {
  type Background,
  CURVE_LENGTH,
  curveTables,
  edgeBounds,
  type GroupLayer,
  type ImageLayer,
  type LayerLook,
  levelBounds,
  lookedRamp,
  needsDither,
  type Pass,
  type PathLayer,
  phaseWeights,
  type RenderLayer,
  readingOf,
  tapsFor,
} from '../picture/index.ts';
import { repeatsAcross, repeatsDown } from '../staging/index.ts';
import {
  BLOCKS,
  channelMark,
  FILTERS,
  LAYER_BYTES,
  LAYER_KINDS,
  LAYER_MARKS,
  type LayerField,
  LOOK,
  LOOK_PARTS,
  modeMark,
  setField,
} from './layer-layout.ts';
import type { ImageLayout, StoredLevel } from './memory/index.ts';

/** Rows of a band, and the edge of what is culled together. */
export const CULL_TILE_PX = BLOCKS.tile;

export interface ImageAddress {
  readonly address: number;
  readonly layout: ImageLayout;
}

/** Where pixels lie in the memory. Undefined where they are not there. */
export interface StoredPixels {
  levelOf(artId: string, level: number): StoredLevel | undefined;
  groupOf(group: GroupLayer): StoredLevel | undefined;
}

/** The level of an image that lies in one piece. */
export function levelOfImage({ address, layout }: ImageAddress, index: number): StoredLevel | undefined {
  const level = layout.levels[index];
  return level && { ...level, pixelsAt: address + level.pixelsAt, tilesAt: address + level.tilesAt };
}

/** What the kernel reads of one frame: `count` entries, and behind them the edges, ramps and looks that they name. */
export interface LayerTable {
  readonly bytes: Uint8Array;
  readonly count: number;
  /** Bytes a column of what is worked out beforehand for the entries that read texels. */
  readonly gathered: number;
  readonly dither: boolean;
}

/** One entry to be written: a level that is read, or a path. A blend is two entries, the second its coarser level. */
type Entry =
  | {
      readonly kind: 'level';
      readonly map: Affine;
      readonly level: StoredLevel;
      readonly layer: ImageLayer | GroupLayer;
      /** Share of the entry that follows, which is then not drawn by itself. */
      readonly weight: number;
      readonly isSecond: boolean;
    }
  | { readonly kind: 'path'; readonly layer: PathLayer };

function entriesOf(layer: RenderLayer, stored: StoredPixels): Entry[] {
  if (layer.kind === 'path') return [{ kind: 'path', layer }];
  if (layer.kind === 'group') {
    const level = stored.groupOf(layer);
    return level
      ? [{ kind: 'level', map: layer.imageToGroup, level, layer, weight: 0, isSecond: false }]
      : [];
  }
  const level = stored.levelOf(layer.artId, layer.level);
  if (!level) return [];
  const coarser = layer.blend && stored.levelOf(layer.artId, layer.blend.level);
  const weight = coarser ? (layer.blend?.weight ?? 0) : 0;
  const first: Entry = { kind: 'level', map: layer.imageToLevel, level, layer, weight, isSecond: false };
  if (!coarser || !layer.blend) return [first];
  return [
    first,
    { kind: 'level', map: layer.blend.imageToLevel, level: coarser, layer, weight: 0, isSecond: true },
  ];
}

/**
 * The layer table for the kernel, far to near. Layers whose pixels are not there (still loading) are left out.
 * The map is shifted so that it takes integer pixel indices to texel indices: centre of pixel +½, centre of texel −½.
 */
export function encodeLayers(layers: readonly RenderLayer[], stored: StoredPixels): LayerTable {
  const entries = layers.flatMap((layer) => entriesOf(layer, stored));
  const tails = entries.map(tailBytes);
  const own = entries.length * LAYER_BYTES + tails.reduce((sum, size) => sum + size, 0);
  const ramps = placeRamps(entries, own);
  const filters = placeFilters(entries, ramps.end);
  const table = new DataView(new ArrayBuffer(filters.end));
  for (const { at, lanes } of ramps.placed) new Uint16Array(table.buffer, at, lanes.length).set(lanes);
  for (const { at, weights } of filters.placed) new Int16Array(table.buffer, at, weights.length).set(weights);
  let tail = entries.length * LAYER_BYTES;
  let gathered = 0;
  entries.forEach((entry, i) => {
    if (entry.kind === 'path') writePath(table, i * LAYER_BYTES, tail, entry.layer, ramps.of(entry.layer));
    else {
      const { passU, passV } = readingOf(entry.map, isSmooth(entry.layer));
      const [u, v] = [filters.of(passU), filters.of(passV)];
      writeLevel(table, i * LAYER_BYTES, tail, entry, { u, v });
      gathered += 8 + 2 * u.taps;
    }
    tail += tails[i] as number;
  });
  return {
    bytes: new Uint8Array(table.buffer),
    count: entries.length,
    gathered,
    dither: needsDither(layers),
  };
}

/** A ramp as four 16-bit lanes an entry, and where it lies. */
interface RampPlace {
  readonly at: number;
  readonly lanes: Uint16Array;
}

interface Ramps {
  readonly placed: readonly RampPlace[];
  readonly end: number;
  of(layer: PathLayer): RampPlace;
}

/**
 * The ramps behind everything else. Paths of the very same paint and look share one: a tiled gradient is thousands of
 * them, drawn anew in every frame, so they are told apart by identity alone.
 */
function placeRamps(entries: readonly Entry[], from: number): Ramps {
  const byPaint = new Map<PathLayer['paint'], Map<PathLayer['look'], RampPlace>>();
  const placed: RampPlace[] = [];
  let end = from;
  for (const entry of entries) {
    if (entry.kind !== 'path') continue;
    const { paint, look } = entry.layer;
    const byLook = byPaint.get(paint) ?? new Map<PathLayer['look'], RampPlace>();
    byPaint.set(paint, byLook);
    if (byLook.has(look)) continue;
    const lanes = Uint16Array.from(lookedRamp(paint, look), (v) => Math.round(v * 128));
    const place = { at: end, lanes };
    byLook.set(look, place);
    placed.push(place);
    end += Math.ceil(lanes.byteLength / 16) * 16;
  }
  return { placed, end, of: ({ paint, look }) => byPaint.get(paint)!.get(look)! };
}

/** The weights of a pass, and where they lie. */
interface FilterPlace {
  readonly at: number;
  readonly taps: number;
  readonly weights: Int16Array;
}

interface Filters {
  readonly placed: readonly FilterPlace[];
  readonly end: number;
  of(pass: Pass): FilterPlace;
}

const nameOf = ({ step, sharp }: Pass): string => `${step} ${sharp}`;

/** Weights that were asked for last: most planes keep their step from frame to frame, or share it. */
const knownWeights = new LRUCache<string, Int16Array>({ max: 512 });

function weightsOf(pass: Pass): Int16Array {
  const known = knownWeights.get(nameOf(pass));
  if (known) return known;
  const made = phaseWeights(pass);
  knownWeights.set(nameOf(pass), made);
  return made;
}

const isSmooth = (layer: ImageLayer | GroupLayer): boolean => layer.kind === 'image' && layer.smooth;

/** Weights behind the ramps, one table for every pass. */
function placeFilters(entries: readonly Entry[], from: number): Filters {
  const byName = new Map<string, FilterPlace>();
  let end = from;
  for (const entry of entries) {
    if (entry.kind !== 'level') continue;
    const { passU, passV } = readingOf(entry.map, isSmooth(entry.layer));
    for (const pass of [passU, passV]) {
      if (byName.has(nameOf(pass))) continue;
      const weights = weightsOf(pass);
      byName.set(nameOf(pass), { at: end, taps: tapsFor(pass), weights });
      end += Math.ceil(weights.byteLength / 16) * 16;
    }
  }
  return { placed: [...byName.values()], end, of: (pass) => byName.get(nameOf(pass))! };
}

/** Edges of a path, look of any: a multiple of 16. */
function tailBytes(entry: Entry): number {
  if (entry.kind === 'path') return pathBytes(entry.layer) + lookBytes(pathLook(entry.layer));
  return entry.isSecond ? 0 : lookBytes(entry.layer.look);
}

const lookBytes = (look: LayerLook | null): number =>
  look === null ? 0 : LOOK.bytes + (look.curve ? 3 * CURVE_LENGTH * 2 : 0);

/** Shifts a map from continuous image px so that it takes pixel indices: centre of pixel +½. */
const atPixelCentres = ({ a, b, c, d, e, f }: Affine, shift: number): number[] => [
  a,
  b,
  c,
  d,
  e + 0.5 * (a + c) + shift,
  f + 0.5 * (b + d) + shift,
];

type Fields = Partial<Record<LayerField, number>>;

function writeEntry(table: DataView, at: number, map: readonly number[], fields: Fields): void {
  const names = ['uPerX', 'vPerX', 'uPerY', 'vPerY', 'uAtOrigin', 'vAtOrigin'] as const;
  names.forEach((name, i) => {
    setField(table, at, name, map[i] as number);
  });
  for (const [name, value] of Object.entries(fields)) setField(table, at, name as LayerField, value);
}

const inQ15 = (share: number): number => Math.round(Math.min(1, share) * 32768);
function writeLevel(
  table: DataView,
  at: number,
  tail: number,
  { map, level, layer, weight, isSecond }: Extract<Entry, { kind: 'level' }>,
  filters: { readonly u: FilterPlace; readonly v: FilterPlace },
): void {
  const turned = map.b !== 0 || map.c !== 0;
  const repeat = layer.kind === 'image' ? layer.repeat : 'none';
  const { alongRows } = readingOf(map);
  const bounds = levelBounds(layer.kind === 'image' ? layer : { ...level, beyond: null }, level);
  const marks =
    (repeatsAcross(repeat) ? LAYER_MARKS.repeatsX : 0) |
    (repeatsDown(repeat) ? LAYER_MARKS.repeatsY : 0) |
    (isSecond ? LAYER_MARKS.isSecond : 0) |
    modeMark(layer.mode) |
    (layer.kind === 'image' && layer.mode === 'within'
      ? channelMark(rangeFor(layer.softEdgePx).channel)
      : 0) |
    (alongRows ? LAYER_MARKS.alongRows : 0) |
    (level.texelBytes === 8 ? LAYER_MARKS.isWide : 0);
  writeEntry(table, at, atPixelCentres(map, -0.5), {
    pixels: level.pixelsAt,
    strideBytes: level.strideBytes,
    widthPx: level.widthPx,
    heightPx: level.heightPx,
    tiles: level.tilesAt,
    tileColumns: level.tileColumns,
    opacityQ15: inQ15(layer.opacity),
    tapsU: filters.u.taps,
    tapsV: filters.v.taps,
    filterU: filters.u.at,
    filterV: filters.v.at,
    kind: turned ? LAYER_KINDS.turned : LAYER_KINDS.upright,
    marks,
    secondQ15: inQ15(weight),
    softGain:
      layer.kind === 'image' && layer.mode === 'within'
        ? rangeFor(layer.softEdgePx).px / layer.softEdgePx
        : 0,
    ...bounds,
  });
  if (!isSecond) writeLook(table, at, tail, layer.look);
}

/** Where the look lies stands in the entry: 0 for none. */
function writeLook(table: DataView, at: number, tail: number, look: LayerLook | null): void {
  if (!look) return;
  const { matrix, curve, vignette } = look;
  setField(table, at, 'lookFrom', tail);
  matrix?.forEach((value, i) => {
    table.setFloat32(tail + 4 * i, value, true);
  });
  const parts =
    (matrix ? LOOK_PARTS.hasMatrix : 0) |
    (curve ? LOOK_PARTS.hasCurve : 0) |
    (vignette ? LOOK_PARTS.hasVignette : 0);
  table.setInt32(tail + LOOK.parts, parts, true);
  if (vignette) {
    const { strength, centreX, centreY, halfDiagonalPx } = vignette;
    [strength, centreX - 0.5, centreY - 0.5, halfDiagonalPx].forEach((value, i) => {
      table.setFloat32(tail + LOOK.vignette + 4 * i, value, true);
    });
  }
  if (curve) new Uint16Array(table.buffer, tail + LOOK.bytes, 3 * CURVE_LENGTH).set(curveTables(curve));
}

/** Four floats an edge: a multiple of 16. */
const pathBytes = ({ edges }: PathLayer): number => edges.byteLength;

/** Matrix and curve are worked into the ramp; only the vignette is left. */
const pathLook = ({ look }: PathLayer): LayerLook | null =>
  look?.vignette ? { matrix: null, curve: null, vignette: look.vignette } : null;

function writePath(
  table: DataView,
  at: number,
  tail: number,
  layer: PathLayer,
  { at: rampFrom, lanes: ramp }: RampPlace,
): void {
  const { edges, paint } = layer;
  const { left, right, top, bottom } = edgeBounds(edges);
  new Float32Array(table.buffer, tail, edges.length).set(edges);
  writeEntry(table, at, atPixelCentres(layer.imageToGradient, 0), {
    edgesFrom: tail,
    edgeCount: edges.length / 4,
    boundLeft: left,
    boundRight: right,
    boundTop: top,
    boundBottom: bottom,
    rampFrom,
    rampLength: ramp.length / 4,
    opacityQ15: inQ15(layer.opacity),
    kind: LAYER_KINDS.paths,
    isRadial: paint.kind === 'radial' ? 1 : 0,
  });
  writeLook(table, at, tail + pathBytes(layer), pathLook(layer));
}

/** Bytes of scratch that one call of renderRows needs for rows of `widthPx`. */
export function scratchBytes(
  widthPx: number,
  { count, gathered }: Pick<LayerTable, 'count' | 'gathered'>,
): number {
  const tiles = Math.ceil(widthPx / CULL_TILE_PX);
  // A band of wide rows in blocks; coverage, texel rows, crossings and sources.
  const square = Math.ceil(widthPx / BLOCKS.square) * BLOCKS.square * CULL_TILE_PX * 8;
  const wide = Math.ceil(widthPx / BLOCKS.wide) * BLOCKS.wide * BLOCKS.low * 8;
  const band = Math.max(square, wide) + 96;
  const rows = FILTERS.mostTaps * (BLOCKS.wide * 8 + 256);
  const crossings = BLOCKS.square * FILTERS.mostRows * 8;
  const room = widthPx * 4 + rows + crossings + 2 * BLOCKS.wide * BLOCKS.low * 8 + 4096;
  const spans = tiles * 9 + 32;
  const columns = gathered * (widthPx + 8) + count * 16;
  return band + room + tiles * 4 + count * spans + columns;
}

/** First byte lowest, as the kernel takes it. */
export const packBackground = ({ r, g, b, a }: Background): number =>
  (r | (g << 8) | (b << 16) | (a << 24)) >>> 0;
