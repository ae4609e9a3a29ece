export { type EdgeGap, edgeGaps, edgesInsideFramePx } from './edge-gaps.ts';
