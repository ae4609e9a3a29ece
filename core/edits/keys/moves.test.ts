import { describe, expect, it } from 'vitest';
import type { Scene } from '../../scene/index.ts';
import { keysOf, planesOf } from '../../scene/records/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import { cameraPoseAt, posedPlane, shownValueAt, steadyPoseAt } from '../../staging/index.ts';
import { all, camera, FAR, FRAMES, key, moving, NEAR, plane, still } from '../../testing/keyed-scenes.ts';
import { BEYONDS, EASE_PRESETS } from '../../timing/index.ts';
import { trackKeys, trackLength } from '../../timing/moves/index.ts';
import {
  bakeSway,
  bakeTrack,
  editTrack,
  fieldAt,
  framePlanes,
  makeTrack,
  ride,
  setMove,
  sizeField,
  smoothZoomPan,
  swapEnds,
  usualSway,
} from '../camera/index.ts';
import { deletePlanes, paintOnFrame } from '../planes/index.ts';
import { easeSelected, setChannelBeyond, setChannelLocked } from './keys.ts';
import { setChannelValue } from './set-values.ts';

describe('tracks', () => {
  const path = key(key(still, camera('panX'), [1, 0], [100, 800]), camera('panY'), [1, 0], [100, 120]);

  it('go the way of the channels, bend, and come back as few keys within a tenth of a px', () => {
    const tracked = makeTrack(path, { on: 'camera' })!;
    for (const f of FRAMES) expect(cameraPoseAt(tracked, f).xSpx).toBeCloseTo(cameraPoseAt(path, f).xSpx, 5);
    expect(keysOf(tracked.camera.panX)).toEqual([]);
    const bent = editTrack(tracked, { on: 'camera' }, (track) => ({
      ...track,
      points: [
        track.points[0]!,
        { kind: 'bend', at: [300, -260, 40] },
        { kind: 'bend', at: [500, 300, 0] },
        track.points[1]!,
      ],
    }));
    expect(trackKeys(bent.move.track!)).toEqual(trackKeys(tracked.move.track!));
    expect(trackLength(bent.move.track!)).toBeGreaterThan(trackLength(tracked.move.track!));
    const baked = bakeTrack(bent, { on: 'camera' })!;
    let worst = 0;
    for (const f of FRAMES) {
      const [was, is] = [cameraPoseAt(bent, f), cameraPoseAt(baked, f)];
      worst = Math.max(worst, Math.hypot(was.xSpx - is.xSpx, was.ySpx - is.ySpx, was.zSpx - is.zSpx));
    }
    expect(worst).toBeLessThanOrEqual(0.1);
    const keys = (['panX', 'panY', 'truck'] as const).map((name) => keysOf(baked.camera[name]).length);
    expect(Math.max(...keys)).toBeLessThan(16);
    expect(baked.move.track).toBeNull();
  });

  it.each(BEYONDS)('take on what all channels do beyond their keys, and give it back: %s', (beyond) => {
    const goesOn = (['panX', 'panY'] as const).reduce(
      (scene, name) => setChannelBeyond(scene, camera(name), 'after', beyond),
      path,
    );
    const tracked = makeTrack(goesOn, { on: 'camera' })!;
    expect(tracked.move.track?.after).toBe(beyond);
    const baked = bakeTrack(tracked, { on: 'camera' })!;
    for (const frame of [100, 101, 130, 199, 260]) {
      const [was, track, is] = [goesOn, tracked, baked].map((scene) => cameraPoseAt(scene, frame));
      expect(Math.hypot(was!.xSpx - track!.xSpx, was!.ySpx - track!.ySpx)).toBeLessThan(1e-4);
      expect(Math.hypot(was!.xSpx - is!.xSpx, was!.ySpx - is!.ySpx)).toBeLessThanOrEqual(0.5);
    }
    const mixed = makeTrack(setChannelBeyond(path, camera('panX'), 'after', beyond), { on: 'camera' })!;
    expect(mixed.move.track?.after).toBeUndefined();
  });

  it('of a plane carry it, and a value typed for it is a place on it', () => {
    const flown = makeTrack(key(key(still, plane('x'), [1, 0], [60, 300]), plane('y'), [1, 0], [60, -50]), {
      on: 'plane',
      plane: NEAR,
    })!;
    expect(posedPlane(planesOf(flown)[0]!, 60).transform).toMatchObject({ xSpx: 300, ySpx: -50 });
    const typed = setChannelValue(flown, plane('x'), 500, { frame: 30, keying: true });
    expect(posedPlane(planesOf(typed)[0]!, 30).transform.xSpx).toBeCloseTo(500, 6);
    expect(trackKeys(planesOf(typed)[0]!.track!)).toHaveLength(3);
    const shifted = setChannelValue(flown, plane('x'), 500, { frame: 60, keying: false });
    expect(posedPlane(planesOf(shifted)[0]!, 1).transform.xSpx).toBeCloseTo(200, 6);
  });

  it('are not made of nothing nor of what is locked', () => {
    expect(makeTrack(still, { on: 'camera' })).toBeNull();
    expect(makeTrack(setChannelLocked(path, camera('panX'), true), { on: 'camera' })).toBeNull();
    expect(bakeTrack(path, { on: 'camera' })).toBeNull();
  });
});

