import { type HandoffAsked, usualPattern } from '@keen-ridge/core/contract';
import {
  checkPattern,
  countFault,
  HANDOFF_FORMATS,
  type HandoffItem,
  handoffItems,
  listWords,
  namesFault,
  type PatternFault,
  sizeFault,
  sizeWords,
} from '@keen-ridge/core/export';
import type { Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import type { FrameRange } from '@keen-ridge/core/staging/frame';
import type { HandoffSettings } from '../session/choices/preferences.ts';

/** A request with nothing left to be said. */
export type WholeRequest = { [K in keyof HandoffAsked]-?: Exclude<HandoffAsked[K], undefined> };

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
}

/** The frames that are meant, both ends counted. */
function framesOf({ frames, typed }: HandoffWish, scene: Scene, inOut: FrameRange) {
  const whole = { firstFrame: 1, lastFrame: scene.lengthFrames };
  const asked = { whole, 'in-out': { firstFrame: inOut.start, lastFrame: inOut.end - 1 }, typed }[frames];
  const lastFrame = Math.min(asked.lastFrame, scene.lengthFrames);
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
  scene: Scene,
  inOut: FrameRange,
): WholeRequest {
  const { kind, handles } = settings;
  const format = HANDOFF_FORMATS[kind];
  const isFrames = format.made === 'frames';
  const planes = isFrames ? settings.planes : 'together';
  const { firstFrame, lastFrame } = framesOf(wish, scene, inOut);
  return {
    kind,
    firstFrame,
    lastFrame,
    handles,
    scale: settings.scalePercent / 100,
    ground: groundAsked(settings, format.alpha),
    depth: format.depths.includes(settings.depth) ? settings.depth : 8,
    planes,
    target: isFrames ? settings.target : 'zip',
    names: {
      pattern: wish.pattern ?? usualPattern(planes),
      // Only frames are called by numbers: what was typed for them says nothing of a film.
      startAt: (isFrames ? wish.startAt : null) ?? neededStart(firstFrame, handles),
    },
    take: wish.take,
    burnIn: settings.burnIn,
  };
}

/** What would come of a request, and the first thing that stands in its way. */
export interface HandoffOutlook {
  readonly size: { readonly widthPx: number; readonly heightPx: number };
  readonly items: readonly HandoffItem[];
  readonly patternFault: PatternFault | null;
  readonly fault: string | null;
}

export function handoffOutlook(request: WholeRequest, scene: Scene, shotName: string): HandoffOutlook {
  const { kind, planes, names, scale } = request;
  const format = HANDOFF_FORMATS[kind];
  const size = {
    widthPx: Math.max(1, Math.round(scene.frame.widthPx * scale)),
    heightPx: Math.max(1, Math.round(scene.frame.heightPx * scale)),
  };
  const checked = checkPattern(names.pattern, planes === 'each');
  const tooMany = countFault(scene, request);
  const items = checked.ok && !tooMany ? handoffItems(scene, shotName, request) : [];
  const fault = (): string | null => {
    if (planesOf(scene).length === 0) return 'There is nothing on the stage to hand off.';
    if (!checked.ok) return 'The pattern of the names does not hold.';
    const tooLarge = sizeFault(kind, size.widthPx, size.heightPx);
    if (tooLarge) return sizeWords(kind, size.widthPx, size.heightPx, tooLarge);
    const listed = tooMany ?? (format.made === 'frames' ? namesFault(items) : null);
    if (listed) return listWords(listed);
    return items.length > format.mostFrames ? `It holds ${format.mostFrames} frames at most.` : null;
  };
  return { size, items, patternFault: checked.ok ? null : checked.error, fault: fault() };
}
