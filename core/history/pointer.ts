/** A JSON Pointer (RFC 6901): `/planes/a~1b/name`, each part a name of a record, never a place in a list. */
export const pointerOf = (parts: readonly string[]): string =>
  parts.map((part) => `/${part.replaceAll('~', '~0').replaceAll('/', '~1')}`).join('');

export const pointerParts = (pointer: string): string[] =>
  pointer
    .split('/')
    .slice(1)
    .map((part) => part.replaceAll('~1', '/').replaceAll('~0', '~'));

/** Whether one of the two fields is the other, or lies within it. */
export const overlap = (p: string, q: string): boolean =>
  p === q || p.startsWith(`${q}/`) || q.startsWith(`${p}/`);
