import { setCamera } from '@keen-ridge/core/edits/keys';
import { EDIT_ACTIONS } from '@keen-ridge/core/history';
import { channelId } from '@keen-ridge/core/staging';
import { testScene } from '@keen-ridge/core/testing';
import { describe, expect, it } from 'vitest';
import { formatBytes, formatNumber, formatSeconds } from '../ui/format.ts';
import { keySelection, nextKeyFrame } from './choices/key-selection.ts';
import { editWords } from './edit-words.ts';

const [PAN, ZOOM] = [channelId({ on: 'camera', name: 'panX' }), channelId({ on: 'camera', name: 'zoom' })];

describe('words for edits', () => {
  it('name every action and what it was done to', () => {
    expect(EDIT_ACTIONS.length).toBe(94);
    const words = EDIT_ACTIONS.map((action) => editWords({ action, subject: 'Sky' }));
    expect(new Set(words).size).toBe(EDIT_ACTIONS.length);
    for (const text of words) expect(text).toMatch(/^[a-z].* Sky$/);
  });
});

describe('numbers as they are shown', () => {
  it.each([
    [-1234.56, 1, false, '−1,234.6'],
    [23_680, 0, true, '+23,680'],
    [0, 0, true, '0'],
    [-0.004, 2, true, '0'],
    [0.5, 3, false, '0.5'],
  ])('shows %d', (value, decimals, signed, text) => {
    expect(formatNumber(value, decimals, signed)).toBe(text);
  });

  it('shows bytes and seconds with their units', () => {
    expect([formatBytes(8_400_000), formatBytes(12_300), formatSeconds(5)]).toEqual([
      '8.4 MB',
      '12 kB',
      '5.00 s',
    ]);
  });
});

describe('keys', () => {
  const keyed = [5, 20].reduce(
    (scene, frame) => setCamera(scene, { panX: frame }, { frame, keying: true }),
    testScene(),
  );
  const scene = setCamera(keyed, { zoom: 2 }, { frame: 12, keying: true });

  it.each([
    [1, 1, 5],
    [5, 1, 12],
    [12, 1, 20],
    [20, 1, null],
    [20, -1, 12],
    [5, -1, 1],
    [1, -1, null],
  ] as const)('finds the next from frame %i in direction %i', (frame, direction, found) => {
    expect(nextKeyFrame(scene, frame, direction)).toBe(found);
  });

  it('gathers chosen keys by channel', () => {
    const selection = keySelection([
      { channel: PAN, frame: 5 },
      { channel: ZOOM, frame: 12 },
      { channel: PAN, frame: 20 },
    ]);
    expect([...selection].map(([name, frames]) => [name, [...frames]])).toEqual([
      [PAN, [5, 20]],
      [ZOOM, [12]],
    ]);
  });
});
