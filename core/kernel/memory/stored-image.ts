import {
  buildTileMap,
  halve,
  mipCount,
  mipSizePx,
  premultiply,
  type Raster,
  TILE_PX,
} from '../../image/index.ts';

/** Where one mip level lies, in bytes from the start of its image. Pixels have a clear border one texel wide. */
export interface StoredLevel {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly strideBytes: number;
  readonly pixelsAt: number;
  readonly tilesAt: number;
  readonly tileColumns: number;
}

export interface ImageLayout {
  readonly levels: readonly StoredLevel[];
  readonly bytes: number;
}

/** The kernel reads up to two texels past the last one. */
const READ_AHEAD_BYTES = 16;

/** One level that begins at byte `at`, and the byte at which the next may begin. */
export function levelLayout(
  widthPx: number,
  heightPx: number,
  at: number,
): { level: StoredLevel; end: number } {
  const strideBytes = (widthPx + 2) * 4;
  const tileColumns = Math.ceil(widthPx / TILE_PX);
  const tilesAt = at + strideBytes * (heightPx + 2) + READ_AHEAD_BYTES;
  const end = Math.ceil((tilesAt + tileColumns * Math.ceil(heightPx / TILE_PX)) / 16) * 16;
  return { level: { widthPx, heightPx, strideBytes, pixelsAt: at, tilesAt, tileColumns }, end };
}

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

/** Fills `target` (`layout.bytes` long) with the levels, borders and tile maps of straight RGBA `image`. */
export function storeImage(image: Raster<'straight'>, layout: ImageLayout, target: Uint8Array): void {
  let level = premultiply(image);
  layout.levels.forEach((place, i) => {
    if (i > 0) level = halve(level);
    target.fill(0, place.pixelsAt, place.tilesAt);
    for (let y = 0; y < place.heightPx; y++) {
      const row = level.data.subarray(y * place.widthPx * 4, (y + 1) * place.widthPx * 4);
      target.set(row, place.pixelsAt + (y + 1) * place.strideBytes + 4);
    }
    target.set(buildTileMap(level).kinds, place.tilesAt);
  });
}
