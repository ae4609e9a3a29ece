export { OPEN_RASTER, openRasterStack } from './write.ts';
