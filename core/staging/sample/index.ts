export { PLANE_NUMBERS } from './plane-sampler.ts';
export { CAMERA_NUMBERS, type ShotSample, sampleShot, speedsOf } from './sample.ts';
