import { describe, expect, it } from 'vitest';
import { setCamera } from '../edits/keys/index.ts';
import { keysOf, recordOf } from '../scene/records/index.ts';
import { testScene } from '../testing/index.ts';
import { EASE_PRESETS } from '../timing/index.ts';
import { seenBox } from './seen-box.ts';

describe('what a shot sees of a plane', () => {
  it('is found of a shot of any length', () => {
    const lengthFrames = 50_000;
    const from = setCamera(testScene([], { lengthFrames }), { panX: 0 }, { frame: 1, keying: true });
    const to = setCamera(from, { panX: 1000 }, { frame: lengthFrames, keying: true });
    const linear = keysOf(to.camera.panX).map((key) => ({ ...key, ease: EASE_PRESETS.linear }));
    const scene = { ...to, camera: { ...to.camera, panX: recordOf({ ...to.camera.panX, keys: linear }) } };
    // On the datum: the home frame, and 1000 px more to the right.
    expect(seenBox(scene, 0)).toEqual({ x0: -960, y0: -540, x1: 1960, y1: 540 });
  });
});
