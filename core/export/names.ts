import { fail, ok, type Result } from '../units/index.ts';
import { HANDOFF_FORMATS, type HandoffKind } from './formats.ts';
import { type ChosenPlanes, chosenStem } from './plan-asked.ts';
import type { DepthFile, PassName } from './what-frames-show.ts';

/** What a pattern may name: the shot, the take, the plane, the number of the frame. */
export const NAME_PARTS = ['shot', 'take', 'plane', 'frame'] as const;
export type NamePart = (typeof NAME_PARTS)[number];
export const FRAMES_PATTERN = '{shot}_{frame:4}';
export const PLANES_PATTERN = '{plane}/{shot}_{plane}_{frame:4}';

const PART = /\{([a-z]+)(?::(\d{1,2}))?\}/g;

/** Digits that a frame's number may be padded to: no shot has more frames than eight of them tell. */
export const MOST_DIGITS = 12;

export type PatternFault =
  | { readonly code: 'unknown-part'; readonly part: string }
  | { readonly code: 'no-frame' }
  | { readonly code: 'no-plane' }
  | { readonly code: 'many-digits'; readonly digits: number }
  | { readonly code: 'bad-character'; readonly character: string };

/**
 * Checks a pattern such as `{shot}_{frame:4}`: parts in braces, the frame with its least number of digits; `/` makes
 * folders. Each frame must get a name of its own, and each plane where planes leave one by one.
 */
export function checkPattern(pattern: string, eachPlane: boolean): Result<string, PatternFault> {
  const parts = [...pattern.matchAll(PART)].map((match) => match[1] ?? '');
  const digits = Math.max(0, ...[...pattern.matchAll(PART)].map((match) => Number(match[2] ?? 0)));
  if (digits > MOST_DIGITS) return fail({ code: 'many-digits', digits });
  const unknown = parts.find((part) => !NAME_PARTS.some((known) => known === part));
  if (unknown !== undefined) return fail({ code: 'unknown-part', part: unknown });
  const [character] = pattern.replace(PART, '').match(/[^\p{L}\p{N}_ ./-]|\.\./u) ?? [];
  if (character !== undefined) return fail({ code: 'bad-character', character });
  if (pattern.startsWith('/')) return fail({ code: 'bad-character', character: '/' });
  if (!parts.includes('frame')) return fail({ code: 'no-frame' });
  if (eachPlane && !parts.includes('plane')) return fail({ code: 'no-plane' });
  return ok(pattern);
}

/** Longest part that a name gives to a file name, in UTF-16 units. */
export const LONGEST_STEM = 80;

/** A name as part of a file name on any system. */
export const fileStem = (name: string): string =>
  name
    .normalize('NFC')
    .replace(/[^\p{L}\p{N}.-]+/gu, '_')
    .replace(/^[_.]+|[_.]+$/g, '')
    .slice(0, LONGEST_STEM)
    // Not half a character, where the cut fell into one.
    .replace(/[\ud800-\udbff]$/, '') || 'shot';

/** What tells the file of one hand-off from that of another of the same shot. */
export interface OutputAsked {
  readonly kind: HandoffKind;
  readonly firstFrame: number;
  readonly lastFrame: number;
  readonly handles: number;
  readonly scale: number;
  readonly depth: 8 | 16;
  readonly planes: 'together' | 'each';
  readonly take: string;
  readonly burnIn: boolean;
  readonly pins: boolean;
  readonly sound: boolean;
  readonly looks: boolean;
  readonly chosen: ChosenPlanes | null;
  readonly pass: PassName;
  readonly depthFile: DepthFile;
  readonly names: { readonly startAt: number | null };
}

/** What two kinds that end alike are told apart by. */
const CODED: Readonly<Partial<Record<HandoffKind, string>>> = {
  webm: 'vp9',
  'webm-av1': 'av1',
  'contact-sheet': 'contact-sheet',
};

const PASS_WORDS: Readonly<Record<PassName, string | null>> = {
  picture: null,
  depth: 'depth',
  matte: 'mattes',
  'matte-seen': 'mattes-seen',
  motion: 'motion',
};

/** The file name of a hand-off: another for all that would look otherwise, so that none takes another's place. */
export function outputName(shotName: string, asked: OutputAsked): string {
  const { kind, firstFrame, lastFrame, handles, scale, depth, planes, take, names, pass, depthFile } = asked;
  const { burnIn, pins, sound, looks, chosen } = asked;
  const format = HANDOFF_FORMATS[kind];
  const first = names.startAt ?? firstFrame - handles;
  const last = first + lastFrame - firstFrame + 2 * handles;
  const parts = [
    fileStem(shotName),
    take.trim() !== '' && fileStem(take),
    `${first}-${last}`,
    PASS_WORDS[pass],
    depthFile !== 'png' && depthFile,
    planes === 'each' && pass === 'picture' && 'planes',
    CODED[kind],
    depth === 16 && pass === 'picture' && '16bit',
    scale !== 1 && `${Math.round(scale * 10_000) / 100}pc`,
    burnIn && 'burnt-in',
    pins && 'pins',
    sound && format.sound && 'sound',
    !looks && 'without-looks',
    chosen && chosenStem(chosen),
  ];
  return `${parts.filter((part) => typeof part === 'string').join('_')}.${format.extension}`;
}

/** The name that a checked pattern gives, without its ending. Digits are padded with noughts, a minus stands first. */
export const patternName = (pattern: string, values: Readonly<Record<NamePart, string | number>>): string =>
  pattern.replace(PART, (_whole, part: NamePart, digits: string | undefined) => {
    const value = values[part];
    if (typeof value === 'string') return fileStem(value);
    const size = String(Math.abs(value)).padStart(Number(digits ?? 1), '0');
    return value < 0 ? `-${size}` : size;
  });
