export {
  type FramePlan,
  framePlan,
  type Haze,
  PLANE_STATES,
  type PlaneLook,
  type PlanePlan,
  type PlaneState,
} from './frame-plan.ts';
export { type FrameRange, framesOf, wholeShot } from './frame-range.ts';
export { PLANE_NUMBERS } from './plane-sampler.ts';
export { CAMERA_NUMBERS, type ShotSample, sampleCsv, sampleShot, speedsOf } from './sample.ts';
