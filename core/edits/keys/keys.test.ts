import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { stageCsv } from '../../export/stage-data/index.ts';
import { type Scene, sceneSchema } from '../../scene/index.ts';
import { keysOf, planesOf, withPlaneList } from '../../scene/records/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import {
  allChannels,
  cameraPoseAt,
  channelAt,
  channelId,
  channelRef,
  keyedChannels,
  posedPlane,
  restOf,
  shownValueAt,
} from '../../staging/index.ts';
import { PLANE_NUMBERS, sampleShot, speedsOf } from '../../staging/sample/index.ts';
import { testScene, thereAndBack } from '../../testing/index.ts';
import {
  all,
  camera,
  closeScenes,
  FAR,
  FRAMES,
  key,
  moving,
  NEAR,
  plane,
  still,
} from '../../testing/keyed-scenes.ts';
import { EASE_PRESETS } from '../../timing/index.ts';
import { bakeTrack, makeTrack, swapEnds } from '../camera/index.ts';
import { setPlaneDepth } from '../depth/index.ts';
import { setPassing } from '../look/index.ts';
import { paintOnFrame, setPlaneMount, setPlaneTransform } from '../planes/index.ts';
import { scaleShotLength } from '../shot/index.ts';
import {
  clearChannel,
  copyKeys,
  deleteSelected,
  duplicateSelected,
  easeSelected,
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
