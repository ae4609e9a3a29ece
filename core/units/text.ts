/** Half of a surrogate pair: what is left of a character beyond U+FFFF that was cut in two (Unicode 15, section 3.9, D75). */
const HALF = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;

/** What turns the direction of text round until it is told otherwise (UAX 9, section 2): a name would show as another. */
const TURNS = /[\u202a-\u202e\u2066-\u2069]/g;

/** Whether a text can be kept everywhere: whole code points only, and no NUL, which PostgreSQL's text and jsonb refuse. */
export const isStorable = (text: string): boolean => !text.includes('\0') && text.search(HALF) < 0;

/**
 * A name from outside as it can be kept: whole code points, no control characters, nothing that turns text round, no space round it, at most `most`
 * UTF-16 units and never half a character. May come out empty.
 */
export function cleanName(text: string, most: number): string {
  const whole = text
    .slice(0, 4 * most)
    .replace(HALF, '')
    .replace(/\p{Cc}+/gu, ' ')
    .replace(TURNS, '')
    .trim();
  return whole.slice(0, most).replace(HALF, '').trimEnd();
}

/** Where in a value of JSON a text lies that cannot be kept, as a path such as `planes.0.name`; null where there is none. */
export function unstorablePath(value: unknown, path = ''): string | null {
  const below = (key: string | number) => (path === '' ? `${key}` : `${path}.${key}`);
  if (typeof value === 'string') return isStorable(value) ? null : path || 'the whole';
  if (typeof value !== 'object' || value === null) return null;
  if (Array.isArray(value)) {
    for (let i = 0; i < value.length; i++) {
      const found = unstorablePath(value[i], below(i));
      if (found !== null) return found;
    }
    return null;
  }
  for (const [key, part] of Object.entries(value)) {
    if (!isStorable(key)) return below('?');
    const found = unstorablePath(part, below(key));
    if (found !== null) return found;
  }
  return null;
}

/** How deep the braces and brackets of a JSON text are nested; strings are passed over. Linear, and without recursion. */
export function jsonDepth(text: string): number {
  let depth = 0;
  let deepest = 0;
  let inString = false;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (inString) {
      if (code === 92) i += 1;
      else if (code === 34) inString = false;
    } else if (code === 34) inString = true;
    else if (code === 123 || code === 91) deepest = Math.max(deepest, ++depth);
    else if (code === 125 || code === 93) depth -= 1;
  }
  return deepest;
}

/** What is said of something that was thrown: an error's own words, of anything else what it is as text. */
export const reasonOf = (thrown: unknown): string =>
  thrown instanceof Error ? thrown.message : String(thrown);
