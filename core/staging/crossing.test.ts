import { describe, expect, it } from 'vitest';
import { setCamera } from '../edits/keys/index.ts';
import { setRunSpeed } from '../edits/runs/index.ts';
import type { Scene } from '../scene/index.ts';
import { keysOf, recordOf } from '../scene/records/index.ts';
import { testPlane, testPlaneId, testScene } from '../testing/index.ts';
import { EASE_PRESETS } from '../timing/index.ts';
import { crossingPx, depthToCross, runBetweenSpots } from './crossing.ts';
import { framePlan } from './frame/index.ts';
import { datumSlides } from './sample/index.ts';

const id = testPlaneId('a');
/** An even pan of 10 spx a frame. */
function panned(): Scene {
  const start = testScene([testPlane({ id })], { lengthFrames: 101 });
  const from = setCamera(start, { panX: 0 }, { frame: 1, keying: true });
  const { camera, ...rest } = setCamera(from, { panX: 1000 }, { frame: 101, keying: true });
  const linear = keysOf(camera.panX).map((key) => ({ ...key, ease: EASE_PRESETS.linear }));
  return { ...rest, camera: { ...camera, panX: recordOf({ value: 0, keys: linear }) } };
}

describe('speeds by what is to be seen', () => {
  it('crosses 1920 px in 8 s at 24 a second by 10 px a frame', () => {
    expect(crossingPx(testScene(), 8)).toBe(10);
  });

  it('slides the datum on screen by the pan, the zoom and how near the camera is', () => {
    expect(datumSlides(panned()).slice(0, 2)).toEqual([expect.closeTo(10, 9), expect.closeTo(10, 9)]);
    expect(datumSlides(panned()).at(-1)).toBe(0);
    const at = { frame: 1, keying: false };
    // Twice as large, and half as far from home's 1920 spx.
    expect(datumSlides(setCamera(panned(), { zoom: 2 }, at))[50]).toBeCloseTo(20, 9);
    expect(datumSlides(setCamera(panned(), { truck: 960 }, at))[50]).toBeCloseTo(20, 9);
    expect(datumSlides(setCamera(panned(), { truck: 1920 }, at))[50]).toBeNaN();
  });

  it('finds the depth at which a pan does it, as worked by hand', () => {
    // The datum slides 10 px a frame and crosses in 8 s; at half the speed it takes 16 s, twice as far away.
    expect(depthToCross(panned(), 50, 8)).toBeCloseTo(0, 6);
    expect(depthToCross(panned(), 50, 16)).toBeCloseTo(1920, 6);
    expect(depthToCross(panned(), 50, 4)).toBeCloseTo(-960, 6);
    expect(depthToCross(testScene(), 1, 3)).toBeNull();
  });

  it('finds the run that takes a spot from one place to the other, whatever stands between', () => {
    const plane = testPlane({
      id,
      depthSpx: 700,
      transform: { ...testPlane({ id }).transform, rotationDeg: 30 },
    });
    const scene = setCamera(
      testScene([plane]),
      { panX: 40, truck: 200, zoom: 1.4, roll: -12 },
      { frame: 1, keying: false },
    );
    const first = { frame: 3, at: { x: 700, y: 400 } };
    const second = { frame: 13, at: { x: 640, y: 425 } };
    const speed = runBetweenSpots(scene, plane, first, second)!;
    const run = setRunSpeed(scene, new Set([id]), { ...speed, unit: 'own' }, { frame: 1, keying: false });
    const [was, is] = [3, 13].map((frame) => framePlan(run, frame).planes[0]!.artToFrame!);
    expect(is!.e - was!.e).toBeCloseTo(-60, 6);
    expect(is!.f - was!.f).toBeCloseTo(25, 6);
    expect(runBetweenSpots(scene, plane, first, first)).toBeNull();
  });
});
