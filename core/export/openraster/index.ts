export { OPEN_RASTER, type OpenRasterLayer, openRasterStack } from './write.ts';
