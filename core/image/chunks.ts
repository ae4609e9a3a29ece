import { premultiplyBytes } from './alpha.ts';
import { halve, mipCount } from './mips.ts';
import { type Raster, raster } from './raster.ts';
import { buildTileMap } from './tile-map.ts';

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

/** One level after the other, finest first, with the map of its tiles; the last one is a single pixel. */
export function* levelsOf(
  image: Raster<'straight'>,
): Generator<{ level: Raster<'premultiplied'>; tiles: Uint8Array }> {
  let level = raster(image.widthPx, image.heightPx, 'premultiplied');
  premultiplyBytes(image.data, level.data);
  for (let i = 0; i < mipCount(image.widthPx, image.heightPx); i++) {
    if (i > 0) level = halve(level);
    yield { level, tiles: buildTileMap(level).kinds };
  }
}
