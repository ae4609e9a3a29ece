import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeTrack, setMove, usualSway } from '../../edits/camera/index.ts';
import { setChannelMuted, setChannelValue } from '../../edits/keys/index.ts';
import { setPassing } from '../../edits/look/index.ts';
import { setPlaneMount } from '../../edits/planes/index.ts';
import { setPlanesRepeat, setRunSpeed } from '../../edits/runs/index.ts';
import { stageCsv } from '../../export/stage-data/index.ts';
import type { PlaneId, Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { framePlan } from '../frame/index.ts';
import type { ChannelRef } from '../index.ts';
import { PLANE_NUMBERS } from './plane-sampler.ts';
import { CAMERA_NUMBERS, sampleShot, speedsOf } from './sample.ts';

const IDS = ['a', 'b', 'c'].map(testPlaneId);
const frame = fc.integer({ min: 1, max: 40 });
const number = fc.double({ min: -400, max: 400, noNaN: true });
const id = fc.constantFrom(...IDS);

const still = testScene(
  IDS.map((plane, i) =>
    testPlane({ id: plane, depthSpx: i * 500 - 300, opacity: 1 - i / 4 }, 300 + 40 * i, 200),
  ),
  { lengthFrames: 40 },
);
const keyed = (scene: Scene, ref: ChannelRef, at: number, value: number) =>
  setChannelValue(scene, ref, value, { frame: at, keying: true });

/** Whatever makes a plane or the camera move, in random order. */
const change: fc.Arbitrary<(scene: Scene) => Scene> = fc.oneof(
  fc.tuple(fc.constantFrom('panX', 'panY', 'truck', 'roll'), frame, number).map(
    ([name, at, value]) =>
      (s: Scene) =>
        keyed(s, { on: 'camera', name } as ChannelRef, at, value),
  ),
  fc.tuple(frame, fc.double({ min: 0.2, max: 4, noNaN: true })).map(
    ([at, value]) =>
      (s: Scene) =>
        keyed(s, { on: 'camera', name: 'zoom' }, at, value),
  ),
  fc.tuple(id, fc.constantFrom('x', 'y', 'rotation'), frame, number).map(
    ([plane, name, at, value]) =>
      (s: Scene) =>
        keyed(s, { on: 'plane', plane, name } as ChannelRef, at, value),
  ),
  fc.tuple(id, fc.constantFrom('scale', 'opacity'), frame, fc.double({ min: 0.1, max: 1, noNaN: true })).map(
    ([plane, name, at, value]) =>
      (s: Scene) =>
        keyed(s, { on: 'plane', plane, name } as ChannelRef, at, value),
  ),
  fc.tuple(id, frame, fc.double({ min: -900, max: 3000, noNaN: true })).map(
    ([plane, at, value]) =>
      (s: Scene) =>
        keyed(s, { on: 'plane', plane, name: 'depth' }, at, value),
  ),
  fc.tuple(id, number).map(
    ([plane, speed]) =>
      (s: Scene) =>
        setRunSpeed(s, new Set([plane]), { x: speed / 40, unit: 'datum' }, { frame: 1, keying: false }),
  ),
  fc.tuple(id, id).map(([plane, under]) => (s: Scene) => {
    const mounted = setPlaneMount(s, plane, { on: 'plane', plane: under }, 1);
    return mounted.ok ? mounted.value : s;
  }),
  id.map((plane) => (s: Scene) => {
    const mounted = setPlaneMount(s, plane, { on: 'camera' }, 1);
    return mounted.ok ? mounted.value : s;
  }),
  id.map((plane) => (s: Scene) => setPassing(s, new Set([plane]), { way: 'fade', overSpx: 900 })),
  id.map((plane) => (s: Scene) => makeTrack(s, { on: 'plane', plane }) ?? s),
  fc.constant((s: Scene) => makeTrack(s, { on: 'camera' }) ?? s),
  fc.constant((s: Scene) => setMove(s, { sway: usualSway(s), truckSteps: 'even' })),
  id.map((plane) => (s: Scene) => setMove(s, { keepSize: { how: 'no-smaller', plane: plane as PlaneId } })),
  fc.constant((s: Scene) => setChannelMuted(s, { on: 'camera', name: 'panX' }, true)),
);

describe('a whole shot sampled', () => {
  it('is what its frames are planned as, whatever moves in it', () => {
    fc.assert(
      fc.property(fc.array(change, { minLength: 1, maxLength: 10 }), (changes) => {
        const scene = changes.reduce((s, edit) => edit(s), still);
        const sample = sampleShot(scene)!;
        for (const at of [1, 2, 19, 33, 40]) {
          const plan = framePlan(scene, at);
          const { pose } = plan;
          const camera = sample.camera.subarray((at - 1) * CAMERA_NUMBERS, at * CAMERA_NUMBERS);
          expect([...camera]).toEqual([pose.xSpx, pose.ySpx, pose.zSpx, pose.zoom, pose.rollDeg]);
          for (const planned of plan.planes) {
            const index = planesOf(scene).findIndex((plane) => plane.id === planned.planeId);
            const row = ((at - 1) * planesOf(scene).length + index) * PLANE_NUMBERS;
            const m = planned.artToFrame;
            expect(sample.planes[row + 7]).toBeCloseTo(planned.opacity, 9);
            for (const [i, name] of (['a', 'b', 'c', 'd', 'e', 'f'] as const).entries()) {
              const value = sample.planes[row + i]!;
              if (!m) expect(value).toBeNaN();
              else expect(Math.abs(value - m[name])).toBeLessThan(1e-6 * (1 + Math.abs(m[name])));
            }
          }
        }
      }),
      { numRuns: 80 },
    );
  });

  it('can be stopped, and says how far it is', () => {
    const long = { ...still, lengthFrames: 1200 };
    const told: number[] = [];
    const stopped = sampleShot(long, (done) => {
      told.push(done);
      return done < 600;
    });
    expect(stopped).toBeNull();
    expect(told).toEqual([256, 512, 768]);
    expect(sampleShot(long, () => true)?.lengthFrames).toBe(1200);
  });

  it('has no speed where a plane is not there, and none on the last frame', () => {
    const through = keyed(
      keyed(still, { on: 'camera', name: 'truck' }, 1, 0),
      { on: 'camera', name: 'truck' },
      40,
      1800,
    );
    const speeds = speedsOf(sampleShot(through)!, 0);
    expect(speeds[0]).toBeGreaterThanOrEqual(0);
    expect(speeds.at(-2)).toBeNaN();
    const table = [...stageCsv(through)].map((line) => line.trimEnd().split(','));
    expect(new Set(table.map((line) => line.length)).size).toBe(1);
    const column = table[0]!.indexOf('a a');
    expect(table[1]![column]).not.toBe('');
    // Nothing at all of what has been passed: no opacity and no blur of a plane that is not there.
    for (const name of ['a a', 'a px/frame', 'a seen opacity', 'a blur px', 'a defocus px'])
      expect([name, table.at(-1)![table[0]!.indexOf(name)]]).toEqual([name, '']);
  });

  it('has no leap where what is tiled comes round again', () => {
    const id = IDS[0]!;
    const at = { frame: 1, keying: false };
    const running = setRunSpeed(still, new Set([id]), { x: -17, y: 5, unit: 'datum' }, at);
    const tiled = (['across', 'down', 'both'] as const).map((repeat) =>
      setPlanesRepeat(running, new Set([id]), repeat),
    );
    const plain = speedsOf(sampleShot(running)!, 0).slice(0, -1);
    for (const scene of tiled)
      for (const [i, speed] of speedsOf(sampleShot(scene)!, 0).slice(0, -1).entries())
        expect(speed).toBeCloseTo(plain[i]!, 6);
  });

  it('gives every column a title of its own, whatever the planes are called', () => {
    const names = ['boat', 'boat', 'camera', 'boat seen', 'boat (n0)'];
    const planes = names.map((name, i) => ({ ...testPlane({ id: testPlaneId(`n${i}`) }, 30, 20), name }));
    const scene = planes.reduce(
      (staged, plane) => keyed(staged, { on: 'plane', plane: plane.id, name: 'opacity' }, 3, 0.5),
      testScene(planes, { lengthFrames: 3 }),
    );
    const head = [...stageCsv(scene)][0]!.trimEnd().split(',');
    expect(head.filter((title, i) => head.indexOf(title) !== i)).toEqual([]);
    expect(head).toContain('camera opacity');
  });
});
