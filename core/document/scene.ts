import { z } from 'zod';
import { airSchema, filterSchema, gradeSchema, paintSchema } from '../look/index.ts';
import { PATH_LIMITS, parsePath } from '../shapes/index.ts';

/** The version this program writes. Older scenes are migrated, newer ones refused with a reason. */
export const SCENE_VERSION = 6;

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
  keyFrame: { min: -100_000, max: 200_000 },
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

const keyFrame = z.int().min(LIMITS.keyFrame.min).max(LIMITS.keyFrame.max);
/** A whole frame as text, spelled in one way only, so that no two names mean one frame. */
const frameName = z
  .string()
  .regex(/^(0|-?[1-9]\d{0,6})$/, 'is not a whole frame')
  .refine(
    (name) => Number(name) >= LIMITS.keyFrame.min && Number(name) <= LIMITS.keyFrame.max,
    `must lie between ${LIMITS.keyFrame.min} and ${LIMITS.keyFrame.max}`,
  );
const holdsAtMost =
  (max: number) =>
  (records: object): boolean =>
    Object.keys(records).length <= max;

/** Muted: rests as if it had no keys. Locked: no edit reaches it. */
const marks = { muted: z.literal(true).optional(), locked: z.literal(true).optional() };

/** A channel as it is stored: its keys by frame. `channelOf` gives it as it plays. */
const keyed = (value: z.ZodNumber) =>
  z.strictObject({
    value,
    ...marks,
    keys: z
      .record(frameName, z.strictObject({ value, ease: easeSchema }))
      .refine(holdsAtMost(LIMITS.keys.max), `has over ${LIMITS.keys.max} keys`),
  });
export type ChannelRecord = z.infer<ReturnType<typeof keyed>>;

export const cameraSchema = z.strictObject({
  panX: keyed(coordinate),
  panY: keyed(coordinate),
  truck: keyed(coordinate),
  zoom: keyed(z.number().min(LIMITS.zoom.min).max(LIMITS.zoom.max)),
  roll: keyed(z.number().min(-36_000).max(36_000)),
  /** Depth that is sharp, spx from the datum. */
  focus: keyed(coordinate),
  /** Diameter of the opening, spx; at 0 everything is sharp. */
  iris: keyed(z.number().min(0).max(1e6)),
});

const placeSchema = z.tuple([coordinate, coordinate, coordinate]);

/** A path through space by length: keys in order of frame, with the bends that shape the way between them. */
export const trackSchema = z.strictObject({
  ...marks,
  points: z
    .array(
      z.discriminatedUnion('kind', [
        z.strictObject({
          kind: z.literal('key'),
          frame: keyFrame,
          at: placeSchema,
          smooth: z.boolean(),
          ease: easeSchema,
        }),
        z.strictObject({ kind: z.literal('bend'), at: placeSchema }),
      ]),
    )
    .min(1)
    .max(LIMITS.trackPoints.max)
    .refine(
      (points) => points[0]?.kind === 'key' && points.at(-1)?.kind === 'key',
      'a track begins and ends with a key',
    )
    .refine((points) => {
      const frames = points.flatMap((point) => (point.kind === 'key' ? [point.frame] : []));
      return frames.every((frame, i) => i === 0 || frame > (frames[i - 1] ?? 0));
    }, 'keys of a track must stand in order of frame, no two on one frame'),
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
});
export type CameraMove = z.infer<typeof moveSchema>;

export const markerIdSchema = z.string().min(1).max(64).brand<'MarkerId'>();
export type MarkerId = z.infer<typeof markerIdSchema>;
export const markerSchema = z.strictObject({
  frame: keyFrame,
  note: z.string().max(500),
});
export type Marker = z.infer<typeof markerSchema>;

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
  /** Slide across for one px down, before the turn. */
  skew: z.number().min(-1e6).max(1e6),
  anchorXArtPx: coordinate,
  anchorYArtPx: coordinate,
});

export const CYCLES = ['loop', 'once', 'there-and-back'] as const;
export type Cycle = (typeof CYCLES)[number];

export const exposureSchema = z.strictObject({
  art: artRefSchema,
  /** How long it shows, in frames of the moving plane's own rate. */
  hold: z.int().min(LIMITS.holdFrames.min).max(LIMITS.holdFrames.max),
});
export type Exposure = z.infer<typeof exposureSchema>;

export const shapeSchema = z.strictObject({
  id: z.string().min(1).max(64),
  /** SVG path data: closed outlines of absolute M, L and C, in art px. */
  path: z
    .string()
    .max(PATH_LIMITS.length)
    .refine((data) => parsePath(data).ok, 'is not path data of closed outlines'),
  paint: paintSchema,
});
export type Shape = z.infer<typeof shapeSchema>;

const pointSchema = z.tuple([z.number(), z.number()]);
export const SELECTION_MODES = ['add', 'subtract'] as const;
export type SelectionMode = (typeof SELECTION_MODES)[number];
const inMode = { mode: z.enum(SELECTION_MODES) };

