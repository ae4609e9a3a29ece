export { readPngHeader } from './header.ts';
