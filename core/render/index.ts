export { mayRunQuickKernel } from './quick-kernel.ts';
export { jobBytes, KERNEL_MEMORY, runRows, SingleThreadRenderer } from './kernel.ts';
export type { KernelExports } from './kernel-exports.ts';
export type { ImageLayer, PathLayer, RenderLayer } from './layer.ts';
export { applyLook } from './layer-look.ts';
export { encodeLayers, levelOfImage } from './layer-table.ts';
export { renderLayers } from './layers.ts';
export { renderOracle } from './oracle.ts';
export { pathEdges } from './path-edges.ts';
export { bytesPerPixel, type PixelFormat, type Rendered } from './pixel-format.ts';
export {
  type FromRenderWorker,
  type RenderOptions,
  RenderPool,
  RenderPoolClosed,
  type RenderPort,
  type ToRenderWorker,
} from './pool.ts';
export { buildLevels, imageLayout, storeImage } from './stored-image.ts';
export type { ChunkRect, StreamSource } from './streamed-image.ts';
export { type Background, BLACK, CLEAR, type RenderView } from './view.ts';
export { answerRenderMessage } from './worker-loop.ts';
