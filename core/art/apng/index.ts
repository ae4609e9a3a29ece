export { composeApng } from './compose.ts';
export { pngOfChunks, readApng } from './read.ts';
