export { isPng, type PngHeader, readPngHeader } from './header.ts';
