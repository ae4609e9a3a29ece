import { describe, expect, it } from 'vitest';
import { readPsdProfile } from './profile.ts';

/** The start of a PSD up to its image resources: header, colour mode data, then the resources given. */
function psdStart(resources: readonly (readonly [number, string, Uint8Array])[], colourData = 0): Uint8Array {
  const parts: number[] = [];
  const u32 = (v: number) => [(v >>> 24) & 255, (v >>> 16) & 255, (v >>> 8) & 255, v & 255];
  for (const [id, name, data] of resources) {
    // The name is a Pascal string padded to even length with its count; the data is padded to even length.
    const text = [name.length, ...[...name].map((c) => c.charCodeAt(0))];
    if (text.length % 2 === 1) text.push(0);
    parts.push(0x38, 0x42, 0x49, 0x4d, id >> 8, id & 255, ...text, ...u32(data.length), ...data);
    if (data.length % 2 === 1) parts.push(0);
  }
  return Uint8Array.from([
    ...Array<number>(26).fill(0),
    ...u32(colourData),
    ...Array<number>(colourData).fill(7),
    ...u32(parts.length),
    ...parts,
    1,
    2,
    3,
    4,
  ]);
}

const PROFILE = Uint8Array.of(9, 8, 7, 6, 5);

describe('the profile of a PSD', () => {
  it('is found among other resources, whatever their names and lengths', () => {
    const start = psdStart([
      [1005, '', Uint8Array.of(1, 2, 3)],
      [1036, 'thumb', Uint8Array.of(4, 4)],
      [1039, 'x', PROFILE],
      [1060, '', Uint8Array.of(1)],
    ]);
    expect(readPsdProfile(start)).toEqual(PROFILE);
  });

  it('is found behind a palette too', () => {
    expect(readPsdProfile(psdStart([[1039, '', PROFILE]], 768))).toEqual(PROFILE);
  });

  it('is null where there is none, and where the file is cut short anywhere', () => {
    expect(readPsdProfile(psdStart([[1005, '', PROFILE]]))).toBeNull();
    const whole = psdStart([[1039, '', PROFILE]]);
    const end = whole.length - 4;
    for (let length = 0; length < end - 1; length++)
      expect(readPsdProfile(whole.subarray(0, length))).toBeNull();
  });
});
