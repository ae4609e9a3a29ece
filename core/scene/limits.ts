import { z } from 'zod';

export const LIMITS = {
  framePx: { min: 1, max: 16384 },
  lengthFrames: { min: 1, max: 100_000 },
  artPx: { min: 1, max: 65_536 },
  planes: { max: 500 },
  /** Places in the order, with those that deleted planes keep. */
  order: { max: 10_000 },
  keys: { max: 20_000 },
  nameLength: { max: 200 },
  coordinateSpx: { min: -1e8, max: 1e8 },
  zoom: { min: 1e-4, max: 1e4 },
  homeDistanceSpx: { min: 16, max: 1e6 },
  exposures: { max: 5000 },
  holdFrames: { min: 1, max: 100_000 },
  shapes: { max: 200 },
  runSpeedPx: { min: -1e6, max: 1e6 },
  runTimes: { min: -10_000, max: 10_000 },
  trackPoints: { max: 5000 },
  markers: { max: 1000 },
  /** Pins of one plane. */
  pins: { max: 200 },
  keyFrame: { min: -100_000, max: 200_000 },
} as const;

export const coordinate = z.number().min(LIMITS.coordinateSpx.min).max(LIMITS.coordinateSpx.max);

export const unitInterval = z.number().min(0).max(1);

export const holdsAtMost =
  (max: number) =>
  (records: object): boolean =>
    Object.keys(records).length <= max;

export const frameSizeSchema = z.strictObject({
  widthPx: z.int().min(LIMITS.framePx.min).max(LIMITS.framePx.max),
  heightPx: z.int().min(LIMITS.framePx.min).max(LIMITS.framePx.max),
});

/** Frames a second. */
export const rateSchema = z.strictObject({
  num: z.int().min(1).max(10_000_000),
  den: z.int().min(1).max(10_000_000),
});
