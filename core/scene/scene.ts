import { z } from 'zod';
import { airSchema, filterSchema } from '../paint/index.ts';
import { cameraLooksSchema, cameraSchema, moveSchema, plainMove } from './camera.ts';
import { keyFrame } from './channel.ts';
import { markerIdSchema, type PlaneId, planeIdSchema } from './ids.ts';
import { frameSizeSchema, holdsAtMost, LIMITS, rateSchema } from './limits.ts';
import { type Plane, planeSchema } from './plane.ts';
import { soundSchema } from './sound/index.ts';

/** The version this program writes. Older scenes are migrated, newer ones refused with a reason. */
export const SCENE_VERSION = 10;

export const markerSchema = z.strictObject({
  frame: keyFrame,
  note: z.string().max(500),
});

export type Marker = z.infer<typeof markerSchema>;

const MOST_LEFT = 2000;

/** What the artist has said about what the survey finds: faults that are left so, each with how bad it was then. */
export const surveySchema = z.strictObject({
  leftSo: z
    .record(
      z.string().min(1).max(300),
      z.strictObject({ note: z.string().max(500), measured: z.number().min(0).max(1e12) }),
    )
    .refine(holdsAtMost(MOST_LEFT), `has over ${MOST_LEFT} findings left so`),
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
    looks: cameraLooksSchema.optional(),
    sound: soundSchema.nullable().optional(),
    /** What is said about findings of the survey; without a word all are open. */
    survey: surveySchema.optional(),
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
