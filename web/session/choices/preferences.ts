import { GUIDE_FORMATS } from '@keen-ridge/core/contract';
import { SHEET_PAPERS } from '@keen-ridge/core/contract/exports';
import { SIZINGS } from '@keen-ridge/core/edits/camera';
import { CHOSEN_SHOWN, DEPTH_FILES, HANDOFF_KINDS, PASSES } from '@keen-ridge/core/export';
import { ROCK_WAYS } from '@keen-ridge/core/stage';
import { z } from 'zod';
import { create } from 'zustand';
import { parseOrNull } from '../../api/client.ts';
import { readStored, store } from '../../api/storage/browser-storage.ts';

export const SURROUNDS = ['dark', 'mid', 'light'] as const;
export type Surround = (typeof SURROUNDS)[number];
/** Greys round the picture, as 8-bit values; r = g = b. */
export const SURROUND_GREY: Readonly<Record<Surround, number>> = { dark: 0x2e, mid: 0x7d, light: 0xcf };

/** Shares of width and height: SMPTE ST 2046-1 is 93 % and 90 %; the older set is 90 % and 80 %. */
export const SAFE_SETS = ['off', 'modern', 'older', 'custom'] as const;
export const ASPECTS = ['none', '2.39', '1.85', '4:3', '9:16'] as const;
export type Aspect = (typeof ASPECTS)[number];
export const VIEWS = ['camera', 'fielding', 'around'] as const;
export type ViewName = (typeof VIEWS)[number];
export const STAND_AXES = ['log', 'true'] as const;

export const MOVE_VIEWS = ['camera', 'fielding', 'above', 'curves'] as const;
export type MoveView = (typeof MOVE_VIEWS)[number];
/** `real-time` keeps to the clock and drops what it must; `every` shows every frame, however long it takes. */
export const PLAY_MODES = ['real-time', 'every'] as const;
export const PLAY_SPEEDS = [1, 0.5, 0.25] as const;
export const RULER_LABELS = ['seconds', 'timecode'] as const;
export const GHOSTS_OF = ['nothing', 'planes', 'frame'] as const;

export const LOOK_CLICKS = ['sharp', 'choose'] as const;
export const FINDINGS_BY = ['kind', 'plane', 'worst'] as const;
export type FindingsBy = (typeof FINDINGS_BY)[number];
export const ROOMS = ['system', 'light', 'dark'] as const;
export const WALL_SORTS = ['placed', 'name', 'newest', 'longest'] as const;
export type WallSort = (typeof WALL_SORTS)[number];

