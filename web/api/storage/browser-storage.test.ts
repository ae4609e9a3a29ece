import { afterEach, describe, expect, it, vi } from 'vitest';
import { preferencesFrom } from '../../session/choices/preferences.ts';
import { readStored, store, storedNames } from './browser-storage.ts';

afterEach(() => vi.unstubAllGlobals());

/** Storage whose every write fails as a browser's does. */
function failing(name: string): Map<string, string> {
  const there = new Map([['old', 'text']]);
  vi.stubGlobal('localStorage', {
    length: 1,
    key: () => 'old',
    getItem: (key: string) => there.get(key) ?? null,
    setItem: () => {
      throw new DOMException('no room', name);
    },
    removeItem: (key: string) => there.delete(key),
  });
  return there;
}

describe('the browser’s storage', () => {
  it('that is full keeps nothing, says so, and leaves no older text in its place', () => {
    const there = failing('QuotaExceededError');
    expect([store('old', 'newer'), there.size, readStored('old')]).toEqual([false, 0, null]);
  });

  it('that is shut is as if it were empty', () => {
    vi.stubGlobal('localStorage', {
      get length(): number {
        throw new DOMException('shut', 'SecurityError');
      },
      getItem: () => {
        throw new DOMException('shut', 'SecurityError');
      },
      setItem: () => {
        throw new DOMException('shut', 'SecurityError');
      },
    });
    expect([readStored('a'), store('a', 'b'), storedNames()]).toEqual([null, false, []]);
  });
});

describe('remembered settings', () => {
  it('are read one by one: what cannot be read is as usual, and the others stay', () => {
    const read = preferencesFrom(
      JSON.stringify({ loop: false, surround: 'pink', stripHeight: 400, ghosts: 7 }),
    );
    expect([read.loop, read.surround, read.stripHeight, read.ghosts.of]).toEqual([
      false,
      'mid',
      400,
      'nothing',
    ]);
    expect(preferencesFrom('not json').loop).toBe(true);
  });
});
