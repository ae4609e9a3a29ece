import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { stageCsv } from '../../export/stage-data/index.ts';
import { type Scene, sceneSchema } from '../../scene/index.ts';
import { keysOf, markersOf, planesOf, withPlaneList } from '../../scene/records/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import {
  allChannels,
  type ChannelRef,
  cameraPoseAt,
  channelAt,
  channelId,
  channelRef,
  keyedChannels,
  posedPlane,
  restOf,
  shownValueAt,
  steadyPoseAt,
} from '../../staging/index.ts';
import { PLANE_NUMBERS, sampleShot, speedsOf } from '../../staging/sample/index.ts';
import { testPlane, testPlaneId, testScene, thereAndBack } from '../../testing/index.ts';
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
import { setPlaneDepth } from '../depth/index.ts';
import { setPassing } from '../look/index.ts';
import { deletePlanes, paintOnFrame, setPlaneMount, setPlaneTransform } from '../planes/index.ts';
import { holdEnds, scaleShotLength, setMarker, setRateKeepingSeconds } from '../shot/index.ts';
import {
  clearChannel,
  copyKeys,
  deleteSelected,
  duplicateSelected,
  easeSelected,
  type KeySelection,
  moveSelected,
  pasteKeys,
  restCamera,
  reverseSelected,
  rollSelected,
  setChannelBeyond,
  setChannelLocked,
  setChannelMuted,
  smoothSelected,
  stretchSelected,
} from './keys.ts';
import { setCamera, setChannelValue } from './set-values.ts';

const [NEAR, FAR] = ['near', 'far'].map(testPlaneId) as [
  ReturnType<typeof testPlaneId>,
  ReturnType<typeof testPlaneId>,
];
const still = testScene([testPlane({ id: NEAR, depthSpx: -300 }), testPlane({ id: FAR, depthSpx: 1500 })]);
const camera = (name: 'panX' | 'panY' | 'truck' | 'zoom' | 'roll' | 'track'): ChannelRef => ({
  on: 'camera',
  name,
});
const plane = (
  name: 'x' | 'y' | 'depth' | 'scale' | 'rotation' | 'opacity' | 'track' | 'runX',
  id = NEAR,
): ChannelRef => ({
  on: 'plane',
  plane: id,
  name,
});
const key = (scene: Scene, ref: ChannelRef, ...keys: readonly (readonly [number, number])[]): Scene =>
  keys.reduce((s, [frame, value]) => setChannelValue(s, ref, value, { frame, keying: true }), scene);
const all = (scene: Scene, ...refs: readonly ChannelRef[]): KeySelection =>
  new Map(
    (refs.length > 0 ? refs : keyedChannels(scene)).map((ref) => [
      channelId(ref),
      new Set(channelAt(scene, ref)!.keys.map((k) => k.frame)),
    ]),
  );

const moving = [
  [camera('panX'), [1, 0], [60, 400], [110, 300]],
  [camera('truck'), [20, 0], [100, 500]],
  [camera('zoom'), [1, 1], [90, 2.5]],
  [plane('x'), [5, 0], [80, 220]],
  [plane('scale'), [5, 1], [80, 1.8]],
  [plane('rotation', FAR), [30, 0], [60, 12]],
].reduce((scene, [ref, ...keys]) => key(scene, ref as ChannelRef, ...(keys as [number, number][])), still);
const FRAMES = Array.from({ length: 120 }, (_, i) => i + 1);
const closeScenes = (a: Scene, b: Scene, frameOf: (f: number) => number, frames = FRAMES) => {
  for (const f of frames)
    for (const ref of keyedChannels(a))
      expect(shownValueAt(b, ref, frameOf(f))).toBeCloseTo(shownValueAt(a, ref, f), 6);
};

