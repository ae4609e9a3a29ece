export { type FramePlan, framePlan, type Haze, type PlaneLook, type PlanePlan } from './frame-plan.ts';
export { type FrameRange, framesOf } from './frame-range.ts';
export { PLANE_NUMBERS } from './plane-sampler.ts';
export { CAMERA_NUMBERS, type ShotSample, sampleShot, speedsOf } from './sample.ts';
