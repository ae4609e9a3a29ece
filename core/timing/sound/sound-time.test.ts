import { describe, expect, it } from 'vitest';
import { secondsIntoSound, waveColumns } from './sound-time.ts';

describe('a sound under the shot', () => {
  it('begins with its frame, by the rate of the shot', () => {
    expect(secondsIntoSound(1, 1, { num: 24, den: 1 })).toBe(0);
    expect(secondsIntoSound(13, 25, { num: 24, den: 1 })).toBe(0.5);
    expect(secondsIntoSound(25, 1, { num: 24, den: 1 })).toBe(-1);
    // 24 frames of 24000/1001 last 1.001 s.
    expect(secondsIntoSound(1, 25, { num: 24_000, den: 1001 })).toBeCloseTo(1.001, 12);
  });

  it('is drawn by its loudest in each column, silent before and after it', () => {
    const peaks = Uint8Array.from([51, 255, 0, 102]);
    const wave = (from: number, to: number, columns: number) =>
      [...waveColumns(peaks, 2, { from, to, columns })].map((v) => Math.round(v * 10) / 10);
    expect(wave(0, 2, 4)).toEqual([0.2, 1, 0, 0.4]);
    expect(wave(0, 2, 2)).toEqual([1, 0.4]);
    expect(wave(-1, 3, 4)).toEqual([0, 1, 0.4, 0]);
    // More columns than peaks: each shows the peak that it lies in.
    expect(wave(0, 1, 4)).toEqual([0.2, 0.2, 1, 1]);
  });
});
