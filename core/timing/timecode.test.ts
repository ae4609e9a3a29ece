import { describe, expect, it } from 'vitest';
import { frameAtRate } from './rate.ts';
import { canDrop, timecodeLabel } from './timecode.ts';

const NTSC = { num: 30_000, den: 1001 };
const FILM = { num: 24_000, den: 1001 };

describe('time addresses', () => {
  // Drop-frame compensation of SMPTE ST 12-1: these labels are the well-known ones (from memory).
  it.each([
    [1, '00:00:00;00'],
    [1800, '00:00:59;29'],
    [1801, '00:01:00;02'],
    [3598, '00:01:59;29'],
    [3599, '00:02:00;02'],
    [17_982, '00:09:59;29'],
    [17_983, '00:10:00;00'],
    [107_893, '01:00:00;00'],
    [2_589_408, '23:59:59;29'],
  ])('frame %d at 30000/1001 is %s', (frame, label) => {
    expect(timecodeLabel(frame, NTSC, true)).toBe(label);
  });

  it('keep with the clock over a day to less than a tenth of a second', () => {
    // 24 hours of labels are 2 589 408 frames of 1001/30000 s: 86.4 ms short of a day.
    expect(86_400 - (2_589_408 * 1001) / 30_000).toBeCloseTo(0.0864, 6);
  });

  it('drop nothing at other rates, nor when they are not asked to', () => {
    expect(timecodeLabel(1801, NTSC, false)).toBe('00:01:00:00');
    expect(timecodeLabel(1441, FILM, true)).toBe('00:01:00:00');
    expect(timecodeLabel(90_001, { num: 25, den: 1 }, true)).toBe('01:00:00:00');
    expect([canDrop(NTSC), canDrop(FILM)]).toEqual([true, false]);
  });

  it('never name a frame twice nor leave one out of order', () => {
    const labels = Array.from({ length: 40_000 }, (_, i) => timecodeLabel(i + 1, NTSC, true));
    expect(new Set(labels).size).toBe(labels.length);
    expect([...labels].sort()).toEqual(labels);
    expect(labels.some((label) => /:\d[1-9]:00;0[01]$/.test(label))).toBe(false);
  });
});

describe('another rate', () => {
  it('finds the frame at the same time, exactly', () => {
    expect(frameAtRate(25, { num: 24, den: 1 }, { num: 25, den: 1 })).toBe(26);
    // 24 frames at 24000/1001 last as long as 30 at 30000/1001: the ratio is 4 : 5, whatever the 1001.
    expect(frameAtRate(97, FILM, NTSC)).toBe(121);
    expect(frameAtRate(86_401, { num: 24, den: 1 }, FILM)).toBe(86_315);
    for (let f = 1; f < 500; f++) expect(frameAtRate(frameAtRate(f, FILM, NTSC), NTSC, FILM)).toBe(f);
  });
});
