export { copyPeriodPx, nearestCopy, toNearestCopy } from './copies.ts';
export { type FramePlan, framePlan, type Haze, type PlaneLook, type PlanePlan } from './frame-plan.ts';
export { type FrameRange, framesOf } from './frame-range.ts';
export { type PinOnFrame, pinsOnFrame } from './pins-on-frame.ts';
export { SHARP_PX, type SharpBand, sharpBandAt } from './sharp-band.ts';
