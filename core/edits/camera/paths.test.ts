import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { LIMITS, MIGRATIONS, migrate, type Scene, sceneSchema } from '../../scene/index.ts';
import { keysOf, markersOf, planeOf, planesOf } from '../../scene/records/index.ts';
import { readScene } from '../../staging/check/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import {
  type ChannelRef,
  cameraPoseAt,
  channelId,
  type PathOwner,
  pathPlaceAt,
  stageFrameOf,
} from '../../staging/index.ts';
import { asVersion5, mountedOn, testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { setCorner, type Track, trackKeys } from '../../timing/moves/index.ts';
import { setPlaneDepth } from '../depth/index.ts';
import {
  deleteSelected,
  isChannelLocked,
  isOnTrack,
  keyPlanesOnFrame,
  moveSelected,
  reverseSelected,
  setChannelLocked,
  setChannelMuted,
  setChannelValue,
} from '../keys/index.ts';
import { paintOnFrame, setPlanesLocked } from '../planes/index.ts';
import { deleteMarker, setMarker } from '../shot/index.ts';
import { movePathMark, pathMarks, pathOnFrame } from './path-on-frame.ts';
import { editTrack, makeTrack } from './tracks.ts';

const GULL = testPlaneId('gull');
const BOAT = testPlaneId('boat');
const CAMERA: PathOwner = { on: 'camera' };
const OF_GULL: PathOwner = { on: 'plane', plane: GULL };
const base = testScene([testPlane({ id: GULL, depthSpx: 400 }), testPlane({ id: BOAT, depthSpx: -200 })]);
const key = (scene: Scene, ref: ChannelRef, ...keys: readonly (readonly [number, number])[]) =>
  keys.reduce((s, [frame, value]) => setChannelValue(s, ref, value, { frame, keying: true }), scene);
const camera = (name: 'panX' | 'panY' | 'truck' | 'zoom' | 'roll'): ChannelRef => ({ on: 'camera', name });
const gull = (name: 'x' | 'y' | 'depth' | 'scale' | 'opacity'): ChannelRef => ({
  on: 'plane',
  plane: GULL,
  name,
});

const moved = key(
  key(
    key(key(base, camera('panX'), [1, -100], [60, 250], [100, 300]), camera('panY'), [1, 0], [60, 40]),
    camera('truck'),
    [1, 0],
    [100, 300],
  ),
  camera('roll'),
  [1, 0],
  [100, 10],
);
const flown = key(key(moved, gull('x'), [10, 0], [90, 260]), gull('y'), [10, 0], [50, -80], [90, -20]);

describe('a path over the picture', () => {
  it('lies where the anchor of the plane is seen, at its depth', () => {
    for (const at of [1, 30, 77]) {
      const { toFrame } = pathOnFrame(flown, OF_GULL, cameraPoseAt(flown, at), at);
      const seen = toFrame(pathPlaceAt(flown, OF_GULL, at))!;
      const m = framePlan(flown, at).planes.find((plane) => plane.planeId === GULL)!.artToFrame!;
      expect(seen.x).toBeCloseTo(m.a * 200 + m.c * 150 + m.e, 6);
      expect(seen.y).toBeCloseTo(m.b * 200 + m.d * 150 + m.f, 6);
    }
  });

  it('lies where the axis of the camera meets the datum: in the middle now', () => {
    const { toFrame } = pathOnFrame(moved, CAMERA, cameraPoseAt(moved, 40), 40);
    expect(toFrame(pathPlaceAt(moved, CAMERA, 40))).toEqual({
      x: expect.closeTo(960, 6),
      y: expect.closeTo(540, 6),
    });
  });

  it('leads from a point of the picture back to the place, and nowhere once it is passed', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 120 }),
        fc.double({ min: -800, max: 800, noNaN: true }),
        fc.double({ min: -800, max: 800, noNaN: true }),
        fc.constantFrom(CAMERA, OF_GULL),
        (at, x, y, owner) => {
          const map = pathOnFrame(flown, owner, cameraPoseAt(flown, at), at);
          const place = [x, y, owner.on === 'camera' ? 30 : -50] as const;
          const back = map.fromFrame(map.toFrame(place)!, place)!;
          expect(back[0]).toBeCloseTo(x, 6);
          expect(back[1]).toBeCloseTo(y, 6);
          expect(back[2]).toBe(place[2]);
        },
      ),
    );
    const past = { ...cameraPoseAt(base, 1), zSpx: 4000 };
    expect(pathOnFrame(base, OF_GULL, past, 1).toFrame([0, 0, 0])).toBeNull();
    expect(pathOnFrame(base, CAMERA, past, 1).fromFrame({ x: 0, y: 0 }, [0, 0, 0])).toBeNull();
  });

  it('of what rides on another plane goes with it', () => {
    const riding = mountedOn(flown, GULL, { on: 'plane', plane: BOAT });
    const { toFrame } = pathOnFrame(riding, OF_GULL, cameraPoseAt(riding, 50), 50);
    const seen = toFrame(pathPlaceAt(riding, OF_GULL, 50))!;
    const m = framePlan(riding, 50).planes.find((plane) => plane.planeId === GULL)!.artToFrame!;
    expect(seen.x).toBeCloseTo(m.a * 200 + m.c * 150 + m.e, 6);
  });
});

