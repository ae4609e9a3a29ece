import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { testPlane, testPlaneId, testScene } from '../testing/scenes.ts';
import { EASE_PRESET_NAMES, EASE_PRESETS } from '../timing/index.ts';
import {
  addPlanes,
  applyScenePatch,
  CAMERA_CHANNELS,
  changeBetween,
  channelId,
  deletePlanes,
  deleteSelected,
  easeSelected,
  moveSelected,
  readScene,
  reorderPlanes,
  type Scene,
  type SceneChange,
  setCamera,
  setPlaneDepth,
  setPlaneMount,
  setPlanesHidden,
  stageFault,
} from './index.ts';

const IDS = ['a', 'b', 'c', 'd'].map(testPlaneId);
const start = testScene(IDS.map((id, i) => testPlane({ id, depthSpx: i * 300 })));

type Step = (scene: Scene) => Scene;
const id = fc.constantFrom(...IDS);
const channel = fc.constantFrom(...CAMERA_CHANNELS);
const frame = fc.integer({ min: 1, max: 30 });
const value = fc.double({ min: 0.2, max: 50, noNaN: true });
const one = (name: (typeof CAMERA_CHANNELS)[number], at: number) =>
  new Map([[channelId({ on: 'camera', name }), new Set([at])]]);

const steps: fc.Arbitrary<Step> = fc.oneof(
  fc.tuple(channel, value, frame, fc.boolean()).map(
    ([name, v, at, keying]): Step =>
      (s) =>
        setCamera(s, { [name]: v }, { frame: at, keying }),
  ),
  fc.tuple(channel, frame, fc.integer({ min: -5, max: 40 })).map(
    ([name, at, by]): Step =>
      (s) =>
        moveSelected(s, one(name, at), by),
  ),
  fc.tuple(channel, frame).map(
    ([name, at]): Step =>
      (s) =>
        deleteSelected(s, one(name, at)),
  ),
  fc.tuple(channel, frame, fc.constantFrom(...EASE_PRESET_NAMES)).map(
    ([name, at, ease]): Step =>
      (s) =>
        easeSelected(s, one(name, at), EASE_PRESETS[ease]),
  ),
  fc.tuple(id, fc.double({ min: -3000, max: 9000, noNaN: true }), fc.boolean()).map(
    ([p, depthSpx, holdPicture]): Step =>
      (s) =>
        setPlaneDepth(s, p, { depthSpx, atFrame: 9, holdPicture }),
  ),
  fc.tuple(id, fc.boolean()).map(
    ([p, hidden]): Step =>
      (s) =>
        setPlanesHidden(s, new Set([p]), hidden),
  ),
  fc
    .tuple(
      id,
      fc.oneof(
        fc.constantFrom('stage' as const, 'camera' as const).map((on) => ({ on })),
        id,
      ),
    )
    .map(
      ([p, on]): Step =>
        (s) => {
          const goal = typeof on === 'string' ? { on: 'plane' as const, plane: on } : on;
          const mounted = setPlaneMount(s, p, goal, 9);
          return mounted.ok && !stageFault(mounted.value) ? mounted.value : s;
        },
    ),
  fc.tuple(id, fc.option(id)).map(
    ([p, before]): Step =>
      (s) =>
        reorderPlanes(s, new Set([p]), before),
  ),
  id.map(
    (p): Step =>
      (s) =>
        s.planes.some((plane) => plane.id === p)
          ? deletePlanes(s, new Set([p]))
          : addPlanes(s, [testPlane({ id: p })]),
  ),
);

describe('any run of edits', () => {
  it('leaves a valid scene at every step, and leads back and forth by its patches alone', () => {
    fc.assert(
      fc.property(fc.array(steps, { maxLength: 25 }), (run) => {
        const changes: SceneChange[] = [];
        let scene = start;
        for (const step of run) {
          const change = changeBetween(scene, step(scene));
          if (!change) continue;
          expect(readScene(change.scene)).toEqual({ ok: true, value: change.scene });
          changes.push(change);
          scene = change.scene;
        }
        const end = scene;
        for (const { inverse } of [...changes].reverse()) scene = applied(scene, inverse);
        expect(scene).toEqual(start);
        for (const { patch } of changes) scene = applied(scene, patch);
        expect(scene).toEqual(end);
      }),
      { seed: 21, numRuns: 150 },
    );
  });

  it('keeps keys in order of frame, no two on one', () => {
    fc.assert(
      fc.property(fc.array(steps, { maxLength: 25 }), (run) => {
        const end = run.reduce((scene, step) => step(scene), start);
        for (const name of CAMERA_CHANNELS) {
          const frames = end.camera[name].keys.map((key) => key.frame);
          expect(frames).toEqual([...new Set(frames)].sort((p, q) => p - q));
        }
      }),
      { seed: 22, numRuns: 150 },
    );
  });
});

function applied(scene: Scene, patch: SceneChange['patch']): Scene {
  const after = applyScenePatch(scene, patch);
  if (!after.ok) throw new Error(JSON.stringify(after.error));
  return after.value;
}
