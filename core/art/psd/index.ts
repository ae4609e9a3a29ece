export { type LazyPixels, type PsdPainting, readPsdPainting } from './read.ts';
