export {
  isZip,
  LARGEST_UNPACKED_BYTES,
  type OpenRaster,
  type OpenRasterLayer,
  readOpenRaster,
} from './read.ts';
export { readStack, type Stack, type StackLayer } from './stack.ts';
