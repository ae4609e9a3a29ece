export { PLANE_NUMBERS } from './plane-sampler.ts';
export { CAMERA_NUMBERS, type ShotSample, sampleShot, speedsOf } from './sample.ts';
export { datumSlides, pacedChannelAt } from './speeds.ts';
