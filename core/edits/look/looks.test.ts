import { describe, expect, it } from 'vitest';
import { PLAIN_GRADE } from '../../paint/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { readScene } from '../../staging/check/index.ts';
import { asVersion5, testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { setAir, setFilter } from './at-rest.ts';
import { setGrade } from './looks.ts';

const [A, B] = [testPlaneId('a'), testPlaneId('b')];
const scene = testScene([testPlane({ id: A }), testPlane({ id: B, locked: true })]);

describe('scenes of version 4', () => {
  const { air: _air, filter: _filter, camera, planes, ...rest } = asVersion5(scene);
  const { focus: _focus, iris: _iris, ...channels } = camera;
  const old = {
    ...rest,
    version: 4,
    camera: channels,
    planes: planes.map(({ grade: _grade, ...plane }) => plane),
  };

  it('open with no grade, no air, a shut iris and no filter', () => {
    expect(readScene(JSON.parse(JSON.stringify(old)))).toEqual({ ok: true, value: scene });
  });
});

describe('looks', () => {
  it('are set part by part, never on locked planes, and are none where nothing changes', () => {
    const dim = setGrade(scene, new Set([A, B]), { brightness: 0.5 });
    expect(planesOf(dim).map(({ grade }) => grade)).toEqual([{ ...PLAIN_GRADE, brightness: 0.5 }, null]);
    expect(setGrade(dim, new Set([A]), { brightness: 1 })).toEqual(scene);
    const dark = setFilter(scene, { vignette: 0.4 });
    expect(dark.filter).toMatchObject({ vignette: 0.4, glow: 0 });
    expect(setFilter(dark, { vignette: 0 })).toEqual(scene);
    const hazy = setAir(scene, { colour: '#8899aa', visibilitySpx: 500 });
    expect(readScene(hazy)).toEqual({ ok: true, value: hazy });
    expect(setAir(hazy, null)).toEqual(scene);
  });

  it.each([
    ['air', { ...scene, air: { colour: 'grey', visibilitySpx: 500 } }],
    ['filter', { ...scene, filter: { brightness: 9 } }],
    ['camera', { ...scene, camera: { ...scene.camera, iris: { value: -1, keys: {} } } }],
  ] as const)('that cannot be are refused with the path to the fault: %s', (path, wrong) => {
    const read = readScene(wrong);
    expect(!read.ok && read.error.code === 'not-a-scene' && read.error.detail).toContain(path);
  });
});
