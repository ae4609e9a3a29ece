export { isOpenRaster, isZip, readOpenRaster, readOpenRasterParts } from './read.ts';
export { readStack } from './stack.ts';