describe('channels', () => {
  it('have names that lead back to them', () => {
    for (const ref of allChannels(moving)) expect(channelRef(channelId(ref))).toEqual(ref);
    expect(keyedChannels(moving).map(channelId)).toEqual([
      'camera/panX',
      'camera/truck',
      'camera/zoom',
      'plane/x/near',
      'plane/scale/near',
      'plane/rotation/far',
    ]);
  });

  it('of a plane are shown as where it is, and follow how it stands', () => {
    const at = setPlaneTransform(moving, NEAR, { xSpx: 1000 }, 80);
    expect(shownValueAt(at, plane('x'), 80)).toBeCloseTo(1000, 9);
    expect(shownValueAt(at, plane('x'), 5)).toBeCloseTo(780, 9);
    expect(
      shownValueAt(setPlaneTransform(moving, NEAR, { scaleX: 3, scaleY: 3 }, 80), plane('scale'), 5),
    ).toBeCloseTo(3 / 1.8, 9);
  });

  it('whose last key goes become part of how the plane stands', () => {
    const gone = deleteSelected(moving, all(moving, plane('x')));
    expect(planesOf(gone)[0]!.moves.x).toBeUndefined();
    expect(planesOf(gone)[0]!.transform.xSpx).toBe(shownValueAt(moving, plane('x'), 5));
    const clear = clearChannel(moving, plane('x'), 80);
    expect(planesOf(clear)[0]!.transform.xSpx).toBeCloseTo(220, 9);
    expect(planesOf(clear)[0]!.moves.scale).toBe(planesOf(moving)[0]!.moves.scale);
  });

  it('fade a plane from what it is, and show one that was clear', () => {
    const half = withPlaneList(
      still,
      planesOf(still).map((p) => ({ ...p, opacity: p.id === NEAR ? 0.5 : 0 })),
    );
    const faded = key(half, plane('opacity'), [1, 0.5], [20, 0]);
    expect(framePlan(faded, 1).planes.find((p) => p.planeId === NEAR)?.opacity).toBe(0.5);
    expect(framePlan(faded, 20).planes.find((p) => p.planeId === NEAR)?.opacity).toBe(0);
    const shown = key(half, plane('opacity', FAR), [1, 0], [20, 0.8]);
    expect([1, 20].map((f) => framePlan(shown, f).planes.find((p) => p.planeId === FAR)?.opacity)).toEqual([
      0, 0.8,
    ]);
  });

  it('go on beyond their keys as they are told, stay so when keys change, and rest again when they are cleared', () => {
    const on = setChannelBeyond(moving, camera('panX'), 'after', 'go-on');
    expect(on.camera.panX.after).toBe('go-on');
    expect(sceneSchema.safeParse(on).success).toBe(true);
    expect(setChannelBeyond(on, camera('panX'), 'after', 'go-on')).toBe(on);
    const moved = moveSelected(on, all(on, camera('panX')), 3);
    expect(moved.camera.panX.after).toBe('go-on');
    expect(setChannelBeyond(moved, camera('panX'), 'after', null).camera.panX.after).toBeUndefined();
    expect(clearChannel(on, camera('panX'), 1).camera.panX.after).toBeUndefined();
    const locked = setChannelLocked(moving, camera('panX'), true);
    expect(setChannelBeyond(locked, camera('panX'), 'before', 'repeat')).toBe(locked);
  });

  it('that are first keyed away from frame 1 are keyed there as they were: nothing before that key jumps', () => {
    const keyed = setCamera(still, { panX: 90 }, { frame: 100, keying: true });
    expect(keysOf(keyed.camera.panX).map(({ frame, value }) => [frame, value])).toEqual([
      [1, 0],
      [100, 90],
    ]);
    expect(cameraPoseAt(keyed, 1)).toEqual(cameraPoseAt(still, 1));
    const atOnce = setCamera(still, { panX: 90 }, { frame: 1, keying: true });
    expect(keysOf(atOnce.camera.panX)).toHaveLength(1);
    const shifted = setCamera(still, { panX: 90 }, { frame: 100, keying: false });
    expect(keysOf(shifted.camera.panX)).toEqual([]);
  });

  it('that are muted rest, that are locked stay, one by one', () => {
    const muted = setChannelMuted(moving, camera('zoom'), true);
    expect(cameraPoseAt(muted, 90)).toEqual({ ...cameraPoseAt(moving, 90), zoom: 1 });
    expect(setChannelMuted(muted, camera('zoom'), false)).toEqual(moving);
    const locked = setChannelLocked(moving, camera('panX'), true);
    expect(setCamera(locked, { panX: 5 }, { frame: 3, keying: true })).toBe(locked);
    expect(moveSelected(locked, all(locked, camera('panX')), 4)).toBe(locked);
    expect(keysOf(moveSelected(locked, all(locked), 4).camera.truck)[0]!.frame).toBe(5);
    expect(sceneSchema.safeParse(muted).success && sceneSchema.safeParse(locked).success).toBe(true);
  });

  it('go no farther than keys may lie, and keep their distances', () => {
    const every = all(moving);
    const frames = (scene: Scene) => keysOf(scene.camera.panX).map(({ frame }) => frame);
    const [first, last] = [frames(moving)[0]!, frames(moving).at(-1)!];
    for (const [by, edge] of [
      [1e6, 200_000],
      [-1e6, -100_000],
    ] as const) {
      const moved = moveSelected(moving, every, by);
      expect(sceneSchema.safeParse(moved).success).toBe(true);
      const all = keyedChannels(moved).flatMap((ref) =>
        channelAt(moved, ref)!.keys.map(({ frame }) => frame),
      );
      expect(by > 0 ? Math.max(...all) : Math.min(...all)).toBe(edge);
      expect(frames(moved).at(-1)! - frames(moved)[0]!).toBe(last - first);
    }
    expect(sceneSchema.safeParse(stretchSelected(moving, every, 1e6)).success).toBe(true);
    expect(sceneSchema.safeParse(rollSelected(moving, every, 1e6)).success).toBe(true);
  });

  it('with Keying off shift, and no key is made', () => {
    const shifted = setCamera(moving, { panX: 900, roll: 4 }, { frame: 60, keying: false });
    expect(keysOf(shifted.camera.panX).map((k) => [k.frame, k.value])).toEqual([
      [1, 500],
      [60, 900],
      [110, 800],
    ]);
    expect(shifted.camera.roll).toEqual({ value: 4, keys: {} });
  });
});

