import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { findSequences, holdsOfDelays } from './sequence.ts';
import { sniff } from './sniff.ts';
import { tiffAlpha } from './tiff/index.ts';
import { leavesOf } from './tree.ts';
import { unzipEntries } from './zip/index.ts';

describe('numbered sequences', () => {
  it('are files that differ in one number without gaps, three at least', () => {
    const names = [
      'b_10.png',
      'wave_0002.png',
      'wave_0001.png',
      'a1.png',
      'a3.png',
      'a7.png',
      'wave_0003.png',
      'b_11.png',
      'x.png',
    ];
    expect(findSequences(names)).toEqual([{ stem: 'wave', indices: [2, 1, 6] }]);
    expect(findSequences(['f/1.png', 'f/2.png', 'f/3.png'])).toEqual([
      { stem: 'Sequence', indices: [0, 1, 2] },
    ]);
  });
});

describe('delays', () => {
  it('become holds that do not drift', () => {
    expect(holdsOfDelays([100, 100, 100, 100, 100], { num: 24, den: 1 })).toEqual([2, 3, 2, 3, 2]);
    const sum = holdsOfDelays(Array(240).fill(41), { num: 24_000, den: 1001 }).reduce((p, q) => p + q, 0);
    expect(sum).toBe(Math.max(240, Math.round((240 * 41 * 24_000) / 1_001_000)));
    expect(holdsOfDelays([1, 1], { num: 24, den: 1 })).toEqual([1, 1]);
  });
});

describe('what a file is', () => {
  it.each([
    ['png', '\x89PNG\r\n\x1a\n'],
    ['gif', 'GIF89a'],
    ['jpeg', '\xff\xd8\xff'],
    ['webp', 'RIFF0000WEBP'],
    ['tiff', 'II*\0'],
    ['tiff', 'MM\0*'],
    ['psd', '8BPS'],
    ['zip', 'PK\x03\x04'],
    ['svg', '<?xml version="1.0"?><!-- x --><svg xmlns="x">'],
    ['film', '\x1aE\xdf\xa3\x01'],
    ['film', '\0\0\0\x20ftypisom'],
    ['film', '\0\0\0\x14ftypqt  '],
    ['film', '\0\0\0\x08wide\0\0\0\0mdat'],
    [null, '\0\0\0\x1cftypheic'],
    [null, 'hello <svg'],
    [null, ''],
  ])('%s is told by its first bytes', (kind, start) => {
    expect(sniff(Uint8Array.from(start, (c) => c.charCodeAt(0)))).toBe(kind);
  });
});

describe('zips', () => {
  const zip = (names: readonly string[]) =>
    zipSync(Object.fromEntries(names.map((name) => [name, strToU8('x')])));

  it('give their files and leave litter out', () => {
    const read = unzipEntries(zip(['a/b.png', '__MACOSX/a/b.png', '.DS_Store', 'c.png']));
    expect(read.ok && Object.keys(read.value)).toEqual(['a/b.png', 'c.png']);
  });

  it.each([['../evil.png'], ['a/../../evil.png'], ['/etc/passwd'], ['C:\\evil.png'], ['n'.repeat(1200)]])(
    'refuse the entry %s',
    (name) => {
      expect(unzipEntries(zip([name]))).toMatchObject({ ok: false, error: { code: 'damaged' } });
    },
  );

  it('refuse bombs by what they say they hold', () => {
    const bytes = zip(['a.png']);
    const central = bytes.findLastIndex(
      (_, i) => bytes[i] === 0x50 && bytes[i + 1] === 0x4b && bytes[i + 2] === 1,
    );
    new DataView(bytes.buffer).setUint32(central + 24, 0xf0000000, true);
    expect(unzipEntries(bytes)).toMatchObject({ ok: false, error: { code: 'too-large' } });
  });
});

describe('trees', () => {
  it('give each layer what its groups do to it', () => {
    const layer = {
      kind: 'layer',
      name: 'Stone',
      xPx: 0,
      yPx: 0,
      opacity: 0.5,
      hidden: false,
      image: 1,
    } as const;
    const inner = { kind: 'group', name: 'Wall', opacity: 0.5, hidden: true, children: [layer] } as const;
    const leaves = leavesOf([
      { kind: 'group', name: 'Quay', opacity: 1, hidden: false, children: [inner, layer] },
    ]);
    expect(leaves.map(({ group, opacity, hidden }) => [group, opacity, hidden])).toEqual([
      ['Quay / Wall', 0.25, true],
      ['Quay', 0.5, false],
    ]);
  });
});

describe('alpha of a TIFF', () => {
  /** A directory of one entry: ExtraSamples with the value given. */
  const tiff = (value: number, tag = 338) => {
    const bytes = new Uint8Array(26);
    const view = new DataView(bytes.buffer);
    bytes.set([0x49, 0x49, 42, 0]);
    view.setUint32(4, 8, true);
    view.setUint16(8, 1, true);
    view.setUint16(10, tag, true);
    view.setUint16(12, 3, true);
    view.setUint32(14, 1, true);
    view.setUint16(18, value, true);
    return bytes;
  };

  it('is as its tag says', () => {
    expect([tiffAlpha(tiff(1)), tiffAlpha(tiff(2)), tiffAlpha(tiff(0)), tiffAlpha(tiff(1, 339))]).toEqual([
      'premultiplied',
      'straight',
      null,
      null,
    ]);
    expect(tiffAlpha(new Uint8Array(4))).toBeNull();
  });
});