describe('marks of a path', () => {
  it('are the keys of its channels, and moving one keys what it moves', () => {
    expect(pathMarks(moved, CAMERA).map((mark) => mark.frame)).toEqual([1, 60, 100]);
    const at = pathMarks(moved, CAMERA)[1]!.at;
    const put = movePathMark(moved, CAMERA, 1, [at[0] + 30, at[1], at[2]]);
    expect(cameraPoseAt(put, 60).xSpx).toBeCloseTo(280, 9);
    expect(put.camera.panY).toBe(moved.camera.panY);
    expect(put.camera.truck).toBe(moved.camera.truck);
    expect(movePathMark(moved, CAMERA, 99, [0, 0, 0])).toBe(moved);
  });

  it('of a plane count from how it stands', () => {
    const marks = pathMarks(flown, OF_GULL);
    expect(marks.map((mark) => mark.frame)).toEqual([1, 10, 50, 90]);
    const put = movePathMark(flown, OF_GULL, 3, [500, marks[3]!.at[1], marks[3]!.at[2]]);
    expect(pathPlaceAt(put, OF_GULL, 90)[0]).toBeCloseTo(500, 9);
    expect(pathPlaceAt(put, OF_GULL, 10)).toEqual(pathPlaceAt(flown, OF_GULL, 10));
  });

  it('of a track are its points; a bend moves no key', () => {
    const tracked = makeTrack(moved, CAMERA)!;
    const bent = editTrack(
      tracked,
      CAMERA,
      (track): Track => ({
        ...track,
        points: [track.points[0]!, { kind: 'bend', at: [50, 90, 10] }, ...track.points.slice(1)],
      }),
    );
    expect(pathMarks(bent, CAMERA).map(({ kind, frame }) => [kind, frame])).toEqual([
      ['key', 1],
      ['bend', null],
      ['key', 60],
      ['key', 100],
    ]);
    const put = movePathMark(bent, CAMERA, 1, [0, -90, 10]);
    expect(trackKeys(put.move.track!)).toEqual(trackKeys(bent.move.track!));
    expect(cameraPoseAt(put, 60).xSpx).toBeCloseTo(cameraPoseAt(bent, 60).xSpx, 9);
    expect(cameraPoseAt(put, 30).ySpx).not.toBeCloseTo(cameraPoseAt(bent, 30).ySpx, 0);
    const corner = editTrack(bent, CAMERA, (track) => setCorner(track, 2, false));
    expect(trackKeys(corner.move.track!)[1]!.smooth).toBe(false);
    expect(cameraPoseAt(corner, 60).xSpx).toBeCloseTo(cameraPoseAt(bent, 60).xSpx, 9);
  });
});

