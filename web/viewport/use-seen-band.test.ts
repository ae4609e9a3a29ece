import { describe, expect, it } from 'vitest';
import { bandAt } from './use-seen-band.ts';

describe('the band of a scrolled content', () => {
  it('holds one height of the room above and below what is seen', () => {
    for (const scrollTop of [0, 130, 999, 12_345]) {
      const { from, to } = bandAt(scrollTop, 600);
      expect(from).toBeLessThanOrEqual(scrollTop - 600);
      expect(to).toBeGreaterThanOrEqual(scrollTop + 1200);
      expect(to - from).toBeLessThan(1800 + 400);
    }
  });

  it('stays the same while a scroll stays within a step', () => {
    expect(bandAt(1010, 600)).toEqual(bandAt(1190, 600));
    expect(bandAt(1010, 600)).not.toEqual(bandAt(1210, 600));
  });
});
