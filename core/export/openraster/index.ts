export { type OpenRasterLayer, writeOpenRaster } from './write.ts';