describe('beside the channels', () => {
  it('sway is laid over the move, leaves its keys alone, and bakes to within what was asked', () => {
    const swayed = setMove(moving, { sway: usualSway(moving) });
    expect(swayed.camera).toBe(moving.camera);
    expect(steadyPoseAt(swayed, 40)).toEqual(cameraPoseAt(moving, 40));
    expect(cameraPoseAt(swayed, 40)).not.toEqual(cameraPoseAt(moving, 40));
    const baked = bakeSway(swayed);
    expect(baked.move.sway?.on).toBe(false);
    for (const f of FRAMES) {
      expect(Math.abs(cameraPoseAt(baked, f).xSpx - cameraPoseAt(swayed, f).xSpx)).toBeLessThanOrEqual(0.1);
      expect(Math.abs(cameraPoseAt(baked, f).rollDeg - cameraPoseAt(swayed, f).rollDeg)).toBeLessThanOrEqual(
        0.01,
      );
    }
    expect(baked.camera.zoom).toEqual(moving.camera.zoom);
  });

  it('the zoom holds the size of a plane while the camera trucks', () => {
    const size = (scene: Scene, f: number) => {
      const m = framePlan(scene, f).planes.find((p) => p.planeId === FAR)!.artToFrame!;
      return Math.hypot(m.a, m.b);
    };
    const trucking = key(still, camera('truck'), [1, 0], [100, 900]);
    const kept = setMove(trucking, { keepSize: { how: 'same', plane: FAR, distanceSpx: 3420 } });
    for (const f of FRAMES) expect(size(kept, f)).toBeCloseTo(size(trucking, 1), 9);
    const out = key(still, camera('truck'), [1, 0], [50, -900], [100, 900]);
    const least = setMove(out, { keepSize: { how: 'no-smaller', plane: FAR } });
    for (const f of FRAMES) {
      expect(size(least, f)).toBeGreaterThanOrEqual(size(out, 1) - 1e-9);
      if (size(out, f) >= size(out, 1)) expect(size(least, f)).toBe(size(out, f));
    }
    expect(deletePlanes(kept, new Set([FAR])).move.keepSize).toBeNull();
  });

  it('a truck by even growth brings the datum nearer by one ratio each frame', () => {
    const linear = setMove(key(still, camera('truck'), [1, 0], [49, 1440]), { truckSteps: 'even' });
    const even = easeSelected(linear, all(linear), EASE_PRESETS.linear);
    const growth = FRAMES.slice(0, 48).map(
      (f) => cameraPoseAt(even, f).zSpx / cameraPoseAt(even, f + 1).zSpx,
    );
    // 1920 to 480 spx: by 4 in 48 steps.
    for (const g of growth) expect(g).toBeCloseTo(4 ** (1 / 48), 9);
  });
});

