export { mergeImages, type PlacedImage, unionBox } from './merge.ts';
export { modeOfLayered, modeOfOpenRaster } from './modes.ts';
export type { ArtFault, NotKept } from './not-kept.ts';
export { findSequences, holdsOfDelays } from './sequence.ts';
export { type ArtFileKind, sniff } from './sniff.ts';
export { DEEPEST_GROUPS, hasModes, layerName, leavesOf, type Painting, type TreeNode } from './tree.ts';
