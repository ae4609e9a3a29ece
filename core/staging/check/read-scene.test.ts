import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planeFromLayer } from '../../edits/art/index.ts';
import { setPlaneDepth } from '../../edits/depth/index.ts';
import { deleteSelected, easeSelected, moveSelected, setCamera } from '../../edits/keys/index.ts';
import {
  addPlanes,
  deletePlanes,
  renamePlane,
  reorderPlanes,
  setPlanesHidden,
  setPlanesOpacity,
  setPlaneTransform,
} from '../../edits/planes/index.ts';
import { setFrameSize, setRate, setShotLength } from '../../edits/shot/index.ts';
import {
  MIGRATIONS,
  type Migration,
  migrate,
  type PlaneId,
  SCENE_VERSION,
  type Scene,
  sceneJsonSchema,
} from '../../scene/index.ts';
import { keysOf } from '../../scene/records/index.ts';
import {
  asVersion5,
  mountedOn,
  paintedLayer,
  testArt,
  testPlane,
  testPlaneId,
  testScene,
  thereAndBack,
} from '../../testing/index.ts';
import { EASE_PRESETS } from '../../timing/index.ts';
import { framePlan } from '../frame/index.ts';
import { channelId, MOVE_CHANNELS, shownValueAt } from '../index.ts';
import { readScene } from './read-scene.ts';

const [A, B] = [testPlaneId('a'), testPlaneId('b')];
const scene = testScene([testPlane({ id: A }), testPlane({ id: B, depthSpx: 960 })]);

const withPlane = (id: PlaneId, part: object) => ({
  ...scene,
  planes: { ...scene.planes, [id]: { ...scene.planes[id], ...part } },
});
const KEY = { value: 1, ease: { kind: 'hold' } };
const withPanKeys = (keys: object) => ({ ...scene, camera: { ...scene.camera, panX: { value: 0, keys } } });

describe('reading a scene', () => {
  it('takes what it wrote', () => {
    expect(readScene(JSON.parse(JSON.stringify(scene)))).toEqual({ ok: true, value: scene });
  });

  it.each([
    ['no object', [], 'the whole: is not an object'],
    ['no version', {}, 'version'],
    ['an unknown field', { ...scene, mood: 'blue' }, 'mood'],
    ['opacity over 1', withPlane(A, { opacity: 1.5 }), `planes.a.opacity`],
    ['a plane under the id of another', withPlane(A, { id: B }), 'planes.a.id: is called b within'],
    ['an order that names a plane twice', { ...scene, order: [A, B, A] }, 'order: names a plane twice'],
    ['an order that lacks a plane', { ...scene, order: [A] }, 'order: lacks the plane b'],
    ['a plane behind home', withPlane(A, { depthSpx: -1920 }), 'behind the home camera'],
    ['a key on half a frame', withPanKeys({ '1.5': KEY }), 'camera.panX.keys.1.5: is not a whole frame'],
    ['a frame that is spelled otherwise', withPanKeys({ '05': KEY }), 'camera.panX.keys.05'],
    ['a key past where keys may lie', withPanKeys({ 200001: KEY }), 'must lie between'],
    [
      'two keys on one frame, of version 5',
      {
        ...asVersion5(scene),
        camera: {
          ...asVersion5(scene).camera,
          panX: { value: 0, keys: [5, 5].map((frame) => ({ ...KEY, frame })) },
        },
      },
      'camera.panX.keys',
    ],
  ])('refuses %s and names the field', (_what, data, named) => {
    const read = readScene(data);
    expect(read.ok).toBe(false);
    expect(JSON.stringify(read)).toContain(named);
  });

  it('says that a scene is newer than the program instead of crashing', () => {
    expect(readScene({ ...scene, version: SCENE_VERSION + 1 })).toEqual({
      ok: false,
      error: { code: 'newer-than-program', version: SCENE_VERSION + 1, newestKnown: SCENE_VERSION },
    });
  });
});

describe('migrations', () => {
  it('lead without a gap to the current version', () => {
    expect(MIGRATIONS.map((migration) => migration.from)).toEqual(
      Array.from({ length: SCENE_VERSION - 1 }, (_, i) => i + 1),
    );
  });

  it('run in order, each once', () => {
    const step = (from: number): Migration => ({
      from,
      name: `step ${from}`,
      up: (old) => ({ ...old, path: `${old.path ?? ''}${from}` }),
    });
    expect(migrate({ version: 2 }, [step(3), step(1), step(2)], 4)).toEqual({
      ok: true,
      value: { version: 4, path: '23' },
    });
    expect(() => migrate({ version: 1 }, [step(2)], 3)).toThrow('No migration from scene version 1');
  });
});

