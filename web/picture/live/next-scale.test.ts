import { describe, expect, it } from 'vitest';
import { nextScale } from './renderer.ts';

describe('the resolution of a picture that moves', () => {
  it('falls at once to one that should be fast enough, by its area, and never past the last', () => {
    // 34 ms are there; 130 ms at full size are 32.5 at half, 73 at three quarters.
    expect(nextScale(0, 130, false)).toBe(2);
    expect(nextScale(0, 40, false)).toBe(1);
    expect(nextScale(0, 9000, true)).toBe(4);
    expect(nextScale(4, 9000, true)).toBe(4);
  });

  it('rises by one step only in what goes on, and only when that should be easy', () => {
    expect(nextScale(2, 8, true)).toBe(1);
    expect(nextScale(2, 8, false)).toBe(2);
    // 15 ms at half would be 34 at three quarters.
    expect(nextScale(2, 15, true)).toBe(2);
    expect(nextScale(0, 3, true)).toBe(0);
  });
});
