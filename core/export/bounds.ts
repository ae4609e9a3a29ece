import type { Scene } from '../scene/index.ts';
import { planesOf } from '../scene/records/index.ts';
import { assertNever, type Rational, rationalText, rationalToNumber } from '../units/index.ts';
import { HANDOFF_FORMATS, type HandoffKind } from './formats.ts';
import { framesWanted, type HandoffItem, type Wanted } from './items.ts';

/** Pictures of one hand-off at most: each is planned, named and looked up on its own. */
export const MOST_PICTURES = 200_000;
/** Longest part of a path in bytes of UTF-8, its ending too: what every common file system takes. */
export const LONGEST_PART_BYTES = 200;
/** Side of a macroblock, px (ITU-T H.264, section 3). */
const MACROBLOCK_PX = 16;

export type SizeFault =
  | { readonly code: 'side'; readonly mostPx: number }
  | { readonly code: 'small'; readonly leastPx: number }
  | { readonly code: 'macroblocks'; readonly most: number; readonly are: number };

/** What of a picture of this size the format cannot hold; null where it can. */
export function sizeFault(kind: HandoffKind, widthPx: number, heightPx: number): SizeFault | null {
  const { leastPx, mostPx, mostMacroblocks } = HANDOFF_FORMATS[kind];
  if (Math.min(widthPx, heightPx) < leastPx) return { code: 'small', leastPx };
  if (Math.max(widthPx, heightPx) > mostPx) return { code: 'side', mostPx };
  const are = Math.ceil(widthPx / MACROBLOCK_PX) * Math.ceil(heightPx / MACROBLOCK_PX);
  return mostMacroblocks !== null && are > mostMacroblocks
    ? { code: 'macroblocks', most: mostMacroblocks, are }
    : null;
}

/** What a format makes of a rate that it cannot show, as a sentence; null where it shows it. */
export function rateWords(kind: HandoffKind, rate: Rational): string | null {
  const { mostRate } = HANDOFF_FORMATS[kind];
  return mostRate !== null && rationalToNumber(rate) > mostRate
    ? `${kind} shows ${mostRate} frames a second at most: some of ${rationalText(rate)} are left out, the speed stays.`
    : null;
}

export type ListFault =
  | { readonly code: 'nothing' }
  | { readonly code: 'too-many'; readonly are: number }
  | { readonly code: 'same-name'; readonly name: string }
  | { readonly code: 'long-name'; readonly name: string };

/** Planes times frames of which every number is held at once: a quarter of a GiB. */
export const MOST_SAMPLES = 3_000_000;
/** The same of a scene graph, where each is several objects. */
export const MOST_POSES = 500_000;

/** Why not every plane on every frame can be told at once, as a sentence; null where it can. */
export function samplesFault(
  scene: Pick<Scene, 'planes' | 'order' | 'lengthFrames'>,
  most: number = MOST_SAMPLES,
): string | null {
  const planes = planesOf(scene).length;
  return planes * scene.lengthFrames > most
    ? `${planes} planes on ${scene.lengthFrames} frames are more than can be told at once (${most} together): shorten the shot, or take part of it.`
    : null;
}

/** How many pictures a hand-off has, without listing them. */
export const picturesWanted = (scene: Pick<Scene, 'planes' | 'order'>, wanted: Wanted): number =>
  framesWanted(wanted).length *
  (wanted.planes === 'each' ? planesOf(scene).filter(({ hidden }) => !hidden).length : 1);

/** Whether there are too many or too few pictures to list. */
export function countFault(scene: Pick<Scene, 'planes' | 'order'>, wanted: Wanted): ListFault | null {
  const are = picturesWanted(scene, wanted);
  if (are === 0) return { code: 'nothing' };
  return are > MOST_PICTURES ? { code: 'too-many', are } : null;
}

/**
 * Whether all pictures can lie side by side under their names: no two alike on any system, where capital and small
 * letters and two ways of writing an accent (Unicode, NFC) may count as the same, and no part too long.
 */
export function namesFault(items: readonly Pick<HandoffItem, 'name'>[]): ListFault | null {
  const seen = new Set<string>();
  for (const { name } of items) {
    const same = name.normalize('NFC').toLowerCase();
    if (seen.has(same)) return { code: 'same-name', name };
    seen.add(same);
    if (name.split('/').some((part) => utf8Bytes(part) + 4 > LONGEST_PART_BYTES))
      return { code: 'long-name', name };
  }
  return null;
}

/** Bytes of a text in UTF-8 (RFC 3629). */
const utf8Bytes = (text: string): number =>
  Array.from(text).reduce((sum, letter) => {
    const code = letter.codePointAt(0) ?? 0;
    return sum + (code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4);
  }, 0);

/** Why pictures cannot leave, as a sentence for people. */
export function listWords(fault: ListFault): string {
  switch (fault.code) {
    case 'nothing':
      return 'No plane is shown, so there is none to hand off.';
    case 'too-many':
      return `${fault.are} pictures are more than the ${MOST_PICTURES} of one hand-off. Hand off fewer frames or planes at a time.`;
    case 'same-name':
      return `Two pictures would be called “${fault.name}”. Put something between {plane} and {frame}, or give {frame:4} more digits.`;
    case 'long-name':
      return `“${fault.name.slice(0, 60)} …” is longer than the ${LONGEST_PART_BYTES} bytes that a name may have. Shorten the pattern.`;
    default:
      return assertNever(fault);
  }
}

export function sizeWords(kind: HandoffKind, widthPx: number, heightPx: number, fault: SizeFault): string {
  switch (fault.code) {
    case 'side':
      return `${kind} holds ${fault.mostPx} px to a side at most; this would be ${widthPx} × ${heightPx}.`;
    case 'small':
      return `${kind} needs ${fault.leastPx} px to a side at least; this would be ${widthPx} × ${heightPx}.`;
    case 'macroblocks':
      return `${kind} holds ${fault.most} blocks of 16 × 16 px at most; ${widthPx} × ${heightPx} would be ${fault.are}. Make it smaller.`;
    default:
      return assertNever(fault);
  }
}
