import type { Raster } from './raster.ts';

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

export function buildTileMap(image: Raster): TileMap {
  const columns = Math.ceil(image.widthPx / TILE_PX);
  const rows = Math.ceil(image.heightPx / TILE_PX);
  const kinds = new Uint8Array(columns * rows);
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      kinds[row * columns + column] = tileKind(image, column, row);
    }
  }
  return { columns, rows, kinds };
}

/** A tile that the art's border cuts is never opaque: past the border there is nothing. */
function tileKind(image: Raster, column: number, row: number): number {
  const x1 = Math.min(image.widthPx, (column + 1) * TILE_PX);
  const y1 = Math.min(image.heightPx, (row + 1) * TILE_PX);
  let least = 255;
  let most = 0;
  for (let y = row * TILE_PX; y < y1; y++) {
    for (let x = column * TILE_PX; x < x1; x++) {
      const alpha = image.data[(y * image.widthPx + x) * 4 + 3] as number;
      if (alpha < least) least = alpha;
      if (alpha > most) most = alpha;
    }
    if (least < 255 && most > 0) return TILE_MIXED;
  }
  if (most === 0) return TILE_EMPTY;
  return least === 255 ? TILE_OPAQUE : TILE_MIXED;
}