/** One step of choosing what to cut, in px of the art that is cut. */
export const selectionStepSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('outline'), ...inMode, points: z.array(pointSchema).min(3).max(20_000) }),
  z.strictObject({
    kind: z.literal('colour'),
    ...inMode,
    at: pointSchema,
    /** Largest difference of any of the four channels, 0 to 255. */
    tolerance: z.number().min(0).max(255),
    contiguous: z.boolean(),
  }),
]);
export type SelectionStep = z.infer<typeof selectionStepSchema>;

/** A stroke of the copy brush: paint taken at `offset` from where it is put. */
export const copyStrokeSchema = z.strictObject({
  points: z.array(pointSchema).min(1).max(20_000),
  radiusPx: z.number().min(0.5).max(2000),
  offset: pointSchema,
});
export type CopyStroke = z.infer<typeof copyStrokeSchema>;

export const cutRecipeSchema = z.strictObject({
  steps: z.array(selectionStepSchema).max(1000),
  featherPx: z.number().min(0).max(500),
  fill: z.boolean(),
  copies: z.array(copyStrokeSchema).max(2000),
});
export type CutRecipe = z.infer<typeof cutRecipeSchema>;

/** How an image was made from another, so that it can be made anew; the other one stays stored. */
export const madeSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('cut'),
    cutId: z.string().min(1).max(64),
    from: artRefSchema,
    part: z.enum(['taken', 'left']),
    /** Upper left corner of this piece in the art that was cut. */
    atPx: pointSchema,
    recipe: cutRecipeSchema,
  }),
  z.strictObject({
    kind: z.literal('recoloured'),
    from: artRefSchema,
    hueDeg: z.number().min(-180).max(180),
    saturation: z.number().min(0).max(4),
    brightness: z.number().min(0).max(4),
  }),
  /** Shortened so that it meets itself when it is tiled. */
  z.strictObject({
    kind: z.literal('seam-closed'),
    from: artRefSchema,
    axis: z.enum(['across', 'down']),
    fadePx: z.int().min(1).max(LIMITS.artPx.max),
  }),
]);
export type Made = z.infer<typeof madeSchema>;

/** What stands on a plane. */
export const contentSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('still'), art: artRefSchema, made: madeSchema.nullable() }),
  z.strictObject({
    kind: z.literal('moving'),
    exposures: z.array(exposureSchema).min(1).max(LIMITS.exposures.max),
    cycle: z.enum(CYCLES),
    /** The shot's frame at which the first exposure begins; before it the first one shows. */
    startFrame: z.int().min(-100_000).max(200_000),
    /** Its own rate; null means the shot's. */
    rate: rateSchema.nullable(),
  }),
  z.strictObject({
    kind: z.literal('card'),
    widthPx: z.number().min(1).max(1e6),
    heightPx: z.number().min(1).max(1e6),
    paint: paintSchema,
  }),
  z.strictObject({
    kind: z.literal('shapes'),
    widthPx: z.number().min(1).max(1e6),
    heightPx: z.number().min(1).max(1e6),
    /** On top first. */
    shapes: z.array(shapeSchema).max(LIMITS.shapes.max),
  }),
]);
export type Content = z.infer<typeof contentSchema>;

/** Where the plane's art stood in the file that it came from, for bringing in the next version. */
export const originSchema = z.strictObject({
  file: z.string().max(500),
  layer: z.string().max(LIMITS.nameLength.max),
  xPx: coordinate,
  yPx: coordinate,
  paintingWidthPx: z.number().min(1).max(1e7),
  paintingHeightPx: z.number().min(1).max(1e7),
});
export type Origin = z.infer<typeof originSchema>;

export const mountSchema = z.discriminatedUnion('on', [
  z.strictObject({ on: z.literal('stage') }),
  z.strictObject({ on: z.literal('camera') }),
  /** Depth and place count from that plane's, in its own px. */
  z.strictObject({ on: z.literal('plane'), plane: planeIdSchema }),
]);
export type Mount = z.infer<typeof mountSchema>;

export const REPEATS = ['none', 'across', 'down', 'both'] as const;
/** Along which of its own axes a plane is tiled without end. */
export type Repeat = (typeof REPEATS)[number];

const runChannel = keyed(z.number().min(LIMITS.runSpeedPx.min).max(LIMITS.runSpeedPx.max));
const runTimes = z.int().min(LIMITS.runTimes.min).max(LIMITS.runTimes.max);

/** How a plane slides by itself, along its own axes: east and south positive. */
export const runSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('speed'),
    /** Px a frame as a plane on the datum would slide, so that depth scales it; or its own on the home frame. */
    unit: z.enum(['datum', 'own']),
    x: runChannel,
    y: runChannel,
  }),
  /** Closes exactly: so many of its own widths and heights in so many frames. */
  z.strictObject({
    kind: z.literal('cycle'),
    timesX: runTimes,
    timesY: runTimes,
    frames: z.int().min(LIMITS.lengthFrames.min).max(LIMITS.lengthFrames.max),
  }),
]);
export type Run = z.infer<typeof runSchema>;

const finite = z.number().min(-1e8).max(1e8);
const positive = z.number().min(1e-6).max(1e6);