describe('a plane that moves', () => {
  it('is posed and put back exactly', () => {
    for (const f of [1, 5, 40, 80, 119]) {
      const before = planesOf(moving)[0]!;
      const back = restOf(posedPlane(before, f), f);
      expect(back.transform.xSpx).toBeCloseTo(before.transform.xSpx, 9);
      expect(back.transform.scaleX).toBeCloseTo(before.transform.scaleX, 12);
      expect(posedPlane(planesOf(moving)[1]!, 1).transform.rotationDeg).toBe(0);
    }
  });

  it('keeps its picture when its depth changes in the middle of its move', () => {
    const deep = key(moving, plane('depth'), [10, -300], [90, 200]);
    for (const at of [5, 47, 80]) {
      const before = paintOnFrame(deep, planesOf(deep)[0]!, at)!;
      const held = setPlaneDepth(deep, NEAR, { depthSpx: 900, atFrame: at, holdPicture: true });
      const after = paintOnFrame(held, planesOf(held)[0]!, at)!;
      for (const side of ['x0', 'y0', 'x1', 'y1'] as const) expect(after[side]).toBeCloseTo(before[side], 6);
      expect(shownValueAt(held, plane('depth'), at)).toBeCloseTo(900, 6);
    }
  });

  it('keeps its picture when it is mounted on the camera or another plane at a frame', () => {
    for (const mount of [{ on: 'camera' } as const, { on: 'plane', plane: FAR } as const]) {
      const before = paintOnFrame(moving, planesOf(moving)[0]!, 50)!;
      const mounted = setPlaneMount(moving, NEAR, mount, 50);
      if (!mounted.ok) throw new Error(mounted.error);
      const after = paintOnFrame(mounted.value, planesOf(mounted.value)[0]!, 50)!;
      for (const side of ['x0', 'y0', 'x1', 'y1'] as const) expect(after[side]).toBeCloseTo(before[side], 6);
    }
  });

  it('fades or defocuses while the camera comes to pass it', () => {
    const through = setPassing(key(still, camera('truck'), [1, 0], [100, 1700]), new Set([NEAR]), {
      way: 'fade',
      overSpx: 800,
    });
    const near = (scene: Scene, f: number) => framePlan(scene, f).planes.find((p) => p.planeId === NEAR)!;
    const opacities = FRAMES.map((f) => near(through, f))
      .filter((p) => p.state === 'drawn')
      .map((p) => p.opacity);
    expect(opacities[0]).toBe(1);
    expect(opacities.at(-1)).toBeLessThan(0.02);
    expect(opacities).toEqual([...opacities].sort((p, q) => q - p));
    const soft = setPassing(through, new Set([NEAR]), { way: 'defocus', overSpx: 800 });
    expect(near(soft, 1).defocusPx).toBe(0);
    expect(near(soft, 89).defocusPx).toBeGreaterThan(20);
  });
});

