export { type CutPieces, cutImage, selectionMask } from './cut.ts';
export type { CoarseFill } from './fill.ts';
export { fillBare } from './fill-bare.ts';
export { mappedRecipe, type OutlineChange, outlineChange } from './next-version.ts';
