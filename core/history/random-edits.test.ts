import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planeOf, planesOf } from '../scene/records/index.ts';
import { readScene } from '../staging/check/index.ts';
import { CAMERA_CHANNELS, channelAt } from '../staging/index.ts';
import { landed, randomSteps, STEP_PLANES, testPlane, testScene, thereAndBack } from '../testing/index.ts';
import { inverseOf, type Patch } from './patch.ts';

const start = testScene(STEP_PLANES.map((id, i) => testPlane({ id, depthSpx: i * 300 })));
const runs = fc.array(randomSteps, { maxLength: 25 });

describe('any run of edits', () => {
  it('leaves a valid scene at every step, and leads back and forth by its patches alone', () => {
    fc.assert(
      fc.property(runs, (run) => {
        const patches: Patch[] = [];
        let scene = start;
        for (const step of run) {
          const after = step(scene);
          expect(readScene(after)).toEqual({ ok: true, value: after });
          const { patch, there } = thereAndBack(scene, after);
          expect(there).toEqual(after);
          patches.push(patch);
          scene = after;
        }
        const end = scene;
        for (const patch of patches.toReversed()) scene = landed(scene, inverseOf(patch));
        expect(scene).toEqual(start);
        for (const patch of patches) scene = landed(scene, patch);
        expect(scene).toEqual(end);
      }),
      { seed: 21, numRuns: 150 },
    );
  });

  it('shares what a patch leaves alone, plane by plane', () => {
    fc.assert(
      fc.property(runs, randomSteps, (run, last) => {
        const before = run.reduce((scene, step) => step(scene), start);
        const { patch } = thereAndBack(before, last(before));
        const after = landed(before, patch);
        for (const { id } of planesOf(after)) {
          const touched = patch.some(({ path }) => path.startsWith(`/planes/${id}`));
          expect(planeOf(after, id) === planeOf(before, id)).toBe(!touched);
        }
        if (!patch.some(({ path }) => path.startsWith('/camera'))) expect(after.camera).toBe(before.camera);
      }),
      { seed: 23, numRuns: 150 },
    );
  });

  it('keeps keys in order of frame, no two on one', () => {
    fc.assert(
      fc.property(runs, (run) => {
        const end = run.reduce((scene, step) => step(scene), start);
        for (const name of CAMERA_CHANNELS) {
          const frames = channelAt(end, { on: 'camera', name })!.keys.map((key) => key.frame);
          expect(frames).toEqual([...new Set(frames)].sort((p, q) => p - q));
        }
      }),
      { seed: 22, numRuns: 150 },
    );
  });
});
