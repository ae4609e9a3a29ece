export { Arena, type GrowableMemory, OutOfArena } from './arena.ts';
export {
  bytesPerPixel,
  jobBytes,
  KERNEL_MEMORY,
  type KernelExports,
  PIXEL_FORMATS,
  type PixelFormat,
  type Rendered,
  type RowsJob,
  runRows,
  SingleThreadRenderer,
} from './kernel.ts';
export { applyLook, type LayerLook } from './layer-look.ts';
export { encodeLayers, type ImageAddress, levelOfImage, packBackground } from './layer-table.ts';
export {
  type Background,
  BLACK,
  CLEAR,
  type GroupLayer,
  type ImageLayer,
  type PathLayer,
  type RenderLayer,
  type RenderView,
  renderLayers,
  repeatLevels,
} from './layers.ts';
export type { Lease } from './leases.ts';
export { blurredByDisc, blurredByGauss, type ImageLevels, renderOracle } from './oracle.ts';
export { type PathEdges, pathEdges } from './path-edges.ts';
export {
  type FromRenderWorker,
  type RenderOptions,
  RenderPool,
  RenderPoolClosed,
  type RenderPort,
  RenderWorkerLost,
  type ToRenderWorker,
} from './pool.ts';
export { mayRunQuickKernel } from './quick-kernel.ts';
export type { StopSignal } from './stop-signal.ts';
export { buildLevels, type ImageLayout, imageLayout, storeImage } from './stored-image.ts';
export type { ChunkRect, StreamSource } from './streamed-image.ts';
export { answerRenderMessage } from './worker-loop.ts';
