export { largestScale, type PaintingNeeds, paintingNeeds } from './art-needs.ts';
export { type EdgeGap, edgeGaps, edgesInsideFramePx, endsAt } from './edge-gaps.ts';