describe('fielding', () => {
  it('sizes by zoom or by truck to the same field of the datum', () => {
    for (const sizing of ['zoom', 'truck'] as const) {
      const sized = sizeField(still, 0.5, sizing, { frame: 30, keying: true });
      expect(fieldAt(sized, 30)!.width).toBeCloseTo(960, 9);
      expect(keysOf(sized.camera[sizing]).map((k) => k.frame)).toEqual([1, 30, 120]);
      for (const f of [1, 120]) expect(cameraPoseAt(sized, f)).toEqual(cameraPoseAt(still, f));
      expect(keysOf(sized.camera[sizing === 'zoom' ? 'truck' : 'zoom'])).toHaveLength(0);
    }
  });

  it('frames planes so that their paint just fits', () => {
    for (const sizing of ['zoom', 'truck'] as const) {
      const framed = framePlanes(moving, new Set([FAR]), sizing, { frame: 70, keying: true })!;
      const box = paintOnFrame(framed, planesOf(framed)[1]!, 70)!;
      expect((box.x0 + box.x1) / 2).toBeCloseTo(960, 2);
      expect(Math.max((box.x1 - box.x0) / 1920, (box.y1 - box.y0) / 1080)).toBeCloseTo(1, 3);
    }
    expect(framePlanes(still, new Set(), 'zoom', { frame: 1, keying: true })).toBeNull();
  });

  it('swaps what is seen first and last', () => {
    const swapped = swapEnds(moving);
    for (const f of FRAMES)
      expect(cameraPoseAt(swapped, 121 - f).xSpx).toBeCloseTo(cameraPoseAt(moving, f).xSpx, 6);
    expect(planesOf(swapped)).toBe(planesOf(moving));
  });

  it.each(['repeat', 'there-and-back', 'go-on'] as const)(
    'swaps what is done beyond the keys: %s',
    (beyond) => {
      const short = key(key(still, camera('panX'), [1, 0], [31, 300]), camera('panY'), [1, 0], [31, 40]);
      const channels = setChannelBeyond(short, camera('panX'), 'after', beyond);
      const track = setChannelBeyond(makeTrack(short, { on: 'camera' })!, camera('track'), 'after', beyond);
      for (const scene of [channels, track]) {
        const swapped = swapEnds(scene);
        for (const f of FRAMES) {
          // Where a round ends and the next begins, a repeat has two values, and the frame has that of what begins.
          if (beyond === 'repeat' && f > 31 && (f - 1) % 30 === 0) continue;
          expect(cameraPoseAt(swapped, 121 - f).xSpx).toBeCloseTo(cameraPoseAt(scene, f).xSpx, 6);
        }
        expect(swapEnds(swapped)).toEqual(scene);
      }
    },
  );

  it('glides from one field to another by the smooth way', () => {
    const ends = key(key(still, camera('panX'), [1, -2000], [120, 2000]), camera('zoom'), [1, 2], [120, 2]);
    const smooth = smoothZoomPan(ends, 1, 120)!;
    expect(shownValueAt(smooth, { on: 'camera', name: 'panX' }, 1)).toBeCloseTo(-2000, 6);
    expect(shownValueAt(smooth, { on: 'camera', name: 'panX' }, 120)).toBeCloseTo(2000, 1);
    // It pulls out on the way.
    expect(shownValueAt(smooth, { on: 'camera', name: 'zoom' }, 60)).toBeLessThan(1);
    expect(keysOf(smooth.camera.zoom).length).toBeLessThan(20);
    expect(smoothZoomPan(ends, 5, 6)).toBeNull();
  });
});

describe('a ride', () => {
  const gesture = (scale: number) =>
    FRAMES.slice(0, 60).map((f) => ({ x: scale * f, y: scale * 20 * Math.sin(f / 9) }));

  it('takes a plane along with the pen, whatever the camera does meanwhile', () => {
    const ridden = {
      firstFrame: 20,
      byPx: gesture(5).map((p) => ({ x: p.x - 5, y: p.y })),
      toleranceSpx: 0.5,
    };
    const after = ride(moving, { on: 'plane', plane: FAR }, ridden);
    const middle = (scene: Scene, f: number) => {
      const m = framePlan(scene, f).planes.find((p) => p.planeId === FAR)!.artToFrame!;
      return { x: m.a * 200 + m.c * 150 + m.e, y: m.b * 200 + m.d * 150 + m.f };
    };
    const start = middle(moving, 20);
    for (const [i, by] of ridden.byPx.entries()) {
      const at = middle(after, 20 + i);
      expect(Math.hypot(at.x - start.x - by.x, at.y - start.y - by.y)).toBeLessThan(2);
    }
    expect(keysOf(planesOf(after)[1]!.moves.x!).length).toBeLessThan(15);
    expect(planesOf(after)[0]).toBe(planesOf(moving)[0]);
  });

  it('pans the camera so that the datum follows the pen', () => {
    const after = ride(
      still,
      { on: 'camera' },
      { firstFrame: 1, byPx: gesture(3).map((p) => ({ x: p.x - 3, y: 0 })), toleranceSpx: 0.2 },
    );
    expect(cameraPoseAt(after, 60).xSpx).toBeCloseTo(-177, 0);
    expect(keysOf(after.camera.panX)).toHaveLength(2);
    expect(keysOf(after.camera.panY)).toHaveLength(0);
  });
});
