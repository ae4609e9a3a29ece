import { premultiplyInPlace } from './alpha.ts';
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

/** The premultiplied pixels of one chunk, rows from the top. */
export function cutChunk(level: Raster<'premultiplied'>, column: number, row: number): Uint8Array {
  const size = chunkSize(level.widthPx, level.heightPx, column, row);
  const out = new Uint8Array(size.widthPx * size.heightPx * 4);
  for (let y = 0; y < size.heightPx; y++) {
    const from = ((row * CHUNK_PX + y) * level.widthPx + column * CHUNK_PX) * 4;
    out.set(level.data.subarray(from, from + size.widthPx * 4), y * size.widthPx * 4);
  }
  return out;
}

/**
 * One level after the other, finest first, with the map of its tiles; the last one is a single pixel. Uses the image up: its
 * pixels are premultiplied where they lie.
 */
export function* levelsOf(
  image: Raster<'straight'>,
): Generator<{ level: Raster<'premultiplied'>; tiles: Uint8Array }> {
  let level = premultiplyInPlace(image);
  for (let i = 0; i < mipCount(image.widthPx, image.heightPx); i++) {
    if (i > 0) level = halve(level);
    yield { level, tiles: buildTileMap(level).kinds };
  }
}

/** Whether a chunk of a level is clear all over, by the level's tile map. */
export function isClearChunk(
  { widthPx, heightPx }: Raster,
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
