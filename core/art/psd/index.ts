export { readPsdPainting } from './read.ts';
