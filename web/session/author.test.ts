import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { stubBrowser } from '../testing/fake-shot-server.ts';
import { readCopiedKeys } from './choices/copied-keys.ts';

describe('what the browser’s storage holds', () => {
  let stored: Map<string, string>;
  beforeEach(() => {
    vi.resetModules();
    stored = stubBrowser();
  });
  afterEach(() => vi.unstubAllGlobals());

  const author = async () => (await import('./author.ts')).useAuthor.getState();

  it('is the author until another is kept', async () => {
    const kept = { id: 'a', name: 'Ada' };
    stored.set('keen-ridge/author', JSON.stringify(kept));
    expect(await author()).toEqual(kept);
  });

  it('does not keep the program shut where it was cut off', async () => {
    stored.set('keen-ridge/author', '{"id":"a","na');
    stored.set('keen-ridge/copied-keys', '{"channels":[');
    expect((await author()).name).toMatch(/^Artist /);
    expect(readCopiedKeys()).toBeNull();
  });
});
