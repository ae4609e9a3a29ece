import { describe, expect, it } from 'vitest';
import { graspsOf, markStep, timeScale } from './time-scale.ts';

describe('time along the strip', () => {
  it('leads from a frame to its place and back', () => {
    const scale = timeScale(120, 1064);
    for (let frame = 1; frame <= 120; frame++) expect(scale.frameAt(scale.xAt(frame))).toBe(frame);
    expect(timeScale(1, 500).frameAt(10)).toBe(1);
  });

  it.each([
    [24, 9, 90, 12],
    [24, 2, 90, 48],
    [25, 4, 90, 25],
    [24, 0.1, 90, 960],
  ])('at %d a second and %d px a frame marks every so many frames', (rate, pxPerFrame, least, step) => {
    expect(markStep(rate, pxPerFrame, least)).toBe(step);
  });

  it('lets keys be grasped 24 px wide where there is room, and leaves spans some of theirs', () => {
    const wide = { left: 12, right: 12 };
    expect(graspsOf([1, 20], 5)).toEqual([wide, wide]);
    // 6 frames of 5 px: 30 px, of which 10 stay the span's.
    expect(graspsOf([1, 7], 5)).toEqual([
      { left: 12, right: 10 },
      { left: 10, right: 12 },
    ]);
    // Crowded keys keep 7 px to either side, the nearer one on top.
    expect(graspsOf([1, 2, 3], 5)[1]).toEqual({ left: 7, right: 7 });
  });
});