describe('keys of many channels', () => {
  it('stretched, reversed twice, moved there and back, pasted and undone are as they were', () => {
    const every = all(moving);
    closeScenes(moving, stretchSelected(moving, every, 2), (f) => 1 + (f - 1) * 2);
    const back = reverseSelected(moving, every);
    closeScenes(moving, back, (f) => 111 - f, FRAMES.slice(0, 110));
    closeScenes(moving, reverseSelected(back, all(back)), (f) => f);
    expect(
      moveSelected(
        moveSelected(moving, every, 7),
        new Map([...every].map(([id, frames]) => [id, new Set([...frames].map((f) => f + 7))])),
        -7,
      ),
    ).toEqual(moving);
    for (const after of [
      back,
      stretchSelected(moving, every, 0.4),
      smoothSelected(moving, every),
      easeSelected(moving, every, EASE_PRESETS.out),
    ]) {
      expect(JSON.stringify(sorted(thereAndBack(moving, after).back))).toBe(JSON.stringify(sorted(moving)));
    }
  });

  it('are pasted where they fit, with the values that are seen', () => {
    const copied = copyKeys(moving, all(moving, plane('x'), plane('scale')));
    const onFar = pasteKeys(moving, copied, 11, { onto: [FAR] })!;
    for (const f of [5, 30, 80]) {
      expect(shownValueAt(onFar.scene, plane('x', FAR), f + 10)).toBeCloseTo(
        shownValueAt(moving, plane('x'), f),
        9,
      );
      expect(shownValueAt(onFar.scene, plane('scale', FAR), f + 10)).toBeCloseTo(
        shownValueAt(moving, plane('scale'), f),
        9,
      );
    }
    expect([...onFar.keys.keys()]).toEqual(['plane/x/far', 'plane/scale/far']);
    const pan = copyKeys(moving, all(moving, camera('panX')));
    const asTruck = pasteKeys(still, pan, 1, { into: camera('truck') })!;
    expect(keysOf(asTruck.scene.camera.truck)).toEqual(keysOf(moving.camera.panX));
    expect(pasteKeys(still, pan, 1, { into: camera('zoom') })).toBeNull();
    const later = duplicateSelected(moving, all(moving, camera('truck')), 5);
    expect(keysOf(later.camera.truck).map((k) => k.frame)).toEqual([1, 6, 20, 25, 100, 105]);
    expect(
      keysOf(
        rollSelected(later, new Map([[channelId(camera('truck')), new Set([25])]]), 300).camera.truck,
      )[3]!.frame,
    ).toBe(99);
  });

  it('rest truly: the camera stands still and goes on later as it would have', () => {
    const rested = restCamera(moving, { frame: 50, frames: 12, pushLater: true });
    for (let f = 50; f <= 62; f++) expect(cameraPoseAt(rested, f)).toEqual(cameraPoseAt(rested, 50));
    for (const f of [10, 49])
      expect(cameraPoseAt(rested, f).xSpx).toBeCloseTo(cameraPoseAt(moving, f).xSpx, 4);
    for (const f of [51, 70, 100])
      expect(cameraPoseAt(rested, f + 12).xSpx).toBeCloseTo(cameraPoseAt(moving, f).xSpx, 4);
  });
});

describe('retiming the whole shot', () => {
  const running = withPlaneList(
    setMarker(moving, 60, 'lamp lit'),
    planesOf(moving).map((p) =>
      p.id === FAR
        ? {
            ...p,
            repeat: 'across' as const,
            run: {
              kind: 'speed' as const,
              unit: 'datum' as const,
              x: { value: -4, keys: {} },
              y: { value: 0, keys: {} },
            },
          }
        : p,
    ),
  );

  it('scales everything with the length', () => {
    const twice = scaleShotLength(running, 239);
    closeScenes(moving, twice, (f) => 1 + (f - 1) * 2);
    expect(markersOf(twice)).toMatchObject([{ frame: 119, note: 'lamp lit' }]);
    const run = planesOf(twice)[1]!.run;
    expect(run?.kind === 'speed' && run.x.value * 239).toBeCloseTo(-4 * 120, 9);
  });

  it('keeps seconds at another rate', () => {
    const film = setRateKeepingSeconds(running, { num: 48, den: 1 });
    expect(film.lengthFrames).toBe(240);
    closeScenes(moving, film, (f) => 1 + (f - 1) * 2);
    const ntsc = setRateKeepingSeconds(running, { num: 30_000, den: 1001 });
    expect(ntsc.lengthFrames).toBe(150);
    expect(keysOf(ntsc.camera.panX).map((k) => k.frame)).toEqual([1, 75, 137]);
  });

  it('holds at its ends', () => {
    const held = holdEnds(running, 24, 12);
    expect(held.lengthFrames).toBe(156);
    closeScenes(moving, held, (f) => f + 24);
    for (let f = 1; f <= 25; f++) expect(cameraPoseAt(held, f)).toEqual(cameraPoseAt(held, 1));
  });
});

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

