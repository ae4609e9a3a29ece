export { type CutPieces, cutImage, selectionMask } from './cut.ts';
