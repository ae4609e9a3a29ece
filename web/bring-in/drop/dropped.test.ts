import { writePackage } from '@keen-ridge/core/art/package';
import { testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { isPackage } from './dropped.ts';

const file = (bytes: Uint8Array, name = 'a.zip') =>
  Object.assign(new Blob([new Uint8Array(bytes)]), { name });

describe('what is dropped on a shot', () => {
  const card = testPlane({
    id: testPlaneId('card'),
    content: {
      kind: 'card',
      widthPx: 4,
      heightPx: 4,
      paint: { kind: 'solid', colour: '#000000', opacity: 1 },
    },
  });
  const packed = writePackage({ scene: testScene([card]), art: new Map() });

  it('is a package where its directory names a scene, and else art', async () => {
    expect(await isPackage(file(packed))).toBe(true);
    expect(await isPackage(file(packed, 'a.png'))).toBe(false);
    // The name within a picture, in a folder, or as the beginning of another name is no scene.
    const others = {
      'b.png': strToU8('scene.json'),
      'old/scene.json': strToU8('{}'),
      'scene.json5': strToU8(''),
    };
    expect(await isPackage(file(zipSync(others)))).toBe(false);
    expect(await isPackage(file(strToU8('hello')))).toBe(false);
  });
});
