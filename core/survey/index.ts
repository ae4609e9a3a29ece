export { largestScale, paintingNeeds } from './art-needs.ts';
export { type EdgeGap, edgeGaps, endsAt } from './edge-gaps.ts';
export { strobingPxPerFrame } from './pace.ts';