/** What is remembered of the last hand-off: all but its frames, names and take. */
const handoffSettingsSchema = z.object({
  kind: z.enum(HANDOFF_KINDS),
  handles: z.int().min(0).max(500),
  scalePercent: z.number().min(1).max(400),
  ground: z.enum(['clear', 'black', 'colour']),
  groundColour: z.string().regex(/^#[0-9a-f]{6}$/),
  depth: z.union([z.literal(8), z.literal(16)]),
  planes: z.enum(['together', 'each']),
  target: z.enum(['zip', 'folder']),
  burnIn: z.boolean(),
  pass: z.enum(PASSES).default('picture'),
  depthFile: z.enum(DEPTH_FILES).default('png'),
  pins: z.boolean().default(false),
  sound: z.boolean().default(true),
  looks: z.boolean().default(true),
  chosenShown: z.enum(['as-they-are', ...CHOSEN_SHOWN]).default('as-they-are'),
  /** Longest side of planes' pictures in a glTF, px. */
  artPx: z.int().min(16).max(8192).default(2048),
  paper: z.enum(SHEET_PAPERS).default('A4'),
});
export type HandoffSettings = z.infer<typeof handoffSettingsSchema>;

const dockSchema = z.object({ open: z.string().nullable(), widthPx: z.number().min(200).max(800) });
const FOLDED = { open: null, widthPx: 320 };

const preferencesSchema = z.object({
  /** The dock that is open beside the picture of a step, and its width in CSS px. */
  docks: z
    .object({ stage: dockSchema, move: dockSchema, look: dockSchema })
    .default({ stage: FOLDED, move: FOLDED, look: { open: 'light', widthPx: 286 } }),
  /** What a click in the picture of the Look step does. */
  lookClick: z.enum(LOOK_CLICKS).default('sharp'),
  handoff: handoffSettingsSchema.default({
    kind: 'png',
    handles: 0,
    scalePercent: 100,
    ground: 'clear',
    groundColour: '#808080',
    depth: 8,
    planes: 'together',
    target: 'zip',
    burnIn: false,
    pass: 'picture',
    depthFile: 'png',
    pins: false,
    sound: true,
    looks: true,
    chosenShown: 'as-they-are',
    artPx: 2048,
    paper: 'A4',
  }),
  /** Hand-offs as they were set, by name, for every shot. */
  handoffPresets: z
    .array(z.object({ name: z.string().min(1).max(80), settings: handoffSettingsSchema }))
    .max(50)
    .default([]),
  /** In which format guides are made. */
  guideKind: z.enum(GUIDE_FORMATS).default('openraster'),
  /** How findings are listed. */
  findingsBy: z.enum(FINDINGS_BY).default('kind'),
  /** Whether panels are light or dark; what surrounds the art is chosen apart from it. */
  room: z.enum(ROOMS).default('system'),
  /** How the shots of the wall are sorted. */
  wallSort: z.enum(WALL_SORTS).default('placed'),
  keying: z.boolean().default(true),
  holdPicture: z.boolean().default(true),
  loop: z.boolean().default(true),
  surround: z.enum(SURROUNDS).default('mid'),
  /** How strongly art outside the frame is dimmed, 0 to 1. */
  maskStrength: z.number().min(0).max(1).default(0.7),
  /** Guides over the picture. */
  safeAreas: z.enum(SAFE_SETS).default('off'),
  customSafe: z
    .object({ action: z.number().min(0.1).max(1), title: z.number().min(0.1).max(1) })
    .default({ action: 0.9, title: 0.8 }),
  fieldChart: z.boolean().default(false),
  thirds: z.boolean().default(false),
  centre: z.boolean().default(false),
  aspect: z.enum(ASPECTS).default('none'),
  /** One or two views of the stage, left to right. */
  views: z.array(z.enum(VIEWS)).min(1).max(2).default(['camera']),
  /** The same of the Move step. */
  moveViews: z.array(z.enum(MOVE_VIEWS)).min(1).max(2).default(['camera']),
  /** Whether dragging the size of a field keys the zoom or the truck. */
  sizing: z.enum(SIZINGS).default('zoom'),
  playMode: z.enum(PLAY_MODES).default('real-time'),
  playSpeed: z.literal(PLAY_SPEEDS).default(1),
  pingPong: z.boolean().default(false),
  rulerLabels: z.enum(RULER_LABELS).default('seconds'),
  /** Earlier and later frames laid over the picture: how many to either side, and how far apart. */
  ghosts: z
    .object({
      of: z.enum(GHOSTS_OF),
      before: z.int().min(0).max(5),
      after: z.int().min(0).max(5),
      step: z.int().min(1).max(1000),
    })
    .default({ of: 'nothing', before: 1, after: 1, step: 12 }),
  /** Height of the rows of the timing strip, CSS px. */
  stripHeight: z.number().min(100).max(1200).default(286),
  /** The same of the Look step, where the picture needs the room more. */
  lookStripHeight: z.number().min(100).max(1200).default(176),
  /** Drawing the path of the camera or of the chosen plane over the views. */
  showPath: z.boolean().default(true),
  ride: z
    .object({
      speed: z.literal(PLAY_SPEEDS),
      smoothSeconds: z.number().min(0).max(2),
      tolerancePx: z.number().min(0.05).max(50),
    })
    .default({ speed: 0.5, smoothSeconds: 0.08, tolerancePx: 1 }),
  standAxis: z.enum(STAND_AXES).default('log'),
  rock: z
    .object({
      way: z.enum(ROCK_WAYS),
      size: z.number().min(0.001).max(1),
      periodSeconds: z.number().min(0.5).max(60),
    })
    .default({ way: 'across', size: 0.1, periodSeconds: 4 }),
  /** The stand-in figure: how tall, and how many heads. */
  figure: z
    .object({ heightPx: z.number().min(1).max(100_000), heads: z.number().min(1).max(12) })
    .default({ heightPx: 480, heads: 6 }),
  lastFrameSize: z
    .object({ widthPx: z.number(), heightPx: z.number() })
    .default({ widthPx: 1920, heightPx: 1080 }),
});
type Preferences = z.infer<typeof preferencesSchema>;

const KEY = 'keen-ridge/preferences';

/** What was stored, field by field: one that another version wrote differently is as usual, and the others stay. */
export function preferencesFrom(text: string): Preferences {
  const there = z.record(z.string(), z.unknown()).safeParse(parseOrNull(text));
  const fields = Object.entries(preferencesSchema.shape).flatMap(([name, schema]) => {
    const value = there.success ? there.data[name] : undefined;
    return schema.safeParse(value).success ? [[name, value]] : [];
  });
  return preferencesSchema.parse(Object.fromEntries(fields));
}

/** Settings of this browser; they are kept when it closes. */
export const usePreferences = create<Preferences>(() => preferencesFrom(readStored(KEY) ?? ''));
usePreferences.subscribe((state) => store(KEY, JSON.stringify(state)));
export const setPreferences = (part: Partial<Preferences>): void => usePreferences.setState(part);