describe('a track among the channels', () => {
  const tracked = makeTrack(moved, CAMERA)!;
  const track: ChannelRef = { on: 'camera', name: 'track' };
  const keysOf = (...frames: number[]) => new Map([[channelId(track), new Set(frames)]]);

  it('stands for pan and truck until it is muted', () => {
    expect([camera('panX'), camera('truck'), camera('zoom')].map((ref) => isOnTrack(tracked, ref))).toEqual([
      true,
      true,
      false,
    ]);
    const muted = setChannelMuted(tracked, track, true);
    expect(isOnTrack(muted, camera('panX'))).toBe(false);
    expect(cameraPoseAt(muted, 60).xSpx).toBe(tracked.camera.panX.value);
    expect(setChannelMuted(muted, track, false)).toEqual(tracked);
  });

  it('has its keys moved, turned round and taken away like any others', () => {
    const later = moveSelected(tracked, keysOf(60), 10);
    expect(trackKeys(later.move.track!).map((k) => k.frame)).toEqual([1, 70, 100]);
    expect(cameraPoseAt(later, 70).xSpx).toBeCloseTo(cameraPoseAt(tracked, 60).xSpx, 9);
    const turned = reverseSelected(tracked, keysOf(1, 60, 100), [1, 100]);
    for (const f of [1, 25, 60, 99])
      expect(cameraPoseAt(turned, 101 - f).xSpx).toBeCloseTo(cameraPoseAt(tracked, f).xSpx, 6);
    const fewer = deleteSelected(tracked, keysOf(60));
    expect(trackKeys(fewer.move.track!).map((k) => k.frame)).toEqual([1, 100]);
    expect(deleteSelected(tracked, keysOf(1, 60, 100)).move.track).toBeNull();
  });

  it('is locked as a whole', () => {
    const locked = setChannelLocked(tracked, track, true);
    expect(isChannelLocked(locked, camera('panX'))).toBe(true);
    expect(isChannelLocked(locked, camera('zoom'))).toBe(false);
    expect(moveSelected(locked, keysOf(60), 10)).toBe(locked);
    expect(editTrack(locked, CAMERA, () => ({ points: [] }))).toBe(locked);
    expect(setChannelValue(locked, camera('panX'), 5, { frame: 9, keying: true })).toBe(locked);
    const still = setPlanesLocked(flown, new Set([GULL]), true);
    expect(isChannelLocked(still, gull('x'))).toBe(true);
    expect(setChannelValue(still, gull('x'), 5, { frame: 9, keying: true })).toBe(still);
  });
});

describe('planes slid on the frame by their channels', () => {
  it('go as far on screen as the pointer, keyed at that frame alone', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 120 }),
        fc.integer({ min: -300, max: 300 }),
        fc.integer({ min: -300, max: 300 }),
        (frame, x, y) => {
          const before = paintOnFrame(flown, planesOf(flown)[0]!, frame)!;
          const slid = keyPlanesOnFrame(flown, new Set([GULL]), { x, y }, { frame, keying: true });
          const after = paintOnFrame(slid, planesOf(slid)[0]!, frame)!;
          expect(after.x0 - before.x0).toBeCloseTo(x, 5);
          expect(after.y1 - before.y1).toBeCloseTo(y, 5);
          const shifted = keyPlanesOnFrame(flown, new Set([GULL]), { x, y }, { frame, keying: false });
          expect(keysOf(planesOf(shifted)[0]!.moves.x!).map((k) => k.frame)).toEqual([1, 10, 90]);
          expect(paintOnFrame(shifted, planesOf(shifted)[0]!, frame)!.x0 - before.x0).toBeCloseTo(x, 5);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('keep what rides on them from going twice', () => {
    const riding = mountedOn(base, GULL, { on: 'plane', plane: BOAT });
    const both = keyPlanesOnFrame(riding, new Set([GULL, BOAT]), { x: 50, y: 0 }, { frame: 5, keying: true });
    expect(planeOf(both, GULL)!.moves).toEqual({});
    const [was, is] = [riding, both].map((s) => paintOnFrame(s, planeOf(s, GULL)!, 5)!);
    expect(is!.x0 - was!.x0).toBeGreaterThan(20);
  });
});