/** Channels of a plane that have keys; they count from how it stands: added, but size and opacity multiply. */
export const planeMovesSchema = z.strictObject({
  x: keyed(finite).optional(),
  y: keyed(finite).optional(),
  depth: keyed(finite).optional(),
  scale: keyed(positive).optional(),
  turn: keyed(finite).optional(),
  opacity: keyed(z.number().min(0).max(1e6)).optional(),
  /** Diameter, output px. */
  blur: keyed(z.number().min(0).max(1000)).optional(),
});

export const PASSINGS = ['fade', 'defocus'] as const;
/** What a plane does while the camera comes near it and passes: over the last `overSpx` of distance. */
export const passingSchema = z.strictObject({
  way: z.enum(PASSINGS),
  overSpx: z.number().positive().max(1e7),
});
export type Passing = z.infer<typeof passingSchema>;

export const planeSchema = z.strictObject({
  id: planeIdSchema,
  name: z.string().min(1).max(LIMITS.nameLength.max),
  /** Planes of one group share its name; null stands alone. */
  group: z.string().min(1).max(LIMITS.nameLength.max).nullable(),
  content: contentSchema,
  origin: originSchema.nullable(),
  mount: mountSchema,
  depthSpx: coordinate,
  transform: transformSchema,
  repeat: z.enum(REPEATS),
  run: runSchema.nullable(),
  opacity: unitInterval,
  /** Null leaves the art as it was painted. */
  grade: gradeSchema.nullable(),
  moves: planeMovesSchema,
  /** In place of x, y and depth. */
  track: trackSchema.nullable(),
  passing: passingSchema.nullable(),
  hidden: z.boolean(),
  locked: z.boolean(),
});
export type Plane = z.infer<typeof planeSchema>;

export const frameSizeSchema = z.strictObject({
  widthPx: z.int().min(LIMITS.framePx.min).max(LIMITS.framePx.max),
  heightPx: z.int().min(LIMITS.framePx.min).max(LIMITS.framePx.max),
});

/**
 * The whole set-up of a shot, as records by id, so that what two artists did to different ones can be put together.
 * Whether its mounts hold is `soundSceneSchema`'s.
 */
export const sceneSchema = z
  .strictObject({
    version: z.literal(SCENE_VERSION),
    frame: frameSizeSchema,
    rate: rateSchema,
    lengthFrames: z.int().min(LIMITS.lengthFrames.min).max(LIMITS.lengthFrames.max),
    homeDistanceSpx: z.number().min(LIMITS.homeDistanceSpx.min).max(LIMITS.homeDistanceSpx.max),
    camera: cameraSchema,
    move: moveSchema,
    air: airSchema.nullable(),
    filter: filterSchema.nullable(),
    markers: z
      .record(markerIdSchema, markerSchema)
      .refine(holdsAtMost(LIMITS.markers.max), `has over ${LIMITS.markers.max} markers`),
    planes: z
      .record(planeIdSchema, planeSchema)
      .refine(holdsAtMost(LIMITS.planes.max), `has over ${LIMITS.planes.max} planes`),
    /**
     * Planes as the Stand lists them, on top first. A deleted plane keeps its place in it, so that it comes back to
     * where it was whatever others have done since.
     */
    order: z.array(planeIdSchema).max(LIMITS.order.max),
  })
  .superRefine(({ planes, order }, context) => {
    const fault = orderFault(planes, order);
    if (fault) context.addIssue({ code: 'custom', ...fault });
  });
export type Scene = z.infer<typeof sceneSchema>;

/** Why the planes and their order do not belong together, or null. */
export function orderFault(
  planes: Readonly<Record<string, Plane>>,
  order: readonly PlaneId[],
): { readonly message: string; readonly path: string[] } | null {
  const listed = new Set(order);
  if (listed.size !== order.length) return { message: 'names a plane twice', path: ['order'] };
  for (const [id, plane] of Object.entries(planes)) {
    if (plane.id !== id) return { message: `is called ${plane.id} within`, path: ['planes', id, 'id'] };
    if (!listed.has(plane.id)) return { message: `lacks the plane ${id}`, path: ['order'] };
  }
  return null;
}

export interface NewScene {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly rate: { readonly num: number; readonly den: number };
  readonly lengthFrames: number;
}

/** An empty stage. The home distance is the frame's width: an angle of view of 53.13°. */
export function newScene({ widthPx, heightPx, rate, lengthFrames }: NewScene): Scene {
  const at = (value: number) => ({ value, keys: {} });
  return {
    version: SCENE_VERSION,
    frame: { widthPx, heightPx },
    rate: { num: rate.num, den: rate.den },
    lengthFrames,
    homeDistanceSpx: widthPx,
    camera: { panX: at(0), panY: at(0), truck: at(0), zoom: at(1), roll: at(0), focus: at(0), iris: at(0) },
    move: plainMove(),
    air: null,
    filter: null,
    markers: {},
    planes: {},
    order: [],
  };
}

/** A camera that moves by its channels alone, zooming by even growth. */
export const plainMove = (): CameraMove => ({
  track: null,
  sway: null,
  zoomSteps: 'even',
  truckSteps: 'plain',
  keepSize: null,
});
