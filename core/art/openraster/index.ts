export { isOpenRaster, readOpenRaster, readOpenRasterParts } from './read.ts';
