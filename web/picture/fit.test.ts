import { applyAffine } from '@keen-ridge/core/geometry';
import { describe, expect, it } from 'vitest';
import { fitFrame, frameToDevice } from './fit.ts';

const FRAME = { widthPx: 1920, heightPx: 1080 };

describe('the frame in the picture', () => {
  it('is centred, as large as the margin lets it be', () => {
    const wide = fitFrame(FRAME, 1000, 1000, 0.1);
    expect(wide).toEqual({ left: 100, top: 275, width: 800, height: 450, scale: 800 / 1920 });
    const low = fitFrame(FRAME, 4000, 540, 0);
    expect([low.width, low.height, low.left]).toEqual([960, 540, 1520]);
  });

  it('lands on device pixels by the same measure', () => {
    const fit = fitFrame(FRAME, 1000, 1000, 0.1);
    const corner = applyAffine(frameToDevice(fit, 2), { x: 1920, y: 1080 });
    expect(corner.x).toBeCloseTo(1800, 9);
    expect(corner.y).toBeCloseTo(1450, 9);
  });
});
