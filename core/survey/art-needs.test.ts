import { describe, expect, it } from 'vitest';
import { setPlaneDepth } from '../edits/depth/index.ts';
import { setCamera } from '../edits/keys/index.ts';
import { planesOf } from '../scene/records/index.ts';
import { testPlane, testPlaneId, testScene } from '../testing/index.ts';
import { largestScale, paintingNeeds } from './art-needs.ts';

const still = testScene();
const panned = setCamera(
  setCamera(still, { panX: -300 }, { frame: 1, keying: true }),
  { panX: 700 },
  { frame: 120, keying: true },
);

describe('whether a painting is large enough', () => {
  it('is measured against the frame while nothing moves', () => {
    expect(paintingNeeds(still, { widthPx: 1600, heightPx: 1080 }, 1)).toMatchObject({
      moves: false,
      seenWidthSpx: 1920,
      shortWidthPx: 320,
      shortHeightPx: 0,
      enlargedBy: 1,
    });
  });

  it('is measured against the farthest that the move goes to either side, for the painting stands centred', () => {
    // 700 to the right and half a frame: 1660 on that side, so 3320 in all.
    const needs = paintingNeeds(panned, { widthPx: 2920, heightPx: 1200 }, 1);
    expect(needs).toMatchObject({ moves: true, seenWidthSpx: 3320, shortWidthPx: 400, shortHeightPx: 0 });
    expect(paintingNeeds(panned, { widthPx: 3320, heightPx: 1080 }, 1).shortWidthPx).toBe(0);
  });

  it('counts in painted px where the painting is enlarged', () => {
    const needs = paintingNeeds(panned, { widthPx: 1460, heightPx: 600 }, 2);
    expect(needs).toMatchObject({ shortWidthPx: 200, enlargedBy: 2 });
  });
});

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
