export { type CutPieces, cutImage, selectionMask } from './cut.ts';
export { mappedRecipe, type OutlineChange, outlineChange } from './next-version.ts';
