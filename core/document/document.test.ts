import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { framePlan } from '../shot/index.ts';
import { mountedOn, paintedLayer, testArt, testPlane, testPlaneId, testScene } from '../testing/scenes.ts';
import { EASE_PRESETS } from '../timing/index.ts';
import {
  addPlanes,
  applyScenePatch,
  CAMERA_CHANNELS,
  changeBetween,
  channelId,
  deletePlanes,
  deleteSelected,
  easeSelected,
  MIGRATIONS,
  type Migration,
  migrate,
  moveSelected,
  planeFromLayer,
  readScene,
  renamePlane,
  reorderPlanes,
  SCENE_VERSION,
  type Scene,
  sceneJsonSchema,
  setCamera,
  setFrameSize,
  setPlaneDepth,
  setPlanesHidden,
  setPlanesOpacity,
  setPlaneTransform,
  setRate,
  setShotLength,
  shownValueAt,
} from './index.ts';

const [A, B] = [testPlaneId('a'), testPlaneId('b')];
const scene = testScene([testPlane({ id: A }), testPlane({ id: B, depthSpx: 960 })]);

describe('reading a scene', () => {
  it('takes what it wrote', () => {
    expect(readScene(JSON.parse(JSON.stringify(scene)))).toEqual({ ok: true, value: scene });
  });

  it.each([
    ['no object', [], 'the whole: is not an object'],
    ['no version', {}, 'version'],
    ['an unknown field', { ...scene, mood: 'blue' }, 'mood'],
    ['opacity over 1', { ...scene, planes: [{ ...scene.planes[0], opacity: 1.5 }] }, 'planes.0.opacity'],
    ['two planes with one id', { ...scene, planes: [scene.planes[0], scene.planes[0]] }, 'share an id'],
    [
      'a plane behind home',
      { ...scene, planes: [{ ...scene.planes[0], depthSpx: -1920 }] },
      'behind the home camera',
    ],
    [
      'keys out of order',
      {
        ...scene,
        camera: {
          ...scene.camera,
          panX: { value: 0, keys: [5, 5].map((frame) => ({ frame, value: 1, ease: { kind: 'hold' } })) },
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
      readFileSync(new URL('../../docs/scene.schema.json', import.meta.url), 'utf8'),
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
      const change = changeBetween(before, edit(before));
      expect(change).not.toBeNull();
      if (!change) return;
      expect(JSON.stringify(before)).toBe(frozen);
      expect(readScene(change.scene).ok).toBe(true);
      expect(applyScenePatch(before, change.patch)).toEqual({ ok: true, value: change.scene });
      expect(applyScenePatch(change.scene, change.inverse)).toEqual({ ok: true, value: before });
    },
  );

  it('is no change when nothing changed', () => {
    expect(changeBetween(scene, renamePlane(scene, A, '  '))).toBeNull();
  });

  it('refuses a patch that does not fit, or leaves no valid scene', () => {
    expect(applyScenePatch(scene, [{ op: 'remove', path: '/planes/9' }])).toMatchObject({
      ok: false,
      error: { code: 'does-not-apply' },
    });
    expect(applyScenePatch(scene, [{ op: 'replace', path: '/rate/num', value: 0 }])).toMatchObject({
      ok: false,
      error: { code: 'not-a-scene' },
    });
  });

  it('shifts the whole move with Keying off and never makes a key', () => {
    const off = setCamera(keyed, { panX: 60, zoom: 3 }, { frame: 13, keying: false });
    expect(off.camera.panX.keys.map((key) => key.value)).toEqual([10, 110]);
    expect(off.camera.zoom).toEqual({ value: 3, keys: [] });
    expect(CAMERA_CHANNELS.map((name) => off.camera[name].keys.length)).toEqual([2, 0, 0, 0, 0, 0, 0]);
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
