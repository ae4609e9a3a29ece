import { describe, expect, it } from 'vitest';
import { setPlaneDepth } from '../edits/depth/index.ts';
import { setCamera } from '../edits/keys/index.ts';
import { planesOf } from '../scene/records/index.ts';
import { testPlane, testPlaneId, testScene } from '../testing/index.ts';
import { largestScale } from './largest-scale.ts';

describe('how large a plane is shown at most', () => {
  const plane = testPlane({ id: testPlaneId('a') });

  it('follows truck, zoom and the plane’s own size', () => {
    const scene = testScene([plane]);
    expect(largestScale(scene, plane)).toBeCloseTo(1, 12);
    const zoomed = setCamera(scene, { zoom: 1.5 }, { frame: 1, keying: false });
    expect(largestScale(zoomed, plane)).toBeCloseTo(1.5, 12);
    const halfway = setCamera(scene, { truck: 960 }, { frame: 1, keying: false });
    expect(largestScale(halfway, plane)).toBeCloseTo(2, 12);
  });

  it('stays as it was when a plane is pushed back with the picture held', () => {
    const scene = setPlaneDepth(testScene([plane]), plane.id, {
      depthSpx: 1920,
      atFrame: 1,
      holdPicture: true,
    });
    expect(largestScale(scene, planesOf(scene)[0]!)).toBeCloseTo(1, 12);
  });

  it('is nothing for a plane that the camera has passed', () => {
    const passed = setCamera(testScene([plane]), { truck: 1919 }, { frame: 1, keying: false });
    expect(largestScale(passed, plane)).toBe(0);
  });
});
