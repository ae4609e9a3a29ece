import { strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import type { SoundId } from '../../scene/sound/index.ts';
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

  it('hold their sound under its kind, and open with it; without it they are refused', () => {
    const file = strToU8('OggS and so on');
    const id = 'b'.repeat(64) as SoundId;
    const laid = { id, name: 'waves.ogg', durationSeconds: 2, startFrame: 1, volume: 1, muted: false };
    const sounding = { ...scene, sound: laid };
    const bytes = writePackage({ scene: sounding, art, sound: file });
    expect(readPackage(bytes)).toEqual({ ok: true, value: { scene: sounding, art, sound: file } });
    expect(Object.keys(unzipSync(bytes))).toContain(`sound/${id}.ogg`);
    expect(() => writePackage({ scene: sounding, art })).toThrow('lacks the sound');
    const { [`sound/${id}.ogg`]: _, ...mute } = unzipSync(bytes);
    expect(readPackage(zipSync(mute))).toMatchObject({ ok: false, error: { code: 'missing-part' } });
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
