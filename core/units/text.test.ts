import { describe, expect, it } from 'vitest';
import { cleanName, isStorable, jsonDepth, reasonOf, unstorablePath } from './text.ts';

describe('text that is kept', () => {
  it.each([
    ['what turns text round', '\u202egnp.exe', 'gnp.exe'],
    ['an emoji cut in two at the limit', `${'a'.repeat(199)}🏮`, 'a'.repeat(199)],
    ['an emoji that just fits', `${'a'.repeat(198)}🏮`, `${'a'.repeat(198)}🏮`],
    ['half a pair that came so', 'lamp\ud83c', 'lamp'],
    ['the second half alone', '\udfeelamp', 'lamp'],
    ['NUL and other controls', 'a\0b\tc\u0085d', 'a b c d'],
    ['space round it, also after the cut', `  ${'b'.repeat(199)} c`, 'b'.repeat(199)],
    ['nothing that could be kept', '\0\0', ''],
  ])('is cleaned of %s', (_what, given, kept) => {
    expect(cleanName(given, 200)).toBe(kept);
    expect(isStorable(cleanName(given, 200))).toBe(true);
  });

  it('is told by its path where it cannot be kept', () => {
    expect(unstorablePath({ planes: [{ name: 'ok' }, { name: 'no\0' }] })).toBe('planes.1.name');
    expect(unstorablePath([['🏮'], ['\ud83c']])).toBe('1.0');
    expect(unstorablePath({ 'a\0': 1 })).toBe('?');
    expect(unstorablePath({ a: [1, null, true, '🏮'] })).toBeNull();
  });
});

describe('the depth of a JSON text', () => {
  it.each([
    ['1', 0],
    ['[]', 1],
    ['{"a":[{"b":1}]}', 3],
    ['["[[[[", "\\"[[["]', 1],
    ['['.repeat(100_000), 100_000],
  ])('of %#', (text, depth) => {
    expect(jsonDepth(text)).toBe(depth);
  });
});

it('what was thrown is told in its own words', () => {
  expect([new TypeError('No such plane'), 'gone', undefined].map(reasonOf)).toEqual([
    'No such plane',
    'gone',
    'undefined',
  ]);
});
