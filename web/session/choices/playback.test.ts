import { afterAll, describe, expect, it, vi } from 'vitest';

vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => undefined });
afterAll(() => vi.unstubAllGlobals());
const { frameOfStep } = await import('./playback.ts');
const { playRange } = await import('./shot-view.ts');

const played = (
  range: { start: number; end: number },
  first: number,
  steps: number,
  how: { loop: boolean; pingPong: boolean },
) => Array.from({ length: steps }, (_, i) => frameOfStep(range, first, i, how));

describe('frames as they play', () => {
  const range = { start: 3, end: 7 };

  it('go round where they loop, and end where they do not', () => {
    expect(played(range, 3, 6, { loop: true, pingPong: false })).toEqual([3, 4, 5, 6, 3, 4]);
    expect(played(range, 5, 4, { loop: false, pingPong: false })).toEqual([5, 6, null, null]);
  });

  it('turn at both ends and show each of them once', () => {
    expect(played(range, 3, 9, { loop: true, pingPong: true })).toEqual([3, 4, 5, 6, 5, 4, 3, 4, 5]);
    expect(played(range, 3, 8, { loop: false, pingPong: true })).toEqual([3, 4, 5, 6, 5, 4, 3, null]);
    expect(played({ start: 5, end: 6 }, 5, 2, { loop: false, pingPong: true })).toEqual([5, null]);
  });

  it('stay within the shot, whatever range was kept', () => {
    expect(playRange(null, 48)).toEqual({ start: 1, end: 49 });
    expect(playRange({ start: 30, end: 200 }, 48)).toEqual({ start: 30, end: 49 });
    expect(playRange({ start: 90, end: 200 }, 48)).toEqual({ start: 48, end: 49 });
    expect(playRange({ start: -5, end: 0 }, 48)).toEqual({ start: 1, end: 2 });
  });
});
