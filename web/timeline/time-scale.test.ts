import { describe, expect, it } from 'vitest';
import { markStep, timeScale } from './time-scale.ts';

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
});
