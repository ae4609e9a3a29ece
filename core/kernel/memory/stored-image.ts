import {
  type DeepRaster,
  type LevelRaster,
  levelBytes,
  levelsOf,
  mipCount,
  mipSizePx,
  type Raster,
  TILE_PX,
  wantsLanes,
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
  { pixelsAt, strideBytes, texelBytes }: StoredLevel,
  column: number,
  row: number,
): number => {
  const at = pixelsAt + row * strideBytes + column * texelBytes;
  const bytes = new DataView(memory.buffer);
  return texelBytes === 4 ? bytes.getUint8(at + 3) : Math.round(bytes.getUint16(at + 6, true) / 128);
};

/** Follows from the size alone, so that memory can be set aside before the pixels have come. */
export function imageLayout(widthPx: number, heightPx: number, texelBytes: 4 | 8 = 4): ImageLayout {
  let at = 0;
  const levels = Array.from({ length: mipCount(widthPx, heightPx) }, (_, level): StoredLevel => {
    const placed = levelLayout(mipSizePx(widthPx, level), mipSizePx(heightPx, level), at, texelBytes);
    at = placed.end;
    return placed.level;
  });
  return { levels, bytes: at };
}

/** Bytes a texel of an image takes in the memory. */
export const texelBytesFor = (image: Raster<'straight'> | DeepRaster): 4 | 8 => (wantsLanes(image) ? 8 : 4);

/** Its pixels are used up as levels are made of it. */
export const copyOf = <I extends Raster<'straight'> | DeepRaster>(image: I): I => ({
  ...image,
  data: image.data.slice(),
});

/** The mip levels of an image, finest first, as they are held; the image is left as it is. */
export const buildLevels = (image: Raster<'straight'> | DeepRaster): LevelRaster[] =>
  [...levelsOf(copyOf(image))].map(({ level }) => level);

/**
 * Fills `target` (`layout.bytes` long) with the levels and tile maps of straight RGBA `image`, whose texels the layout has
 * room for. Uses the image's pixels up.
 */
export function storeImage(
  image: Raster<'straight'> | DeepRaster,
  layout: ImageLayout,
  target: Uint8Array,
): void {
  let i = 0;
  for (const { level, tiles } of levelsOf(image)) {
    const place = layout.levels[i++] as StoredLevel;
    target.set(levelBytes(level), place.pixelsAt);
    target.set(tiles, place.tilesAt);
  }
}
