import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Content, Plane, Scene } from '../../scene/index.ts';
import { channelOf, planesOf } from '../../scene/records/index.ts';
import { readScene } from '../../staging/check/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import type { ChannelRef } from '../../staging/index.ts';
import { canClose, loopReport } from '../../staging/loop/index.ts';
import { testArt, testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { cyclePhase, runDistance } from '../../timing/moves/index.ts';
import { setMove, usualSway } from '../camera/index.ts';
import { setCamera, setChannelValue } from '../keys/index.ts';
import { setFlicker } from '../look/index.ts';
import { closeLoop, closingLengths, LOOP_WAYS } from './close-loop.ts';
import { runBetween, runSpeedAt, runWorld, setPlanesRepeat, setRunSpeed, setRunUnit } from './runs.ts';

const [A, B, C] = ['a', 'b', 'c'].map(testPlaneId) as [Plane['id'], Plane['id'], Plane['id']];
const AT_REST = { frame: 1, keying: false };
const strip = (id: Plane['id'], widthPx: number, part: Partial<Plane> = {}) =>
  testPlane({ id, repeat: 'across', ...part }, widthPx, 300);
const running = (scene: Scene, id: Plane['id'], x: number) =>
  setRunSpeed(scene, new Set([id]), { x, unit: 'datum' }, AT_REST);
const walk = (holds: readonly number[]): Content => ({
  kind: 'moving',
  exposures: holds.map((hold, i) => ({ art: testArt(i + 1), hold })),
  cycle: 'loop',
  startFrame: 1,
  rate: null,
});

describe('running', () => {
  it('slides by v·(frame − 1), and by the sum of its speeds where they are keyed', () => {
    expect(runDistance({ value: 7, keys: [] }, 25)).toBe(168);
    const hold = { kind: 'hold' } as const;
    const keyed = {
      value: 0,
      keys: [
        { frame: 1, value: 0, ease: hold },
        { frame: 5, value: 3, ease: hold },
        { frame: 9, value: 0, ease: hold },
      ],
    };
    expect([1, 5, 6, 9, 30].map((frame) => runDistance(keyed, frame))).toEqual([0, 0, 3, 12, 12]);
    expect(runDistance(keyed, 6.5)).toBe(4.5);
  });

  it('moves on screen by its speed at home, in either unit, east positive', () => {
    const scene = testScene([testPlane({ id: A, depthSpx: 1920 })]);
    const landsAt = (s: Scene, frame: number) => framePlan(s, frame).planes[0]!.artToFrame!.e;
    const datum = setRunSpeed(scene, new Set([A]), { x: 10, unit: 'datum' }, AT_REST);
    expect(landsAt(datum, 2) - landsAt(datum, 1)).toBeCloseTo(5, 12);
    const own = setRunSpeed(scene, new Set([A]), { x: 10, unit: 'own' }, AT_REST);
    expect(landsAt(own, 2) - landsAt(own, 1)).toBeCloseTo(10, 12);
    expect(runSpeedAt(own, planesOf(own)[0]!, 1).datum.x).toBeCloseTo(20, 12);
    const changed = setRunUnit(datum, new Set([A]), 'own');
    expect(landsAt(changed, 50)).toBeCloseTo(landsAt(datum, 50), 9);
  });

  it('takes what rides on it along', () => {
    const scene = running(
      testScene([testPlane({ id: B, mount: { on: 'plane', plane: A } }), testPlane({ id: A })]),
      A,
      -4,
    );
    const x = (frame: number, id: string) =>
      framePlan(scene, frame).planes.find((plane) => plane.planeId === id)!.artToFrame!.e;
    expect(x(11, B) - x(1, B)).toBeCloseTo(-40, 9);
    expect(x(11, A) - x(1, A)).toBeCloseTo(-40, 9);
  });

  it('starts and stops between two frames, at once or over a ramp', () => {
    const scene = running(testScene([testPlane({ id: A })]), A, 6);
    const travelled = (s: Scene, frame: number) => {
      const { run } = planesOf(s)[0]!;
      return run?.kind === 'speed' ? runDistance(channelOf(run.x), frame) : Number.NaN;
    };
    const hard = runBetween(scene, new Set([A]), { start: 10, stop: 20, ramp: 0 });
    expect([9, 10, 11, 20, 60].map((f) => travelled(hard, f))).toEqual([0, 0, 6, 60, 60]);
    const soft = runBetween(scene, new Set([A]), { start: 10, stop: 20, ramp: 4 });
    // 0, 1.5, 3, 4.5, then 6 twice, then 6, 4.5, 3, 1.5: worked by hand.
    expect(travelled(soft, 20)).toBeCloseTo(36, 9);
    expect(readScene(soft).ok).toBe(true);
  });

  it('drives the whole world by depth with one number', () => {
    const scene = testScene([
      strip(A, 800, { depthSpx: 1920 }),
      strip(B, 800, { depthSpx: -960 }),
      testPlane({ id: C }),
    ]);
    const world = runWorld(scene, -12);
    expect(planesOf(world).map((plane) => runSpeedAt(world, plane, 1).own.x)).toEqual([-6, -24, 0]);
    expect(planesOf(world)[2]).toEqual(planesOf(scene)[2]);
  });
});

describe('the loop', () => {
  it('counts phases in whole numbers: frame f and f + N agree to the bit', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -300, max: 300 }),
        fc.integer({ min: 1, max: 1000 }),
        fc.integer({ min: 1, max: 5000 }),
        (times, frames, frame) => {
          expect(cyclePhase(times, frames, frame + frames)).toBe(cyclePhase(times, frames, frame));
        },
      ),
    );
  });

  it('offers the nearest speeds with their errors, as worked by hand', () => {
    // 192 frames at 12.3 px pass 2361.6 px: 2.952 widths of 800, nearest 3, so 1.626 % faster.
    const scene = running(testScene([strip(A, 800)], { lengthFrames: 192 }), A, -12.3);
    const [item] = loopReport(scene);
    expect(item).toMatchObject({ kind: 'run', axis: 'x', nearest: -3, closed: false });
    expect(item && canClose(item) && item.turns).toBeCloseTo(-2.952, 12);
    expect(item && canClose(item) && item.error).toBeCloseTo(3 / 2.952 - 1, 12);
    const closed = closeLoop(scene, 'speeds');
    expect(planesOf(closed)[0]?.run).toEqual({ kind: 'cycle', timesX: -3, timesY: 0, frames: 192 });
    expect(runSpeedAt(closed, planesOf(closed)[0]!, 1).datum.x).toBe(-12.5);
    // What would pass less than half of its width stands still; as a length it passes once.
    const slow = running(scene, A, -1);
    expect(loopReport(slow)[0]).toMatchObject({ nearest: 0, error: -1, closed: false });
    expect(planesOf(closeLoop(slow, 'speeds'))[0]?.run).toBeNull();
    expect(loopReport(closeLoop(slow, 'speeds'))).toEqual([]);
    expect(planesOf(closeLoop(slow, 'lengths'))[0]?.transform.scaleX).toBeCloseTo(192 / 800, 12);
    // The same speed on a strip 1.6 % shorter closes as well.
    const shorter = closeLoop(scene, 'lengths');
    expect(planesOf(shorter)[0]?.transform.scaleX).toBeCloseTo(0.984, 12);
    expect(runSpeedAt(shorter, planesOf(shorter)[0]!, 1).datum.x).toBeCloseTo(-12.3, 12);
  });

  it('says what cannot close', () => {
    const base = testScene([
      strip(A, 800, { repeat: 'none' }),
      testPlane({ id: B, content: { ...walk([2, 2]), cycle: 'once' } as Content }),
      testPlane({ id: C, mount: { on: 'plane', plane: A } }),
    ]);
    const moved = setCamera(
      setCamera(running(base, A, -8), { panX: 0 }, { frame: 1, keying: true }),
      { panX: 100 },
      { frame: 50, keying: true },
    );
    expect(loopReport(moved).map(({ kind }) => kind)).toEqual(['camera', 'slides', 'once', 'rides']);
  });

  it('asks of light, focus and opacity too whether they come back', () => {
    const base = running(testScene([strip(A, 800)], { lengthFrames: 200 }), A, -4);
    const keyed = (scene: Scene, ref: ChannelRef, from: number, to: number) =>
      [from, to].reduce(
        (next, value, i) => setChannelValue(next, ref, value, { frame: 1 + 199 * i, keying: true }),
        scene,
      );
    const kinds = (scene: Scene) => loopReport(scene).map((item) => item.kind);
    expect(kinds(base)).toEqual(['run']);
    const of = (name: 'opacity' | 'brightness'): ChannelRef => ({ on: 'plane', plane: A, name });
    for (const name of ['opacity', 'brightness'] as const) {
      expect(kinds(keyed(base, of(name), 1, 0.5))).toEqual(['run', 'keyed']);
      expect(kinds(keyed(base, of(name), 0.5, 0.5))).toEqual(['run']);
    }
    const [rotation, roll]: ChannelRef[] = [
      { on: 'plane', plane: A, name: 'rotation' },
      { on: 'camera', name: 'roll' },
    ];
    for (const turn of [360, -720]) {
      expect(kinds(keyed(base, rotation!, 10.123, 10.123 + turn))).toEqual(['run']);
      expect(kinds(keyed(base, roll!, -0.1, turn - 0.1))).toEqual(['run']);
    }
    expect(kinds(keyed(keyed(base, rotation!, 0, 350), roll!, 0, 180))).toEqual(['camera', 'run', 'keyed']);
    expect(kinds(keyed(base, { on: 'camera', name: 'vignette' }, 0, 1))).toEqual(['camera', 'run']);
    const pulled = keyed(base, { on: 'camera', name: 'focus' }, 0, 900);
    // What has a shut iris has no focus to pull.
    expect(kinds(pulled)).toEqual(['run']);
    expect(kinds(keyed(pulled, { on: 'camera', name: 'iris' }, 40, 40))).toEqual(['camera', 'run']);
    for (const loops of [false, true]) {
      const flicker = { on: true, amount: 0.4, frequencyHz: 6, seed: 2, loops };
      expect(kinds(setFlicker(base, new Set([A]), flicker))).toEqual(loops ? ['run'] : ['run', 'keyed']);
      const swayed = setMove(base, { sway: { ...usualSway(base), loops } });
      expect(kinds(swayed)).toEqual(loops ? ['run'] : ['camera', 'run']);
    }
  });

  it('turns a moving plane a whole number of times: 30 exposures on twos in 192 frames at 24', () => {
    // 60 frames a turn, 3.2 turns: nearest 3, at 24·3·60/192 = 22.5 a second.
    const scene = testScene([testPlane({ id: A, content: walk(Array(30).fill(2)) })], { lengthFrames: 192 });
    expect(loopReport(scene)[0]).toMatchObject({ kind: 'moving', turns: 3.2, nearest: 3, closed: false });
    const [plane] = planesOf(closeLoop(scene, 'speeds'));
    expect(plane?.content).toMatchObject({ rate: { num: 45, den: 2 } });
  });

  it('closes any set of runs and cycles: the frame after the last is the first, to the bit', () => {
    const planes = fc.array(
      fc.tuple(
        fc.integer({ min: 40, max: 4000 }),
        fc.double({ min: -60, max: 60, noNaN: true }).filter((v) => Math.abs(v) > 0.5),
        fc.double({ min: -800, max: 9000, noNaN: true }),
        fc.array(fc.integer({ min: 1, max: 6 }), { minLength: 2, maxLength: 9 }),
      ),
      { minLength: 1, maxLength: 3 },
    );
    const way = fc.constantFrom(...LOOP_WAYS);
    fc.assert(
      fc.property(planes, fc.integer({ min: 8, max: 400 }), way, (made, lengthFrames, how) => {
        const strips = made.map(([width, , depthSpx], i) => strip([A, B, C][i]!, width, { depthSpx }));
        const walker = testPlane({ id: testPlaneId('w'), content: walk(made[0]![3]) });
        const start = made.reduce(
          (scene, [, speed], i) => running(scene, [A, B, C][i]!, speed),
          testScene([...strips, walker], { lengthFrames }),
        );
        const closed = closeLoop(start, how);
        expect(readScene(closed).ok).toBe(true);
        expect(loopReport(closed).every((item) => canClose(item) && item.closed)).toBe(true);
        const [first, after] = [framePlan(closed, 1), framePlan(closed, lengthFrames + 1)];
        expect(after.planes).toEqual(first.planes);
        expect(framePlan(closed, lengthFrames + 4).planes).toEqual(framePlan(closed, 4).planes);
      }),
      { seed: 30, numRuns: 120 },
    );
  });

  it('finds the length near the shot’s own at which all closes', () => {
    // 16 px a frame over 800: 50 frames a turn; a walk of 12: both close at 300, 600, …
    const scene = running(
      testScene([strip(A, 800), testPlane({ id: B, content: walk([6, 6]) })], { lengthFrames: 290 }),
      A,
      -16,
    );
    expect(closingLengths(scene, 24, 3)[0]).toEqual({ lengthFrames: 300, standing: 0, worstError: 0 });
  });

  it('offers no length at which more would stand still, nor the shot’s own', () => {
    // 0.52 of a turn in 130 frames: in fewer than 125 it would stand still, which closes with no change.
    const scene = running(testScene([strip(A, 1000)], { lengthFrames: 130 }), A, -4);
    const lengths = closingLengths(scene, 24, 100);
    expect(lengths.map(({ standing }) => standing)).toEqual(lengths.map(() => 0));
    const offered = lengths.map(({ lengthFrames }) => lengthFrames);
    expect(Math.min(...offered)).toBe(126);
    expect(offered[0]).toBe(154);
    expect(offered).not.toContain(130);
  });

  it('leaves planes alone that do not run', () => {
    const scene = setPlanesRepeat(testScene([testPlane({ id: A })]), new Set([A]), 'both');
    expect(closeLoop(scene, 'speeds')).toEqual(scene);
  });
});
