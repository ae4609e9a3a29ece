import { z } from 'zod';
import { CLEAR_VISIBILITY_SPX } from '../paint/index.ts';
import { keyed, keyedColour, keyedDepth } from './channel.ts';
import { planeIdSchema } from './ids.ts';
import { coordinate, LIMITS, unitInterval } from './limits.ts';
import { trackSchema } from './track.ts';

export const cameraSchema = z.strictObject({
  panX: keyed(coordinate),
  panY: keyed(coordinate),
  truck: keyed(coordinate),
  zoom: keyed(z.number().min(LIMITS.zoom.min).max(LIMITS.zoom.max)),
  roll: keyed(z.number().min(-36_000).max(36_000)),
  /** Depth that is sharp, spx from the datum. */
  focus: keyedDepth(coordinate),
  /** Diameter of the opening, spx; at 0 everything is sharp. */
  iris: keyed(z.number().min(0).max(1e6)),
});

/** What of the camera's looks has keys; what has none is as `air` and `filter` say. */
export const cameraLooksSchema = z.strictObject({
  airColour: keyedColour().optional(),
  visibility: keyed(z.number().min(1).max(CLEAR_VISIBILITY_SPX)).optional(),
  brightness: keyed(z.number().min(0).max(4)).optional(),
  tint: keyedColour().optional(),
  tintStrength: keyed(unitInterval).optional(),
  glow: keyed(unitInterval).optional(),
  vignette: keyed(unitInterval).optional(),
});

const spxAmplitude = z.number().min(0).max(1e6);

export const swaySchema = z.strictObject({
  on: z.boolean(),
  amplitude: z.strictObject({
    panX: spxAmplitude,
    panY: spxAmplitude,
    truck: spxAmplitude,
    roll: z.number().min(0).max(360),
  }),
  frequencyHz: z.number().min(0.01).max(100),
  seed: z.int().min(0).max(1e9),
  fadeInFrames: z.int().min(0).max(LIMITS.lengthFrames.max),
  fadeOutFrames: z.int().min(0).max(LIMITS.lengthFrames.max),
  loops: z.boolean(),
});

export const STEPS = ['even', 'plain'] as const;

/** `even`: by equal growth each frame; `plain`: by equal steps of the number. */
export type Steps = (typeof STEPS)[number];

/** How the camera moves beside its channels. */
export const moveSchema = z.strictObject({
  /** In place of pan and truck: through (pan E–W, pan N–S, truck). */
  track: trackSchema.nullable(),
  sway: swaySchema.nullable(),
  zoomSteps: z.enum(STEPS),
  /** `even`: the distance to the datum shrinks by one ratio each frame. */
  truckSteps: z.enum(STEPS),
  /**
   * The zoom makes up for what a truck does to the size of a plane: of all of it, from the distance that it had when
   * this was set; or only of what would leave the plane smaller than the shot opens with.
   */
  keepSize: z
    .discriminatedUnion('how', [
      z.strictObject({
        how: z.literal('same'),
        plane: planeIdSchema,
        distanceSpx: z.number().positive().max(1e9),
      }),
      z.strictObject({ how: z.literal('no-smaller'), plane: planeIdSchema }),
    ])
    .nullable(),
  /** The iris makes up for what moves, so that a plane stays blurred by so many output px; at most four times as wide as keyed. */
  keepBlur: z.strictObject({ plane: planeIdSchema, blurPx: z.number().min(0).max(1000) }).optional(),
});

export type CameraMove = z.infer<typeof moveSchema>;

/** A camera that moves by its channels alone, zooming by even growth. */
export const plainMove = (): CameraMove => ({
  track: null,
  sway: null,
  zoomSteps: 'even',
  truckSteps: 'plain',
  keepSize: null,
});
