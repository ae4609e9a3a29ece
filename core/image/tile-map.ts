import { type LaneRaster, OPAQUE_LANE } from './lanes.ts';
import type { Raster } from './raster.ts';
import { wordsOf } from './raster.ts';

/** Edge of a tile in px of its own level. */
export const TILE_PX = 32;
export const TILE_EMPTY = 0;
export const TILE_MIXED = 1;
export const TILE_OPAQUE = 2;

/** What each 32×32 tile of a level holds: nothing at all, something, or only fully opaque pixels. */
export interface TileMap {
  readonly columns: number;
  readonly rows: number;
  readonly kinds: Uint8Array;
}

export function buildTileMap(image: Raster | LaneRaster): TileMap {
  const columns = Math.ceil(image.widthPx / TILE_PX);
  const rows = Math.ceil(image.heightPx / TILE_PX);
  const kinds = new Uint8Array(columns * rows);
  const { data } = image;
  if (data instanceof Uint16Array) {
    for (let row = 0; row < rows; row++)
      for (let column = 0; column < columns; column++)
        kinds[row * columns + column] = laneTileKind({ ...image, data }, column, row);
    return { columns, rows, kinds };
  }
  const words = wordsOf(data);
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      kinds[row * columns + column] = tileKind(image, words, column, row);
    }
  }
  return { columns, rows, kinds };
}

function tileKind(
  image: { readonly widthPx: number; readonly heightPx: number },
  words: Int32Array,
  column: number,
  row: number,
): number {
  const x1 = Math.min(image.widthPx, (column + 1) * TILE_PX);
  const y1 = Math.min(image.heightPx, (row + 1) * TILE_PX);
  // All words or-ed tell whether anything is there, all and-ed whether every alpha is 255.
  let [any, all] = [0, ~0x00ffffff];
  for (let y = row * TILE_PX; y < y1; y++) {
    const line = y * image.widthPx;
    for (let x = column * TILE_PX; x < x1; x++) {
      const word = words[line + x] as number;
      any |= word;
      all &= word;
    }
    if (any >>> 24 !== 0 && all >>> 24 !== 255) return TILE_MIXED;
  }
  if (any >>> 24 === 0) return TILE_EMPTY;
  return all >>> 24 === 255 ? TILE_OPAQUE : TILE_MIXED;
}

function laneTileKind(
  { widthPx, heightPx, data }: Pick<LaneRaster, 'widthPx' | 'heightPx' | 'data'>,
  column: number,
  row: number,
): number {
  let [any, all] = [false, true];
  for (let y = row * TILE_PX; y < Math.min(heightPx, (row + 1) * TILE_PX); y++)
    for (let x = column * TILE_PX; x < Math.min(widthPx, (column + 1) * TILE_PX); x++) {
      const alpha = data[(y * widthPx + x) * 4 + 3] as number;
      if (alpha > 0) any = true;
      if (alpha < OPAQUE_LANE) all = false;
    }
  if (!any) return TILE_EMPTY;
  return all ? TILE_OPAQUE : TILE_MIXED;
}
