import { z } from 'zod';
import {
  CHOSEN_SHOWN,
  checkPattern,
  DEPTH_FILES,
  FRAMES_PATTERN,
  HANDOFF_FORMATS,
  HANDOFF_KINDS,
  isNumberPass,
  isPlanePass,
  MOST_DIGITS,
  PASSES,
  type PatternFault,
  PLANES_PATTERN,
  STILL_KINDS,
} from '../export/index.ts';
import { planeIdSchema } from '../scene/index.ts';
import { assertNever } from '../units/index.ts';

const MOST_HANDLES = 500;
const ground = z.union([
  z.literal('clear'),
  z.string().regex(/^#[0-9a-f]{6}$/, 'is not a colour such as #7f9fbf'),
]);

/** Why a pattern of file names does not hold, to stand behind its field. */
export function patternWords(fault: PatternFault): string {
  switch (fault.code) {
    case 'unknown-part':
      return `{${fault.part}} is not known: there are {shot}, {take}, {plane} and {frame}`;
    case 'no-frame':
      return 'the name needs {frame}, or all frames would be called the same';
    case 'many-digits':
      return `{frame:${fault.digits}} is more than the ${MOST_DIGITS} digits that a number may have`;
    case 'no-plane':
      return 'the name needs {plane}, or all planes would be called the same';
    case 'bad-character':
      return `“${fault.character}” cannot stand in a file name here`;
    default:
      return assertNever(fault);
  }
}

/**
 * What is to leave: frames firstFrame – lastFrame, both included, as people count them, with so many `handles` more at
 * either end. What is not said has its usual value.
 */
const requestShape = z.strictObject({
  kind: z.enum(HANDOFF_KINDS),
  firstFrame: z.int().min(1),
  lastFrame: z.int().min(1),
  handles: z.int().min(0).max(MOST_HANDLES).default(0),
  /** Of the output size. */
  scale: z.number().min(0.01).max(4).default(1),
  /** What lies under everything; clear only where the format has alpha. Null: clear for frames, black for films. */
  ground: ground.nullable().default(null),
  depth: z.union([z.literal(8), z.literal(16)]).default(8),
  planes: z.enum(['together', 'each']).default('together'),
  /** What frames show. */
  pass: z.enum(PASSES).default('picture'),
  depthFile: z.enum(DEPTH_FILES).default('png'),
  target: z.enum(['zip', 'folder']).default('zip'),
  names: z
    .strictObject({
      pattern: z.string().min(1).max(200),
      /** Number of the first frame that leaves; null keeps the shot's own. */
      startAt: z.int().min(0).max(9_999_999).nullable(),
    })
    .default({ pattern: FRAMES_PATTERN, startAt: null }),
  /** Named in files and burnt in. */
  take: z.string().max(200).default(''),
  burnIn: z.boolean().default(false),
  /** Whether the sound of the shot is heard in a film that can hold one. */
  sound: z.boolean().default(false),
  /** Whether pins are drawn with their names. */
  pins: z.boolean().default(false),
  /** Whether planes leave with grades, air, blur, focus and filter; of the picture alone. */
  looks: z.boolean().default(true),
  /** Planes that are drawn alone, or dimmed. */
  chosen: z
    .strictObject({ ids: z.array(planeIdSchema).min(1).max(1000), shown: z.enum(CHOSEN_SHOWN) })
    .nullable()
    .default(null),
});

const checked = requestShape.superRefine((request, context) => {
  const format = HANDOFF_FORMATS[request.kind];
  const fault = (path: string, message: string) =>
    context.addIssue({ code: 'custom', message, path: [path] });
  if (request.lastFrame < request.firstFrame) fault('lastFrame', 'the last frame lies before the first');
  if (!format.depths.includes(request.depth)) fault('depth', `${request.kind} has no ${request.depth} bit`);
  if (request.planes === 'each' && format.made !== 'frames')
    fault('planes', 'only frames leave plane by plane');
  if (request.pass !== 'picture' && format.made !== 'frames')
    fault('pass', 'only frames leave as depth, mattes or motion');
  if (request.pass === 'depth' && request.planes !== 'together')
    fault('pass', 'depth is of all planes together');
  if (isPlanePass(request.pass) && request.planes !== 'each')
    fault('pass', 'mattes and motion leave plane by plane');
  if (request.pass !== 'picture' && request.depth !== (isNumberPass(request.pass) ? 16 : 8))
    fault('depth', 'depth and motion leave in 16 bit, mattes in 8 bit');
  if (request.depthFile !== 'png' && !isNumberPass(request.pass))
    fault('depthFile', 'only depth and motion leave as OpenEXR');
  if (request.pass !== 'picture' && (request.pins || request.burnIn))
    fault('pass', 'words and pins are drawn on the picture alone');
  if (request.target === 'folder' && format.made !== 'frames')
    fault('target', 'only frames go into a folder');
  const frames = request.lastFrame - request.firstFrame + 1 + 2 * request.handles;
  if (frames > format.mostFrames)
    fault('lastFrame', `${frames} frames are more than the ${format.mostFrames} it can hold`);
  const pattern = checkPattern(request.names.pattern, request.planes === 'each');
  if (!pattern.ok) fault('names', patternWords(pattern.error));
  if (request.names.startAt === null && request.firstFrame - request.handles < 0)
    fault('names', 'frames before 0 need a number to start at');
});

/** Hand-offs of the first version knew two kinds by other names. */
export const handoffRequestSchema = z.preprocess(
  (data) =>
    typeof data === 'object' && data !== null && 'kind' in data && data.kind === 'png-zip'
      ? { ...data, kind: 'png' }
      : data,
  checked,
);
export type HandoffRequest = z.output<typeof handoffRequestSchema>;
/** As it is asked for: what has a usual value may be left out. */
export type HandoffAsked = z.input<typeof checked>;

/** What lies under everything in the end. */
export function groundOf({
  kind,
  ground: asked,
  pass,
}: Pick<HandoffRequest, 'kind' | 'ground' | 'pass'>): string {
  // Black is what a pass says where there is nothing.
  if (pass !== 'picture') return '#000000';
  const format = HANDOFF_FORMATS[kind];
  const usual = kind === 'png' || kind === 'apng' ? 'clear' : '#000000';
  return asked === null || (asked === 'clear' && !format.alpha) ? usual : asked;
}

export const usualPattern = (planes: HandoffRequest['planes']): string =>
  planes === 'each' ? PLANES_PATTERN : FRAMES_PATTERN;

export const handoffStateSchema = z.discriminatedUnion('state', [
  z.object({ state: z.literal('queued'), total: z.int() }),
  z.object({
    state: z.literal('running'),
    /** Pictures that are in the file. */
    done: z.int(),
    total: z.int(),
    /** Pictures that are rendered. */
    rendered: z.int().default(0),
    secondsLeft: z.number().nullable().default(null),
  }),
  z.object({
    state: z.literal('done'),
    total: z.int(),
    fileName: z.string(),
    bytes: z.int(),
    seconds: z.number(),
    /** Pictures that had been rendered before, and were not again. */
    reused: z.int().default(0),
    /** Where a folder was written on the server's machine; null for a file. */
    folder: z.string().nullable().default(null),
  }),
  z.object({ state: z.literal('failed'), reason: z.string() }),
  z.object({ state: z.literal('cancelled') }),
]);
export type HandoffState = z.output<typeof handoffStateSchema>;

export const handoffSchema = z.object({
  id: z.uuid(),
  /** Null where it was stored by a version that asked in another way. */
  request: handoffRequestSchema.nullable(),
  at: z.string(),
  progress: handoffStateSchema,
  /** Place in the queue of the whole server, from 1; null once it is over. */
  place: z.int().nullable(),
});
export type Handoff = z.infer<typeof handoffSchema>;
export const handoffListSchema = z.object({
  handoffs: z.array(handoffSchema),
  filmReady: z.boolean(),
  /** Processes that render for this server now. */
  workers: z.int(),
  /** Processes of other versions of the program, which render nothing for this one. */
  strangers: z.int().default(0),
});
export type HandoffList = z.infer<typeof handoffListSchema>;

/** Names of a hand-off's pictures, in order. */
export const handoffFramesSchema = z.object({ names: z.array(z.string()) });

export const handoffMoveSchema = z.strictObject({ way: z.enum(['sooner', 'later']) });

export const handoffNameSchema = z.strictObject({ name: z.string().trim().min(1).max(200) });

export const stillQuerySchema = z.object({
  frame: z.coerce.number().int().min(-100_000).max(200_000),
  format: z.enum(STILL_KINDS),
  scale: z.coerce.number().min(0.01).max(4).default(1),
});
