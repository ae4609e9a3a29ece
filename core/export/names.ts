import { fail, ok, type Result } from '../units/index.ts';

/** What a pattern may name: the shot, the take, the plane, the number of the frame. */
export const NAME_PARTS = ['shot', 'take', 'plane', 'frame'] as const;
export type NamePart = (typeof NAME_PARTS)[number];
export const FRAMES_PATTERN = '{shot}_{frame:4}';
export const PLANES_PATTERN = '{plane}/{shot}_{plane}_{frame:4}';

const PART = /\{([a-z]+)(?::(\d{1,2}))?\}/g;

export type PatternFault =
  | { readonly code: 'unknown-part'; readonly part: string }
  | { readonly code: 'no-frame' }
  | { readonly code: 'no-plane' }
  | { readonly code: 'bad-character'; readonly character: string };

/**
 * Checks a pattern such as `{shot}_{frame:4}`: parts in braces, the frame with its least number of digits; `/` makes
 * folders. Each frame must get a name of its own, and each plane where planes leave one by one.
 */
export function checkPattern(pattern: string, eachPlane: boolean): Result<string, PatternFault> {
  const parts = [...pattern.matchAll(PART)].map((match) => match[1] ?? '');
  const unknown = parts.find((part) => !NAME_PARTS.some((known) => known === part));
  if (unknown !== undefined) return fail({ code: 'unknown-part', part: unknown });
  const [character] = pattern.replace(PART, '').match(/[^\p{L}\p{N}_ ./-]|\.\./u) ?? [];
  if (character !== undefined) return fail({ code: 'bad-character', character });
  if (pattern.startsWith('/')) return fail({ code: 'bad-character', character: '/' });
  if (!parts.includes('frame')) return fail({ code: 'no-frame' });
  if (eachPlane && !parts.includes('plane')) return fail({ code: 'no-plane' });
  return ok(pattern);
}

/** A name as part of a file name on any system. */
export const fileStem = (name: string): string =>
  name
    .normalize('NFC')
    .replace(/[^\p{L}\p{N}.-]+/gu, '_')
    .replace(/^[_.]+|[_.]+$/g, '')
    .slice(0, 80) || 'shot';

/** The name that a checked pattern gives, without its ending. Digits are padded with noughts, a minus stands first. */
export const patternName = (pattern: string, values: Readonly<Record<NamePart, string | number>>): string =>
  pattern.replace(PART, (_whole, part: NamePart, digits: string | undefined) => {
    const value = values[part];
    if (typeof value === 'string') return fileStem(value);
    const size = String(Math.abs(value)).padStart(Number(digits ?? 1), '0');
    return value < 0 ? `-${size}` : size;
  });
