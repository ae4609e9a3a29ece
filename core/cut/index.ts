export { applyCopies } from './copy-brush.ts';
export { type CutPieces, cutImage, selectionMask } from './cut.ts';
export { fillHole } from './fill.ts';
export { colourMask, feather, type Mask, maskBox, outlineMask } from './mask.ts';
