export { premultiply, unpremultiplyBytes } from './alpha.ts';
export { mayBePremultiplied, unpremultiplied } from './alpha-guess.ts';
export {
  CHUNK_PX,
  type ChunkGrid,
  chunkGrid,
  chunkSize,
  cutChunk,
  isClearChunk,
  levelsOf,
} from './chunks.ts';
export { cutEdges, SIDES, type Side } from './cut-edges.ts';
export { lookOf } from './look.ts';
export { mergeImages, type PlacedImage, unionBox } from './merge.ts';
export { halve, mipCount, mipLevelFor, mipSizePx } from './mips.ts';
export { PAINTED_ALPHA, paintedBox } from './painted-box.ts';
export { ALPHA_MODES, type AlphaMode, type Raster, raster } from './raster.ts';
export { closeSeam, fadeWidth, measureSeam, type Seam, type SeamAxis } from './seam.ts';
export { buildTileMap, TILE_EMPTY, TILE_MIXED, TILE_OPAQUE, TILE_PX, type TileMap } from './tile-map.ts';
