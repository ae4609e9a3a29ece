import { describe, expect, it } from 'vitest';
import type { Plane, Scene } from '../../scene/index.ts';
import { keysOf, planesOf, withPlaneList } from '../../scene/records/index.ts';
import { readScene } from '../../staging/check/index.ts';
import { keptArts } from '../../staging/content/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import { stageFault } from '../../staging/index.ts';
import { repeatPeriodSpx } from '../../staging/loop/index.ts';
import { mountedOn, testArt, testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { setPlanesLocked } from '../planes/index.ts';
import {
  runBetween,
  runSpeedAt,
  runWorld,
  setClosedSeam,
  setPlanesRepeat,
  setRunSpeed,
  setRunUnit,
  stopRuns,
  worldPlanes,
} from './runs.ts';

const [A, B, C] = ['a', 'b', 'c'].map(testPlaneId) as [Plane['id'], Plane['id'], Plane['id']];
const only = (id: Plane['id']) => new Set([id]);
const still = { frame: 1, keying: false };
const artX = (scene: Scene, frame: number, id = A) =>
  framePlan(scene, frame).planes.find((plane) => plane.planeId === id)!.artToFrame!.e;

describe('how a plane runs', () => {
  it('is keyed at the frame with Keying on, and shifted as a whole with it off', () => {
    const scene = testScene([testPlane({ id: A })]);
    const first = setRunSpeed(scene, only(A), { x: 4, unit: 'datum' }, { frame: 10, keying: true });
    const keyed = setRunSpeed(first, only(A), { x: 8, unit: 'datum' }, { frame: 20, keying: true });
    const run = planesOf(keyed)[0]?.run;
    expect(run?.kind === 'speed' && keysOf(run.x).map(({ frame, value }) => [frame, value])).toEqual([
      [10, 4],
      [20, 8],
    ]);
    const shifted = setRunSpeed(keyed, only(A), { x: 5, unit: 'datum' }, { frame: 10, keying: false });
    const after = planesOf(shifted)[0]?.run;
    expect(after?.kind === 'speed' && keysOf(after.x).map(({ value }) => value)).toEqual([5, 9]);
    expect(readScene(shifted).ok).toBe(true);
  });

  it('goes along its own axes, turned with it and not flipped', () => {
    const { transform } = testPlane({ id: A });
    const turned = testPlane({ id: A, transform: { ...transform, rotationDeg: 90, scaleX: -2 } });
    const scene = setRunSpeed(testScene([turned]), only(A), { x: 10, unit: 'datum' }, still);
    const [from, to] = [1, 2].map((frame) => framePlan(scene, frame).planes[0]!.artToFrame!);
    // East of the plane points south once it is turned by a quarter.
    expect(to!.e - from!.e).toBeCloseTo(0, 9);
    expect(to!.f - from!.f).toBeCloseTo(10, 9);
  });

  it('keeps its speed on screen in its own px when it changes depth, and slows with depth at the datum’s', () => {
    const scene = testScene([testPlane({ id: A, depthSpx: 1920 })]);
    const slide = (unit: 'datum' | 'own', depthSpx: number) => {
      const running = setRunSpeed(scene, only(A), { x: 6, unit }, still);
      const moved = withPlaneList(
        running,
        planesOf(running).map((plane) => ({ ...plane, depthSpx })),
      );
      return artX(moved, 2) - artX(moved, 1);
    };
    expect([slide('own', 0), slide('own', 5760)]).toEqual([6, 6].map((v) => expect.closeTo(v, 9)));
    expect([slide('datum', 0), slide('datum', 5760)]).toEqual([6, 1.5].map((v) => expect.closeTo(v, 9)));
  });

  it('is counted in stage px on a carrier of another size', () => {
    const big = testPlane({ id: B, transform: { ...testPlane({ id: B }).transform, scaleX: 4, scaleY: 4 } });
    const mounted = mountedOn(testScene([testPlane({ id: A }), big]), A, { on: 'plane', plane: B });
    const running = setRunSpeed(mounted, only(A), { x: 3, unit: 'datum' }, still);
    expect(artX(running, 11) - artX(running, 1)).toBeCloseTo(30, 9);
    expect(repeatPeriodSpx(running, planesOf(running)[0]!).x).toBeCloseTo(400, 9);
  });

  it('takes whole cycles as the speed that they come to when a speed is typed', () => {
    const plane = testPlane({
      id: A,
      repeat: 'across',
      run: { kind: 'cycle', timesX: 3, timesY: 0, frames: 100 },
    });
    const scene = testScene([plane]);
    expect(runSpeedAt(scene, plane, 1).datum.x).toBe(12);
    const other = setRunUnit(scene, only(A), 'own');
    expect(planesOf(other)[0]?.run).toMatchObject({ kind: 'speed', unit: 'own', x: { value: 12 } });
    const typed = setRunSpeed(scene, only(A), { y: 2, unit: 'datum' }, still);
    expect(planesOf(typed)[0]?.run).toMatchObject({ kind: 'speed', x: { value: 12 }, y: { value: 2 } });
    expect(planesOf(stopRuns(typed, only(A)))[0]?.run).toBeNull();
  });

  it('ramps no longer than half its time, and starts on the first frame too', () => {
    const running = setRunSpeed(testScene([testPlane({ id: A })]), only(A), { x: 5, unit: 'datum' }, still);
    const short = runBetween(running, only(A), { start: 1, stop: 5, ramp: 90 });
    const run = planesOf(short)[0]?.run;
    expect(run?.kind === 'speed' && keysOf(run.x).map(({ frame, value }) => [frame, value])).toEqual([
      [1, 0],
      [3, 5],
      [5, 0],
    ]);
    const hard = runBetween(running, only(A), { start: 1, stop: 4, ramp: 0 });
    expect(artX(hard, 30) - artX(hard, 1)).toBeCloseTo(15, 9);
    expect(readScene(hard).ok && readScene(short).ok).toBe(true);
    // What does not run has nothing to start.
    const resting = testScene([testPlane({ id: A })]);
    expect(runBetween(resting, only(A), { start: 1, stop: 4, ramp: 0 })).toEqual(resting);
  });

  it('of the world drives what repeats or runs, and neither riders, nor the camera’s, nor what is locked', () => {
    const scene = testScene([
      testPlane({ id: A, repeat: 'across' }),
      testPlane({ id: B, repeat: 'both', mount: { on: 'camera' } }),
      testPlane({ id: C, repeat: 'across', mount: { on: 'plane', plane: A } }),
    ]);
    expect(worldPlanes(scene).map(({ id }) => id)).toEqual([A]);
    const locked = setPlanesLocked(scene, only(A), true);
    expect(runWorld(locked, 5)).toEqual(locked);
    expect(planesOf(runWorld(scene, 5)).map(({ run }) => run?.kind ?? null)).toEqual(['speed', null, null]);
    expect(setPlanesRepeat(locked, only(A), 'none')).toEqual(locked);
  });
});

describe('a seam that was closed', () => {
  it('puts the shorter image in the same place and keeps the one that it was made from', () => {
    const scene = testScene([testPlane({ id: A, repeat: 'across' })]);
    const art = testArt(9, 384, 300);
    const closed = setClosedSeam(scene, A, art, { axis: 'across', fadePx: 16 });
    const [plane] = planesOf(closed);
    expect(plane?.transform).toEqual(planesOf(scene)[0]?.transform);
    expect(plane && keptArts(plane.content).map(({ id }) => id)).toEqual([art.id, testArt(1).id]);
    expect(readScene(closed)).toEqual({ ok: true, value: closed });
    expect(artX(closed, 1)).toBe(artX(scene, 1));
  });
});

describe('a stage that cannot stand', () => {
  it('is told with the plane that is at fault', () => {
    const rock = testPlane({ id: A, name: 'rock' });
    const bird = testPlane({ id: B, name: 'bird', depthSpx: -960, mount: { on: 'plane', plane: A } });
    expect(stageFault(testScene([rock, bird]))).toBeNull();
    const larger = { ...rock, transform: { ...rock.transform, scaleX: 2, scaleY: 2 } };
    expect(stageFault(testScene([larger, bird]))).toBe('bird would stand at or behind the home camera');
    expect(stageFault(testScene([bird]))).toBe('bird rides on a plane that is not there');
    const read = readScene(JSON.parse(JSON.stringify(testScene([bird]))));
    expect(!read.ok && 'detail' in read.error && read.error.detail).toContain('not there');
  });
});