describe('depth that is keyed', () => {
  it('changes the order of drawing as planes pass one another', () => {
    const diving = key(base, gull('depth'), [1, 400], [50, -500]);
    const order = (frame: number) => framePlan(diving, frame).planes.map((plane) => plane.planeId);
    expect(order(1)).toEqual([GULL, BOAT]);
    expect(order(50)).toEqual([BOAT, GULL]);
  });

  it('is sent where it is sent at that frame, the rest of the move along', () => {
    const diving = key(base, gull('depth'), [1, 400], [50, 900]);
    const sent = setPlaneDepth(diving, GULL, { depthSpx: 1000, atFrame: 50, holdPicture: false });
    const shown = (frame: number) =>
      framePlan(sent, frame).planes.find((plane) => plane.planeId === GULL)!.distanceSpx;
    expect(shown(50)).toBeCloseTo(1000 + stageFrameOf(sent).homeDistanceSpx, 9);
    expect(shown(50) - shown(1)).toBeCloseTo(500, 9);
  });
});

describe('markers', () => {
  it('stand in order, one a frame, and go', () => {
    const two = setMarker(setMarker(base, 40, 'lamp'), 9, 'gull');
    expect(markersOf(two).map((marker) => marker.frame)).toEqual([9, 40]);
    expect(markersOf(setMarker(two, 40, 'lamp lit'))[1]).toEqual({
      id: 'at-40',
      frame: 40,
      note: 'lamp lit',
    });
    expect(deleteMarker(two, 9).markers).toEqual({ 'at-40': { frame: 40, note: 'lamp' } });
    const crowded = Object.fromEntries(
      Array.from({ length: LIMITS.markers.max + 1 }, (_, i) => [`at-${i + 1}`, { frame: i + 1, note: '' }]),
    );
    expect(sceneSchema.safeParse({ ...base, markers: crowded }).success).toBe(false);
  });
});

describe('scenes of version 3', () => {
  const { move: _, markers: __, ...rest } = asVersion5(base);
  const old = {
    ...rest,
    planes: rest.planes.map(({ moves: ___, track: ____, passing: _____, ...plane }) => plane),
    version: 3,
  };

  it('open as they were, and nothing moves that did not', () => {
    const read = readScene(JSON.parse(JSON.stringify(old)));
    if (!read.ok) throw new Error(JSON.stringify(read.error));
    expect(read.value).toEqual(base);
    for (const f of [1, 60, 120]) expect(framePlan(read.value, f)).toEqual(framePlan(base, f));
    expect(migrate(old, MIGRATIONS).ok).toBe(true);
  });

  it('refuse tracks that are none', () => {
    const at = [0, 0, 0];
    const point = (frame: number) => ({ kind: 'key', frame, at, smooth: true, ease: { kind: 'linear' } });
    const withPoints = (points: unknown[]) =>
      readScene({ ...base, move: { ...base.move, track: { points } } });
    expect(withPoints([point(1), point(9)]).ok).toBe(true);
    for (const wrong of [[], [point(9), point(9)], [point(9), point(1)], [point(1), { kind: 'bend', at }]]) {
      const read = withPoints(wrong);
      expect(read.ok).toBe(false);
      if (!read.ok && read.error.code === 'not-a-scene') expect(read.error.detail).toContain('move.track');
    }
  });
});