describe('the published JSON Schema', () => {
  it('is the one that the validator makes', () => {
    const published = JSON.parse(
      readFileSync(new URL('../../../docs/scene.schema.json', import.meta.url), 'utf8'),
    );
    expect(published).toEqual(JSON.parse(JSON.stringify(sceneJsonSchema())));
  });
});

describe('edits', () => {
  const keyed = setCamera(
    setCamera(scene, { panX: 0 }, { frame: 1, keying: true }),
    { panX: 100 },
    { frame: 25, keying: true },
  );
  const at = (frame: number) => new Map([[channelId({ on: 'camera', name: 'panX' }), new Set([frame])]]);
  const EDITS: readonly [string, Scene, (before: Scene) => Scene][] = [
    ['addPlanes', scene, (s) => addPlanes(s, [testPlane({ id: testPlaneId('c') })])],
    ['deletePlanes', scene, (s) => deletePlanes(s, new Set([A]))],
    ['renamePlane', scene, (s) => renamePlane(s, A, ' Sky ')],
    ['setPlanesHidden', scene, (s) => setPlanesHidden(s, new Set([A, B]), true)],
    ['setPlanesOpacity', scene, (s) => setPlanesOpacity(s, new Set([A]), 0.5)],
    ['setPlaneDepth', scene, (s) => setPlaneDepth(s, A, { depthSpx: 500, atFrame: 1, holdPicture: true })],
    ['setPlaneTransform', scene, (s) => setPlaneTransform(s, A, { rotationDeg: 12 })],
    ['setPlaneMount', scene, (s) => mountedOn(s, B, { on: 'camera' })],
    ['reorderPlanes', scene, (s) => reorderPlanes(s, new Set([A]), null)],
    ['setCamera', scene, (s) => setCamera(s, { zoom: 2, roll: 4 }, { frame: 9, keying: true })],
    ['moveSelected', keyed, (s) => moveSelected(s, at(25), 5)],
    ['deleteSelected', keyed, (s) => deleteSelected(s, at(25))],
    ['easeSelected', keyed, (s) => easeSelected(s, at(1), EASE_PRESETS.hold)],
    ['setShotLength', scene, (s) => setShotLength(s, 48)],
    ['setRate', scene, (s) => setRate(s, { num: 24_000, den: 1001 })],
    ['setFrameSize', scene, (s) => setFrameSize(s, 1280, 720)],
  ];

  it.each(EDITS)(
    '%s leaves a valid scene, and its patch and inverse lead there and back',
    (_name, before, edit) => {
      const frozen = JSON.stringify(before);
      const after = edit(before);
      const { patch, there, back } = thereAndBack(before, after);
      expect(patch.length).toBeGreaterThan(0);
      expect(JSON.stringify(before)).toBe(frozen);
      expect(readScene(after).ok).toBe(true);
      expect(there).toEqual(after);
      expect(back).toEqual(before);
    },
  );

  it('is no change when nothing changed', () => {
    expect(thereAndBack(scene, renamePlane(scene, A, '  ')).patch).toEqual([]);
  });

  it('shifts the whole move with Keying off and never makes a key', () => {
    const off = setCamera(keyed, { panX: 60, zoom: 3 }, { frame: 13, keying: false });
    expect(keysOf(off.camera.panX).map((key) => key.value)).toEqual([10, 110]);
    expect(off.camera.zoom).toEqual({ value: 3, keys: {} });
    expect(MOVE_CHANNELS.map((name) => keysOf(off.camera[name]).length)).toEqual([2, 0, 0, 0, 0, 0, 0]);
    expect(shownValueAt(off, { on: 'camera', name: 'panX' }, 13)).toBeCloseTo(60, 9);
  });

  it('never lets a depth reach the home camera', () => {
    fc.assert(
      fc.property(fc.double({ min: -1e7, max: 1e7, noNaN: true }), fc.boolean(), (depthSpx, holdPicture) => {
        expect(readScene(setPlaneDepth(scene, A, { depthSpx, atFrame: 1, holdPicture })).ok).toBe(true);
      }),
    );
  });
});

describe('placing art', () => {
  it('puts a layer where the painting had it, one art px to one output px', () => {
    const painted = paintedLayer({
      art: testArt(1),
      xPx: 1000,
      yPx: 200,
      paintingWidthPx: 3000,
      paintingHeightPx: 1200,
    });
    const plan = framePlan(testScene([planeFromLayer(A, painted)]), 1);
    // The painting's corner lies at (960 − 1500, 540 − 600) of the frame.
    expect(plan.planes[0]?.artToFrame).toEqual({ a: 1, b: 0, c: 0, d: 1, e: 1000 - 540, f: 200 - 60 });
  });
});
