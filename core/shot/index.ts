export { type FramePlan, framePlan, PLANE_STATES, type PlanePlan, type PlaneState } from './frame-plan.ts';
export { type FrameRange, framesOf, wholeShot } from './frame-range.ts';
