import { type HandoffRequest, usualPattern } from '@keen-ridge/core/contract';
import { HANDOFF_FORMATS, isNumberPass, isPlanePass } from '@keen-ridge/core/export';
import type { PlaneId, Scene } from '@keen-ridge/core/scene';
import type { FrameRange } from '@keen-ridge/core/staging/frame';
import type { HandoffSettings } from './preferences.ts';

/** Which frames: all, those between in and out, or two that were typed. */
export const FRAMES_ASKED = ['whole', 'in-out', 'typed'] as const;
export type FramesAsked = (typeof FRAMES_ASKED)[number];

/** What is asked of one hand-off beside the settings that are remembered. */
export interface HandoffWish {
  readonly frames: FramesAsked;
  /** Both ends count. */
  readonly typed: { readonly firstFrame: number; readonly lastFrame: number };
  readonly pattern: string | null;
  readonly startAt: number | null;
  readonly take: string;
  /** The planes that are chosen in the shot: they are drawn alone or dimmed where the settings say so. */
  readonly chosen: readonly PlaneId[];
}

type Length = Pick<Scene, 'lengthFrames'>;

/** Nothing is asked for but what the settings say, of the whole shot. */
export const wholeShot = ({ lengthFrames }: Length): HandoffWish => ({
  frames: 'whole',
  typed: { firstFrame: 1, lastFrame: lengthFrames },
  pattern: null,
  startAt: null,
  take: '',
  chosen: [],
});

/** The frames that are meant, both ends counted. */
function framesOf({ frames, typed }: HandoffWish, { lengthFrames }: Length, inOut: FrameRange) {
  const whole = { firstFrame: 1, lastFrame: lengthFrames };
  const asked = { whole, 'in-out': { firstFrame: inOut.start, lastFrame: inOut.end - 1 }, typed }[frames];
  const lastFrame = Math.min(asked.lastFrame, lengthFrames);
  return { firstFrame: Math.max(1, Math.min(asked.firstFrame, lastFrame)), lastFrame };
}

/** Handles may begin before frame 0, which no file name counts. */
const neededStart = (firstFrame: number, handles: number): number | null =>
  firstFrame - handles < 0 ? 0 : null;

const groundAsked = ({ ground, groundColour }: HandoffSettings, alpha: boolean): string =>
  ground === 'colour' ? groundColour : ground === 'clear' && alpha ? 'clear' : '#000000';

/** The request that settings and wishes come to. */
export function handoffRequest(
  settings: HandoffSettings,
  wish: HandoffWish,
  shot: Length,
  inOut: FrameRange,
): HandoffRequest {
  const { kind, handles } = settings;
  const format = HANDOFF_FORMATS[kind];
  const isFrames = format.made === 'frames';
  const pass = isFrames ? settings.pass : 'picture';
  const isPicture = pass === 'picture';
  const planesOfFrames = isPicture ? settings.planes : isPlanePass(pass) ? 'each' : 'together';
  const planes = isFrames ? planesOfFrames : 'together';
  const depth = isPicture ? settings.depth : isNumberPass(pass) ? 16 : 8;
  const shown = settings.chosenShown;
  const { firstFrame, lastFrame } = framesOf(wish, shot, inOut);
  return {
    kind,
    firstFrame,
    lastFrame,
    handles,
    scale: settings.scalePercent / 100,
    ground: groundAsked(settings, format.alpha),
    depth: format.depths.includes(depth) ? depth : 8,
    pass,
    depthFile: isNumberPass(pass) ? settings.depthFile : 'png',
    planes,
    target: isFrames ? settings.target : 'zip',
    names: {
      pattern: wish.pattern ?? usualPattern(planes),
      // Only frames are called by numbers: what was typed for them says nothing of a film.
      startAt: (isFrames ? wish.startAt : null) ?? neededStart(firstFrame, handles),
    },
    take: wish.take,
    burnIn: settings.burnIn && isPicture,
    pins: settings.pins && isPicture,
    sound: settings.sound && format.sound,
    looks: settings.looks || !isPicture,
    chosen: shown === 'as-they-are' || wish.chosen.length === 0 ? null : { ids: [...wish.chosen], shown },
  };
}
