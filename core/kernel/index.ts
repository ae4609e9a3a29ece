export { type GroupJob, groupBytes, groupJob, runGroup } from './group-job.ts';
export { jobBytes, KERNEL_MEMORY, type RowsJob, runRows, SingleThreadRenderer } from './kernel.ts';
export type { KernelExports } from './kernel-exports.ts';
export { layoutAssembly } from './layer-layout.ts';
export {
  CULL_TILE_PX,
  encodeLayers,
  type ImageAddress,
  levelOfImage,
  packBackground,
} from './layer-table.ts';
export { bytesPerPixel, type PixelFormat, type Rendered, renderedAt } from './pixel-format.ts';
export { mayRunQuickKernel } from './quick-kernel.ts';
