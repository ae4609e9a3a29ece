import { setPlanesGroup } from '@keen-ridge/core/edits/planes';
import { planesOf } from '@keen-ridge/core/scene/records';
import { testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { describe, expect, it } from 'vitest';
import { stackRows } from './stack-rows.ts';

const ids = ['rail', 'wall', 'tower', 'sky'].map(testPlaneId);
const scene = setPlanesGroup(
  testScene(ids.map((id) => testPlane({ id }))),
  new Set([ids[1]!, ids[2]!]),
  'Quay',
);
const words = (closed: readonly string[] = [], find = '') =>
  stackRows(planesOf(scene), new Set(closed), find).map((row) =>
    row.kind === 'group' ? `[${row.name} ${row.planes.length}${row.open ? '' : ' closed'}]` : row.plane.name,
  );

describe('rows of the stack', () => {
  it('put a heading over each group, and close it', () => {
    expect(words()).toEqual(['rail', '[Quay 2]', 'wall', 'tower', 'sky']);
    expect(words(['Quay'])).toEqual(['rail', '[Quay 2 closed]', 'sky']);
  });

  it('find planes by part of their name or group, whatever the case, in closed groups too', () => {
    expect(words([], 'TOW')).toEqual(['[Quay 2]', 'tower']);
    expect(words(['Quay'], 'tow')).toEqual(['[Quay 2 closed]', 'tower']);
    expect(words([], 'quay')).toEqual(['[Quay 2]', 'wall', 'tower']);
    expect(words([], 'nothing like it')).toEqual([]);
  });
});
