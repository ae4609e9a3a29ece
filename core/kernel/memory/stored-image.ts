import {
  buildTileMap,
  halve,
  mipCount,
  mipSizePx,
  premultiply,
  type Raster,
  TILE_PX,
} from '../../image/index.ts';
import type { GrowableMemory } from './arena.ts';

/** Where one mip level lies, in bytes from the start of its image. */
export interface StoredLevel {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly strideBytes: number;
  /** Four bytes, or four 15-bit lanes (0 to 32 640) in 16 bits each; premultiplied. */
  readonly texelBytes: 4 | 8;
  readonly pixelsAt: number;
  readonly tilesAt: number;
  readonly tileColumns: number;
}

export interface ImageLayout {
  readonly levels: readonly StoredLevel[];
  readonly bytes: number;
}

/** The kernel reads sixteen texels at once, of art that has fewer too. */
const READ_AHEAD_BYTES = 128;

/** One level that begins at byte `at`, and the byte at which the next may begin. */
export function levelLayout(
  widthPx: number,
  heightPx: number,
  at: number,
  texelBytes: 4 | 8 = 4,
): { level: StoredLevel; end: number } {
  const strideBytes = widthPx * texelBytes;
  const tileColumns = Math.ceil(widthPx / TILE_PX);
  const tilesAt = at + strideBytes * heightPx + READ_AHEAD_BYTES;
  const end = Math.ceil((tilesAt + tileColumns * Math.ceil(heightPx / TILE_PX)) / 16) * 16;
  return { level: { widthPx, heightPx, strideBytes, texelBytes, pixelsAt: at, tilesAt, tileColumns }, end };
}

/** Alpha, 0 to 255, of a texel of a level that lies in the memory. */
export const alphaIn = (
  memory: GrowableMemory,
  { pixelsAt, strideBytes }: StoredLevel,
  column: number,
  row: number,
): number => new Uint8Array(memory.buffer, pixelsAt + row * strideBytes + column * 4 + 3, 1)[0] ?? 0;

/** Follows from the size alone, so that memory can be set aside before the pixels have come. */
export function imageLayout(widthPx: number, heightPx: number): ImageLayout {
  let at = 0;
  const levels = Array.from({ length: mipCount(widthPx, heightPx) }, (_, level): StoredLevel => {
    const placed = levelLayout(mipSizePx(widthPx, level), mipSizePx(heightPx, level), at);
    at = placed.end;
    return placed.level;
  });
  return { levels, bytes: at };
}

/** The mip levels of an image, finest first. */
export function buildLevels(finest: Raster<'premultiplied'>): Raster<'premultiplied'>[] {
  const levels = [finest];
  for (let i = 1; i < mipCount(finest.widthPx, finest.heightPx); i++) levels.push(halve(levels[i - 1]!));
  return levels;
}

/** Fills `target` (`layout.bytes` long) with the levels and tile maps of straight RGBA `image`. */
export function storeImage(image: Raster<'straight'>, layout: ImageLayout, target: Uint8Array): void {
  let level = premultiply(image);
  layout.levels.forEach((place, i) => {
    if (i > 0) level = halve(level);
    target.set(level.data, place.pixelsAt);
    target.set(buildTileMap(level).kinds, place.tilesAt);
  });
}
