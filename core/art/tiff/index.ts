export { tiffAlpha } from './alpha.ts';
