import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { testArtId, testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { artPart, readPackage, SCENE_PART, writePackage } from './package.ts';

const scene = testScene([testPlane({ id: testPlaneId('sky') }), testPlane({ id: testPlaneId('sea') })]);
const art = new Map<string, Uint8Array>([[testArtId(1), new Uint8Array([1, 2, 3])]]);

describe('open packages', () => {
  it('open again the same, and are the same bytes each time', () => {
    const bytes = writePackage({ scene, art });
    expect(writePackage({ scene, art })).toEqual(bytes);
    expect(readPackage(bytes)).toEqual({ ok: true, value: { scene, art } });
  });

  it('are not written without their art', () => {
    expect(() => writePackage({ scene, art: new Map() })).toThrow('lacks art');
  });

  it.each([
    ['bytes that are no zip', strToU8('hello'), 'damaged'],
    ['no scene', zipSync({ 'a.txt': strToU8('x') }), 'missing-part'],
    ['a scene that is no JSON', zipSync({ [SCENE_PART]: strToU8('{') }), 'not-a-scene'],
    [
      'a scene of a newer version',
      zipSync({ [SCENE_PART]: strToU8(JSON.stringify({ ...scene, version: 99 })) }),
      'newer-than-program',
    ],
    [
      'missing art',
      zipSync({ [SCENE_PART]: strToU8(JSON.stringify(scene)), [artPart('0')]: new Uint8Array() }),
      'missing-part',
    ],
  ])('refuse %s', (_what, bytes, code) => {
    expect(readPackage(bytes)).toMatchObject({ ok: false, error: { code } });
  });
});
