import { describe, expect, it } from 'vitest';
import type { PlaneId, Scene } from '../../scene/index.ts';
import { channelOf, keysOf } from '../../scene/records/index.ts';
import { framePlan, sharpBandAt } from '../../staging/frame/index.ts';
import { channelId, shownValueAt } from '../../staging/index.ts';
import { focusDepthAt } from '../../staging/looks/index.ts';
import { testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { moveSelected, setCamera, setChannelValue } from '../keys/index.ts';
import { deletePlanes, setPlaneMount } from '../planes/index.ts';
import { focusOn, setIrisForBlur, setKeepBlur } from './focus.ts';

const [NEAR, FAR] = [testPlaneId('near'), testPlaneId('far')];
const scene = testScene([testPlane({ id: NEAR, depthSpx: -400 }), testPlane({ id: FAR, depthSpx: 1920 })]);
const on = { frame: 1, keying: true };
const FOCUS = { on: 'camera', name: 'focus' } as const;
const open = (of: Scene, iris: number) => setCamera(of, { iris }, { frame: 1, keying: false });
const blurOf = (of: Scene, id: PlaneId, frame: number) =>
  framePlan(of, frame).planes.find(({ planeId }) => planeId === id)!.defocusPx;

describe('focus on a plane', () => {
  it('follows it wherever it goes, and holds its depth when it is gone', () => {
    const moved = setChannelValue(
      focusOn(open(scene, 40), NEAR, on),
      { on: 'plane', plane: NEAR, name: 'depth' },
      900,
      { frame: 60, keying: true },
    );
    for (const frame of [1, 17, 44, 60, 99]) {
      expect(focusDepthAt(moved, frame)).toBe(
        shownValueAt(moved, { on: 'plane', plane: NEAR, name: 'depth' }, frame),
      );
      expect(blurOf(moved, NEAR, frame)).toBe(0);
    }
    expect(focusDepthAt(deletePlanes(moved, new Set([NEAR])), 60)).toBe(-400);
  });

  it('is pulled from one to another by two keys, eased, each where its plane is at that frame', () => {
    const pull = focusOn(focusOn(scene, FAR, on), NEAR, { frame: 49, keying: true });
    expect(keysOf(pull.camera.focus).map(({ frame, follows }) => [frame, follows])).toEqual([
      [1, FAR],
      [49, NEAR],
    ]);
    expect([1, 25, 49, 80].map((frame) => focusDepthAt(pull, frame))).toEqual(
      [1920, 760, -400, -400].map((v) => expect.closeTo(v, 6)),
    );
    // What the keys follow goes along with them, and a number in its place ends it.
    const later = moveSelected(pull, new Map([[channelId(FOCUS), new Set([49])]]), 11);
    expect(keysOf(later.camera.focus)[1]).toMatchObject({ frame: 60, follows: NEAR });
    const typed = setChannelValue(pull, FOCUS, 100, { frame: 49, keying: true });
    expect(keysOf(typed.camera.focus)[1]).toMatchObject({ value: 100 });
    expect(keysOf(typed.camera.focus)[1]?.follows).toBeUndefined();
  });

  it('keys frame 1 as it was where the first key is made later, and shifts as depths with Keying off', () => {
    const rest = focusOn(scene, FAR, { frame: 30, keying: false });
    expect(channelOf(rest.camera.focus)).toMatchObject({ follows: FAR, keys: [] });
    const keyed = focusOn(rest, NEAR, { frame: 30, keying: true });
    expect(keysOf(keyed.camera.focus).map(({ frame, follows }) => [frame, follows])).toEqual([
      [1, FAR],
      [30, NEAR],
    ]);
    const shifted = setChannelValue(keyed, FOCUS, 0, { frame: 30, keying: false });
    expect(keysOf(shifted.camera.focus).map(({ value, follows }) => [value, follows])).toEqual([
      [2320, undefined],
      [0, undefined],
    ]);
  });

  it('is not for what rides on the camera, nor for what is not there', () => {
    const ridden = setPlaneMount(scene, NEAR, { on: 'camera' }, 1);
    if (!ridden.ok) throw new Error(ridden.error);
    expect(focusOn(ridden.value, NEAR, on)).toBe(ridden.value);
    expect(focusOn(scene, testPlaneId('none'), on)).toBe(scene);
  });
});

describe('the iris', () => {
  it('opens as far as blurs a plane by so many px: b = iris·f·|1/s − 1/d|', () => {
    const focused = focusOn(scene, NEAR, on);
    const opened = setIrisForBlur(focused, FAR, 12, on)!;
    expect(blurOf(opened, FAR, 1)).toBeCloseTo(12, 9);
    // 12 px = iris · 1920 · |1/1520 − 1/3840|
    expect(shownValueAt(opened, { on: 'camera', name: 'iris' }, 1)).toBeCloseTo(
      12 / (1920 * (1 / 1520 - 1 / 3840)),
      6,
    );
    expect(setIrisForBlur(focused, NEAR, 12, on)).toBeNull();
  });

  it('keeps a plane as soft through a truck, at most four times as wide as keyed, and shut where it is shut', () => {
    const trucked = setCamera(
      setCamera(focusOn(open(scene, 30), NEAR, { frame: 1, keying: false }), { truck: 0 }, on),
      { truck: 700 },
      { frame: 100, keying: true },
    );
    const kept = setKeepBlur(trucked, { plane: FAR, blurPx: 20 });
    for (const frame of [1, 40, 100]) expect(blurOf(kept, FAR, frame)).toBeCloseTo(20, 9);
    expect(blurOf(trucked, FAR, 100)).not.toBeCloseTo(20, 0);
    const wide = setKeepBlur(trucked, { plane: FAR, blurPx: 900 });
    expect(blurOf(wide, FAR, 1)).toBeCloseTo(4 * blurOf(trucked, FAR, 1), 9);
    expect(blurOf(setKeepBlur(open(kept, 0), { plane: FAR, blurPx: 20 }), FAR, 1)).toBe(0);
    expect(setKeepBlur(kept, null)).toEqual(trucked);
  });

  it('says between which depths everything is sharp: where the blur is just one px', () => {
    const focused = focusOn(open(scene, 40), FAR, on);
    const band = sharpBandAt(focused, 1)!;
    for (const depthSpx of [band.nearSpx, band.farSpx]) {
      const there = testScene([testPlane({ id: NEAR, depthSpx }), testPlane({ id: FAR, depthSpx: 1920 })]);
      expect(blurOf(focusOn(open(there, 40), FAR, on), NEAR, 1)).toBeCloseTo(1, 6);
    }
    expect(sharpBandAt(scene, 1)).toBeNull();
    expect(sharpBandAt(focusOn(open(scene, 0.5), FAR, on), 1)?.farSpx).toBe(Number.POSITIVE_INFINITY);
  });
});
