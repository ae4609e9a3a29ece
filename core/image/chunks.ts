import { premultiplyInPlace } from './alpha.ts';
import { type DeepRaster, type LevelRaster, levelBytes, texelBytesOf, toLanes, wantsLanes } from './lanes.ts';
import { halve, mipCount } from './mips.ts';
import type { Raster } from './raster.ts';
import { buildTileMap, TILE_EMPTY, TILE_PX } from './tile-map.ts';

/** Edge of the squares in which a level travels, px of the level; a multiple of the tile. */
export const CHUNK_PX = 512;

export interface ChunkGrid {
  readonly columns: number;
  readonly rows: number;
}

export const chunkGrid = (widthPx: number, heightPx: number): ChunkGrid => ({
  columns: Math.ceil(widthPx / CHUNK_PX),
  rows: Math.ceil(heightPx / CHUNK_PX),
});

/** The size of the chunk at a place of the grid, px. */
export const chunkSize = (widthPx: number, heightPx: number, column: number, row: number) => ({
  widthPx: Math.min(CHUNK_PX, widthPx - column * CHUNK_PX),
  heightPx: Math.min(CHUNK_PX, heightPx - row * CHUNK_PX),
});

/** The premultiplied pixels of one chunk, rows from the top: bytes, or lanes little-endian. */
export function cutChunk(level: LevelRaster, column: number, row: number): Uint8Array {
  const size = chunkSize(level.widthPx, level.heightPx, column, row);
  const texel = texelBytesOf(level);
  const bytes = levelBytes(level);
  const out = new Uint8Array(size.widthPx * size.heightPx * texel);
  for (let y = 0; y < size.heightPx; y++) {
    const from = ((row * CHUNK_PX + y) * level.widthPx + column * CHUNK_PX) * texel;
    out.set(bytes.subarray(from, from + size.widthPx * texel), y * size.widthPx * texel);
  }
  return out;
}

/**
 * One level after the other, finest first, with the map of its tiles; the last one is a single pixel. All of an image are in
 * lanes or none (`wantsLanes`). Uses an image of bytes up: its pixels are premultiplied where they lie.
 */
export function* levelsOf(
  image: Raster<'straight'> | DeepRaster,
): Generator<{ level: LevelRaster; tiles: Uint8Array }> {
  let level = premultiplied(image);
  for (let i = 0; i < mipCount(image.widthPx, image.heightPx); i++) {
    if (i > 0) level = halve(level);
    yield { level, tiles: buildTileMap(level).kinds };
  }
}

const isDeep = (image: Raster<'straight'> | DeepRaster): image is DeepRaster =>
  image.data instanceof Uint16Array;

const premultiplied = (image: Raster<'straight'> | DeepRaster): LevelRaster =>
  isDeep(image) || wantsLanes(image) ? toLanes(image) : premultiplyInPlace(image);

/** Whether a chunk of a level is clear all over, by the level's tile map. */
export function isClearChunk(
  { widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number },
  tiles: Uint8Array,
  column: number,
  row: number,
): boolean {
  const across = Math.ceil(widthPx / TILE_PX);
  const size = chunkSize(widthPx, heightPx, column, row);
  const perChunk = CHUNK_PX / TILE_PX;
  for (let r = row * perChunk; r < row * perChunk + Math.ceil(size.heightPx / TILE_PX); r++)
    for (let c = column * perChunk; c < column * perChunk + Math.ceil(size.widthPx / TILE_PX); c++)
      if (tiles[r * across + c] !== TILE_EMPTY) return false;
  return true;
}
