export { premultiply } from './alpha.ts';
export { mayBePremultiplied, unpremultiplied } from './alpha-guess.ts';
export { CHUNK_PX, chunkGrid, chunkSize, cutChunk, isClearChunk, levelsOf } from './chunks.ts';
export { cutEdges, SIDES, type Side } from './cut-edges.ts';
export { DISTANCE_RANGES, type Endless, edgeDistances, rangeFor, softEdgeAt } from './distance.ts';
export {
  type DeepRaster,
  isLanes,
  type LaneRaster,
  type LevelRaster,
  levelBytes,
  OPAQUE_LANE,
  texelBytesOf,
  toLanes,
  wantsLanes,
} from './lanes.ts';
export { likenessOf } from './likeness.ts';
export { halve, mipCount, mipLevelFor, mipSizePx } from './mips.ts';
export { paintedBox } from './painted-box.ts';
export { type Raster, raster } from './raster.ts';
export { closeSeam, fadeWidth, measureSeam, type SeamAxis } from './seam.ts';
export { buildTileMap, TILE_PX } from './tile-map.ts';
