export { Arena, type GrowableMemory, OutOfArena } from './arena.ts';
export { type ImageRead, type Lease, Leases } from './leases.ts';
export type { StopSignal } from './stop-signal.ts';
export {
  alphaIn,
  buildLevels,
  copyOf,
  type ImageLayout,
  imageLayout,
  levelLayout,
  type StoredLevel,
  storeImage,
  texelBytesFor,
} from './stored-image.ts';
export {
  type ChunkRect,
  type ChunkTarget,
  type MissingChunks,
  once,
  StreamedImage,
  type StreamSource,
} from './streamed-image.ts';
export { type Inflate, unpackChunks } from './unpack-chunks.ts';
