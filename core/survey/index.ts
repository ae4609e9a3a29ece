export { largestScale, type PaintingNeeds, paintingNeeds } from './art-needs.ts';
export { type EdgeGap, edgeGaps, edgesInsideFramePx } from './edge-gaps.ts';
