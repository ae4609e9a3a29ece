import { setCamera } from '@keen-ridge/core/edits/keys';
import { DEPTH_WHITE, depthFarSpx, MOTION_STILL, motionValue, passOf } from '@keen-ridge/core/export';
import type { Rendered } from '@keen-ridge/core/kernel';
import type { PlaneId, Scene } from '@keen-ridge/core/scene';
import { type FramePlan, framePlan } from '@keen-ridge/core/staging/frame';
import { testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { describe, expect, it } from 'vitest';
import { passPicture } from './pass-pictures.ts';

const NEAR = testPlaneId('near');
const GLOW = testPlaneId('glow');
const FAR = testPlaneId('far');
const SIZE = { widthPx: 4, heightPx: 1 };

/** Alphas of four px of each plane; the glow is laid over by screen. */
const ALPHA: Readonly<Record<string, readonly number[]>> = {
  [NEAR]: [255, 127, 128, 0],
  [GLOW]: [255, 255, 255, 255],
  [FAR]: [255, 255, 255, 0],
};

const scene: Scene = testScene([
  testPlane({ id: NEAR, depthSpx: -960 }),
  testPlane({ id: GLOW, depthSpx: -500, mode: 'screen' }),
  testPlane({ id: FAR, depthSpx: 1920 }),
]);
const plan = framePlan(scene, 1);

/** As paint on paint on clear ground: the red, premultiplied, of planes that are white or black. */
async function draw(of: FramePlan): Promise<Rendered<'red8'>> {
  const data = new Uint8Array(4);
  for (let px = 0; px < 4; px++) {
    const red = of.planes.reduce((under, { planeId, look }) => {
      const alpha = ALPHA[planeId]![px]! / 255;
      expect(look.air?.transmission).toBe(0);
      return under * (1 - alpha) + alpha * look.air!.colour[0];
    }, 0);
    data[px] = Math.round(255 * red);
  }
  return { ...SIZE, format: 'red8', data };
}

describe('passes', () => {
  it('tell the distance of the nearest plane that covers half of a px, linearly to the farthest of the shot', async () => {
    // Home is 1920 from the datum: the near plane at 960, the far one at 3840, which is white.
    expect(depthFarSpx(scene)).toBe(3840);
    const rendered = await passPicture(draw, plan, { kind: 'depth', farSpx: 3840 }, SIZE);
    const quarter = Math.round(DEPTH_WHITE / 4);
    expect([rendered.format, [...rendered.data]]).toEqual([
      'grey16',
      [quarter, DEPTH_WHITE, quarter, DEPTH_WHITE],
    ]);
  });

  it('tell where a plane is, whole, or less what stands before it; light hides nothing', async () => {
    const whole = await passPicture(draw, plan, { kind: 'matte', plane: FAR, isSeen: false }, SIZE);
    expect([...whole.data]).toEqual([255, 255, 255, 0]);
    const seen = await passPicture(draw, plan, { kind: 'matte', plane: FAR, isSeen: true }, SIZE);
    expect([...seen.data]).toEqual([0, 128, 127, 0]);
    const near = await passPicture(draw, plan, { kind: 'matte', plane: NEAR, isSeen: true }, SIZE);
    expect([...near.data]).toEqual([255, 127, 128, 0]);
  });

  it('of a plane that was passed or hidden are black', async () => {
    const hidden = framePlan(testScene([testPlane({ id: NEAR, hidden: true })]), 1);
    const matte = await passPicture(draw, hidden, { kind: 'matte', plane: NEAR, isSeen: true }, SIZE);
    expect([...matte.data]).toEqual([0, 0, 0, 0]);
  });

  it('tell how far paint goes until the next frame, by hand, where the plane covers half', async () => {
    // The camera pans 480 px from frame 3 to 4: at half the distance the near plane slides 960 px to the left, at twice
    // the distance the far one 240; the pictures are 4 px wide, of 1920.
    const keyed = setCamera(scene, { panX: 0 }, { frame: 3, keying: true });
    const panned = setCamera(keyed, { panX: 480 }, { frame: 4, keying: true });
    const motionOf = async (plane: PlaneId) => {
      const pass = passOf(panned, 'motion', { plane, frame: 3 });
      const rendered = await passPicture(draw, framePlan(panned, 3), pass!, { widthPx: 4, heightPx: 1 });
      return [0, 1, 2, 3].map((px) => [...rendered.data.slice(4 * px, 4 * px + 3)]);
    };
    const nothing = [MOTION_STILL, MOTION_STILL, 0];
    const near = [motionValue(-2), MOTION_STILL, DEPTH_WHITE];
    expect(await motionOf(NEAR)).toEqual([near, nothing, near, nothing]);
    const far = [motionValue(-0.5), MOTION_STILL, DEPTH_WHITE];
    expect(await motionOf(FAR)).toEqual([far, far, far, nothing]);
  });
});
