export { type GroupJob, groupBytes, groupJob, rowsOfGroup, runGroup } from './group-job.ts';
export {
  type CoverJob,
  coverBytes,
  jobBytes,
  KERNEL_MEMORY,
  type RowsJob,
  runCover,
  runRows,
  SingleThreadRenderer,
} from './kernel.ts';
export type { KernelExports } from './kernel-exports.ts';
export { layoutAssembly } from './layer-layout.ts';
export {
  CULL_TILE_PX,
  encodeLayers,
  type ImageAddress,
  levelOfImage,
  packBackground,
} from './layer-table.ts';
export { allStrips, type NeededStrip, neededStrips } from './needed-strips.ts';
export { bytesPerPixel, type PixelFormat, type Rendered, renderedAt } from './pixel-format.ts';
export { mayRunQuickKernel } from './quick-kernel.ts';
