import { type Rational, rationalToNumber } from '../units/index.ts';

/** Rates offered first; any positive ratio is allowed. */
export const COMMON_RATES: readonly Rational[] = [
  { num: 24, den: 1 },
  { num: 25, den: 1 },
  { num: 30, den: 1 },
  { num: 24000, den: 1001 },
  { num: 30000, den: 1001 },
  { num: 12, den: 1 },
];

/** Seconds from the start of frame 1 to the start of `frame`. */
export const secondsAtFrame = (frame: number, rate: Rational): number => ((frame - 1) * rate.den) / rate.num;

/** Length in seconds of `frames` frames. */
export const secondsOfFrames = (frames: number, rate: Rational): number => (frames * rate.den) / rate.num;

/** Whole frames nearest to a length in seconds, at least 1. */
export const framesOfSeconds = (seconds: number, rate: Rational): number =>
  Math.max(1, Math.round(seconds * rationalToNumber(rate)));

/** The frame of another rate that stands nearest to the start of `frame` in time; exact in whole numbers. */
export const frameAtRate = (frame: number, from: Rational, to: Rational): number =>
  1 + Math.round(((frame - 1) * (to.num * from.den)) / (to.den * from.num));