describe('a sampled shot', () => {
  it('is what the plans say, frame by frame', () => {
    const sample = sampleShot(moving)!;
    for (const f of [1, 33, 120]) {
      const plan = framePlan(moving, f);
      for (const [i, { id }] of planesOf(moving).entries()) {
        const m = plan.planes.find((p) => p.planeId === id)!.artToFrame!;
        const at = ((f - 1) * 2 + i) * PLANE_NUMBERS;
        for (const [n, v] of [m.a, m.b, m.c, m.d, m.e, m.f].entries())
          expect(sample.planes[at + n]).toBeCloseTo(v, 9);
      }
    }
    expect(sampleShot(testScene([], { lengthFrames: 600 }), () => false)).toBeNull();
  });

  it('knows speeds on screen: a pan of 4 px a frame at half speed slides by 2', () => {
    const pan = easeSelected(
      key(still, camera('panX'), [1, 0], [101, 400]),
      all(key(still, camera('panX'), [1, 0], [101, 400])),
      EASE_PRESETS.linear,
    );
    const half = setPlaneDepth(pan, FAR, { depthSpx: 1920, atFrame: 1, holdPicture: true });
    expect(speedsOf(sampleShot(half)!, 1).slice(0, 3)).toEqual([2, 2, 2].map((v) => expect.closeTo(v, 9)));
  });

  it('is written as CSV: a line a frame, names quoted where they must be', () => {
    const named = withPlaneList(
      moving,
      planesOf(moving).map((p) => ({ ...p, name: 'Roofs, "near"' })),
    );
    const lines = [...stageCsv(named)];
    expect(lines).toHaveLength(121);
    expect(lines[0]).toContain('"Roofs, ""near"" (far) px/frame"');
    const columns = lines[0]!.split(',panX,')[0];
    expect(columns).toBe('frame');
    expect(Number(lines[60]!.split(',')[1])).toBeCloseTo(400, 9);
  });
});

describe('properties over random moves', () => {
  const frame = fc.integer({ min: 1, max: 120 });
  it('keep every scene valid, and undo brings back its bytes', () => {
    const edits: fc.Arbitrary<(s: Scene) => Scene> = fc.oneof(
      fc.tuple(frame, fc.double({ min: -500, max: 500, noNaN: true })).map(
        ([f, v]) =>
          (s: Scene) =>
            setChannelValue(s, plane('y'), v, { frame: f, keying: true }),
      ),
      fc.constant((s: Scene) => makeTrack(s, { on: 'camera' }) ?? s),
      fc.constant((s: Scene) => bakeTrack(s, { on: 'camera' }) ?? s),
      fc.constant((s: Scene) => swapEnds(s)),
      frame.map((f) => (s: Scene) => restCamera(s, { frame: f, frames: 9, pushLater: f % 2 === 0 })),
      fc.integer({ min: 2, max: 400 }).map((n) => (s: Scene) => scaleShotLength(s, n)),
      fc.tuple(frame, frame).map(
        ([f, v]) =>
          (s: Scene) =>
            setCamera(s, { panX: v * 3, zoom: 1 + v / 60 }, { frame: f, keying: f % 3 > 0 }),
      ),
      frame.map((f) => (s: Scene) => clearChannel(s, plane('y'), f)),
      fc.constant((s: Scene) => smoothSelected(s, all(s))),
    );
    fc.assert(
      fc.property(fc.array(edits, { minLength: 1, maxLength: 6 }), (list) => {
        const after = list.reduce((s, edit) => edit(s), moving);
        const read = sceneSchema.safeParse(JSON.parse(JSON.stringify(after)));
        expect(read.error?.issues ?? []).toEqual([]);
        expect(JSON.stringify(sorted(thereAndBack(moving, after).back))).toBe(JSON.stringify(sorted(moving)));
      }),
      { numRuns: 60 },
    );
  });
});

/** JSON Patch puts a field back at the end of its object: the order of names is no part of JSON. */
function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([p], [q]) => (p < q ? -1 : 1))
      .map(([k, v]) => [k, sorted(v)]),
  );
}
