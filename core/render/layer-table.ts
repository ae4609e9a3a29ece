import { repeatsAcross, repeatsDown } from '../document/index.ts';
import type { Affine } from '../geometry/index.ts';
import { rampOf } from '../look/index.ts';
import { type Background, type ImageLayer, needsDither, type PathLayer, type RenderLayer } from './layers.ts';
import { edgeBounds } from './path-edges.ts';
import type { ImageLayout, StoredLevel } from './stored-image.ts';

/** Bytes of one entry; assembly/layer.ts reads what encodeLayers writes. */
const LAYER_BYTES = 128;
const CULL_TILE_PX = 32;

export interface ImageAddress {
  readonly address: number;
  readonly layout: ImageLayout;
}

/** A level of an image as it lies in the memory: addresses from its start. Undefined where it is not there. */
export type LevelLookup = (artId: string, level: number) => StoredLevel | undefined;

/** The level of an image that lies in one piece. */
export function levelOfImage({ address, layout }: ImageAddress, index: number): StoredLevel | undefined {
  const level = layout.levels[index];
  return level && { ...level, pixelsAt: address + level.pixelsAt, tilesAt: address + level.tilesAt };
}

/** What the kernel reads of one frame: `count` entries, and behind them the edges and ramps that they name. */
export interface LayerTable {
  readonly bytes: Uint8Array;
  readonly count: number;
  readonly dither: boolean;
}

/**
 * The layer table for the kernel, far to near. Layers whose image is not there (still loading) are left out.
 * The map is shifted so that it takes integer pixel indices to texels of the bordered level:
 * centre of pixel +½, centre of texel −½, border +1.
 */
export function encodeLayers(layers: readonly RenderLayer[], levelOf: LevelLookup): LayerTable {
  const drawn = layers.filter((layer) => layer.kind === 'path' || levelOf(layer.artId, layer.level));
  const tails = drawn.map((layer) => (layer.kind === 'path' ? tailBytes(layer) : 0));
  const bytes = drawn.length * LAYER_BYTES + tails.reduce((sum, size) => sum + size, 0);
  const table = new DataView(new ArrayBuffer(bytes));
  let tail = drawn.length * LAYER_BYTES;
  drawn.forEach((layer, i) => {
    if (layer.kind === 'path') writePath(table, i * LAYER_BYTES, tail, layer);
    else writeImage(table, i * LAYER_BYTES, layer, levelOf(layer.artId, layer.level) as StoredLevel);
    tail += tails[i] as number;
  });
  return { bytes: new Uint8Array(table.buffer), count: drawn.length, dither: needsDither(drawn) };
}

/** Shifts a map from continuous image px so that it takes pixel indices: centre of pixel +½. */
const atPixelCentres = ({ a, b, c, d, e, f }: Affine, shift: number): number[] => [
  a,
  b,
  c,
  d,
  e + 0.5 * (a + c) + shift,
  f + 0.5 * (b + d) + shift,
];

function writeEntry(table: DataView, at: number, map: readonly number[], words: readonly number[]): void {
  map.forEach((value, i) => {
    table.setFloat64(at + 8 * i, value, true);
  });
  words.forEach((value, i) => {
    table.setUint32(at + 48 + 4 * i, value, true);
  });
}

const opacityQ15 = (opacity: number): number => Math.round(Math.min(1, opacity) * 32768);
const KIND = { unrolled: 0, rolled: 1, paths: 2, scattered: 3 } as const;
/** Texels an output px past which a row of a tiled image is read one by one: the row in between would not fit. */
const GATHERED_TEXELS = 2;

function writeImage(table: DataView, at: number, layer: ImageLayer, level: StoredLevel): void {
  const { a, b, c } = layer.imageToLevel;
  const turned = b !== 0 || c !== 0;
  const tiled = layer.repeat !== 'none';
  const kind =
    tiled && (turned || Math.abs(a) > GATHERED_TEXELS)
      ? KIND.scattered
      : turned
        ? KIND.rolled
        : KIND.unrolled;
  writeEntry(table, at, atPixelCentres(layer.imageToLevel, 0.5), [
    level.pixelsAt,
    level.strideBytes,
    level.widthPx,
    level.heightPx,
    level.tilesAt,
    level.tileColumns,
    opacityQ15(layer.opacity),
    kind,
  ]);
  const bits = (repeatsAcross(layer.repeat) ? 1 : 0) | (repeatsDown(layer.repeat) ? 2 : 0);
  table.setInt32(at + 116, bits, true);
}

/** Edges, then the ramp as four 16-bit lanes an entry; a multiple of 16. */
const tailBytes = ({ edges, paint }: PathLayer): number =>
  edges.byteLength + Math.ceil(((rampOf(paint).length / 4) * 8) / 16) * 16;

function writePath(table: DataView, at: number, tail: number, layer: PathLayer): void {
  const { edges, paint } = layer;
  const ramp = rampOf(paint);
  const rampFrom = tail + edges.byteLength;
  const { left, right, top, bottom } = edgeBounds(edges);
  new Float32Array(table.buffer, tail, edges.length).set(edges);
  const lanes = new Uint16Array(table.buffer, rampFrom, ramp.length);
  for (let i = 0; i < ramp.length; i++) lanes[i] = Math.round((ramp[i] as number) * 128);
  writeEntry(table, at, atPixelCentres(layer.imageToGradient, 0), [
    tail,
    edges.length / 4,
    left,
    right,
    rampFrom,
    ramp.length / 4,
    opacityQ15(layer.opacity),
    KIND.paths,
  ]);
  table.setInt32(at + 104, top, true);
  table.setInt32(at + 108, bottom, true);
  table.setInt32(at + 112, paint.kind === 'radial' ? 1 : 0, true);
}

/** Bytes of scratch that one call of renderRows needs for `layers` layers and rows of `widthPx`. */
export function scratchBytes(widthPx: number, layers: number): number {
  const columns = Math.ceil(widthPx / CULL_TILE_PX);
  const row = widthPx * 24 + columns * 4 + 512;
  const perLayer = columns * 9 + widthPx * 12 + 128;
  return row + layers * perLayer;
}

/** First byte lowest, as the kernel takes it. */
export const packBackground = ({ r, g, b, a }: Background): number =>
  (r | (g << 8) | (b << 16) | (a << 24)) >>> 0;
