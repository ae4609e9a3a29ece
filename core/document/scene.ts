import { z } from 'zod';
import { MOUNTS } from '../stage/index.ts';

/** The version this program writes. Older scenes are migrated, newer ones refused with a reason. */
export const SCENE_VERSION = 1;

export const LIMITS = {
  framePx: { min: 16, max: 16384 },
  lengthFrames: { min: 1, max: 100_000 },
  artPx: { min: 1, max: 65_536 },
  planes: { max: 500 },
  keys: { max: 20_000 },
  nameLength: { max: 200 },
  coordinateSpx: { min: -1e8, max: 1e8 },
  zoom: { min: 1e-4, max: 1e4 },
  homeDistanceSpx: { min: 16, max: 1e6 },
} as const;

const coordinate = z.number().min(LIMITS.coordinateSpx.min).max(LIMITS.coordinateSpx.max);
const unitInterval = z.number().min(0).max(1);

export const planeIdSchema = z.string().min(1).max(64).brand<'PlaneId'>();
export type PlaneId = z.infer<typeof planeIdSchema>;

/** SHA-256 of the art's PNG bytes, lower-case hex: the same image is stored once. */
export const artIdSchema = z
  .string()
  .regex(/^[0-9a-f]{64}$/, 'is not a SHA-256 in lower-case hex')
  .brand<'ArtId'>();
export type ArtId = z.infer<typeof artIdSchema>;

export const rateSchema = z.strictObject({
  num: z.int().min(1).max(10_000_000),
  den: z.int().min(1).max(10_000_000),
});

export const easeSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('linear') }),
  z.strictObject({ kind: z.literal('hold') }),
  z.strictObject({
    kind: z.literal('bezier'),
    x1: unitInterval,
    y1: z.number().min(-10).max(10),
    x2: unitInterval,
    y2: z.number().min(-10).max(10),
  }),
]);

const channelOf = (value: z.ZodNumber) =>
  z.strictObject({
    value,
    keys: z
      .array(z.strictObject({ frame: z.int().min(-100_000).max(200_000), value, ease: easeSchema }))
      .max(LIMITS.keys.max)
      .refine(
        (keys) => keys.every((key, i) => i === 0 || key.frame > (keys[i - 1]?.frame ?? 0)),
        'keys must stand in order of frame, no two on one frame',
      ),
  });

export const cameraSchema = z.strictObject({
  panX: channelOf(coordinate),
  panY: channelOf(coordinate),
  truck: channelOf(coordinate),
  zoom: channelOf(z.number().min(LIMITS.zoom.min).max(LIMITS.zoom.max)),
  roll: channelOf(z.number().min(-36_000).max(36_000)),
});

/** A half-open box of art px; null paint means that the art is empty. */
const boxSchema = z.strictObject({ x0: z.number(), y0: z.number(), x1: z.number(), y1: z.number() });

export const artRefSchema = z.strictObject({
  id: artIdSchema,
  widthPx: z.int().min(LIMITS.artPx.min).max(LIMITS.artPx.max),
  heightPx: z.int().min(LIMITS.artPx.min).max(LIMITS.artPx.max),
  painted: boxSchema.nullable(),
  /** Sides at which the paint is cut off by the border of the art. */
  cutEdges: z.strictObject({ left: z.boolean(), right: z.boolean(), top: z.boolean(), bottom: z.boolean() }),
});
export type ArtRef = z.infer<typeof artRefSchema>;

const nonZeroScale = z
  .number()
  .min(-1e6)
  .max(1e6)
  .refine((s) => Math.abs(s) > 1e-9, 'must not be zero');

export const transformSchema = z.strictObject({
  xSpx: coordinate,
  ySpx: coordinate,
  scaleX: nonZeroScale,
  scaleY: nonZeroScale,
  rotationDeg: z.number().min(-36_000).max(36_000),
  anchorXArtPx: coordinate,
  anchorYArtPx: coordinate,
});

export const planeSchema = z.strictObject({
  id: planeIdSchema,
  name: z.string().min(1).max(LIMITS.nameLength.max),
  art: artRefSchema,
  mount: z.enum(MOUNTS),
  depthSpx: coordinate,
  transform: transformSchema,
  opacity: unitInterval,
  hidden: z.boolean(),
});
export type Plane = z.infer<typeof planeSchema>;

export const frameSizeSchema = z.strictObject({
  widthPx: z.int().min(LIMITS.framePx.min).max(LIMITS.framePx.max),
  heightPx: z.int().min(LIMITS.framePx.min).max(LIMITS.framePx.max),
});

/** The whole set-up of a shot. `planes` run as the Stand lists them: on top first. */
export const sceneSchema = z
  .strictObject({
    version: z.literal(SCENE_VERSION),
    frame: frameSizeSchema,
    rate: rateSchema,
    lengthFrames: z.int().min(LIMITS.lengthFrames.min).max(LIMITS.lengthFrames.max),
    homeDistanceSpx: z.number().min(LIMITS.homeDistanceSpx.min).max(LIMITS.homeDistanceSpx.max),
    camera: cameraSchema,
    planes: z.array(planeSchema).max(LIMITS.planes.max),
  })
  .refine((scene) => new Set(scene.planes.map((plane) => plane.id)).size === scene.planes.length, {
    message: 'two planes share an id',
    path: ['planes'],
  })
  .refine((scene) => scene.planes.every((plane) => plane.depthSpx > -scene.homeDistanceSpx), {
    message: 'a plane stands at or behind the home camera',
    path: ['planes'],
  });
export type Scene = z.infer<typeof sceneSchema>;

export interface NewScene {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly rate: { readonly num: number; readonly den: number };
  readonly lengthFrames: number;
}

/** An empty stage. The home distance is the frame's width: an angle of view of 53.13°. */
export function newScene({ widthPx, heightPx, rate, lengthFrames }: NewScene): Scene {
  const at = (value: number) => ({ value, keys: [] });
  return {
    version: SCENE_VERSION,
    frame: { widthPx, heightPx },
    rate: { num: rate.num, den: rate.den },
    lengthFrames,
    homeDistanceSpx: widthPx,
    camera: { panX: at(0), panY: at(0), truck: at(0), zoom: at(1), roll: at(0) },
    planes: [],
  };
}
