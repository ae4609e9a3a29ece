export { type Flicker, flickerAt } from './flicker.ts';
export type { Place } from './path.ts';
export { type PenSample, placesOfRide } from './ride.ts';
export { cyclePhase, runDistance } from './run.ts';
export { canLoop, SWAY_AXES, type Sway, type SwayAxis, smoothStep, swayAt, swayMeasure } from './sway.ts';
export {
  addBend,
  movePoint,
  removeBend,
  setCorner,
  type Track,
  type TrackPoint,
  trackKeys,
  trackLength,
  trackLengthAt,
  trackPlaceAt,
} from './track.ts';
export {
  beyondOf,
  putTrackKey,
  shiftTrack,
  smoothTrackKeys,
  trackAsChannel,
  trackByLength,
  trackFromChannel,
} from './track-keys.ts';
export { type Field, smoothWay } from './zoom-pan.ts';
