import { afterAll, beforeEach, describe, expect, it, vi } from 'vitest';

const stored = new Map<string, string>();
vi.stubGlobal('localStorage', {
  getItem: (key: string) => stored.get(key) ?? null,
  setItem: (key: string, value: string) => void stored.set(key, value),
});
afterAll(() => vi.unstubAllGlobals());
const KEY = 'keen-ridge/shot-views';
const fresh = async () => {
  vi.resetModules();
  return import('./shot-view.ts');
};

beforeEach(() => stored.clear());

describe('how a shot is looked at', () => {
  it('is kept for each shot, and is there again when the browser was closed', async () => {
    const before = await fresh();
    before.setShotView('quay', { range: { start: 5, end: 20 } });
    before.setShotView('quay', { pinned: ['plane/x/gull'] });
    before.setShotView('cliff', { folded: ['camera'] });
    const after = await fresh();
    expect(after.shotViewOf('quay')).toEqual({
      range: { start: 5, end: 20 },
      pinned: ['plane/x/gull'],
      folded: [],
    });
    expect(after.shotViewOf('cliff').folded).toEqual(['camera']);
    expect(after.shotViewOf('new')).toEqual({ range: null, pinned: [], folded: [] });
  });

  it('starts plain where what was kept cannot be read', async () => {
    stored.set(KEY, '{"quay":{"range":"all"}}');
    expect((await fresh()).shotViewOf('quay').range).toBeNull();
    stored.set(KEY, 'not json');
    expect((await fresh()).shotViewOf('quay').pinned).toEqual([]);
  });

  it('does not grow without end', async () => {
    const views = await fresh();
    for (let i = 0; i < 230; i++) views.setShotView(`shot ${i}`, { folded: ['camera'] });
    const kept = Object.keys(JSON.parse(stored.get(KEY)!));
    expect([kept.length, kept.at(-1)]).toEqual([200, 'shot 229']);
  });

  it('puts things in a list and takes them out', async () => {
    const { toggled } = await fresh();
    expect(toggled(['a'], 'b')).toEqual(['a', 'b']);
    expect(toggled(['a', 'b'], 'a')).toEqual(['b']);
  });
});
