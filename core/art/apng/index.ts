export { composeApng } from './compose.ts';
export { type Apng, type ApngFrame, pngOfChunks, readApng } from './read.ts';
