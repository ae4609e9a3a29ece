import type { ImportedNode, ImportedPainting } from '@keen-ridge/core/art/landing';
import { testArt } from '@keen-ridge/core/testing';
import { describe, expect, it } from 'vitest';
import { groupKeys, type LookedAt, layerCount, toggled } from './import-store.ts';
import { landingLayers } from './landing.ts';

const layer = (key: string, tone: number): ImportedNode => ({
  kind: 'layer',
  key,
  name: `Layer ${key}`,
  xPx: 0,
  yPx: 0,
  opacity: 1,
  hidden: false,
  art: testArt(tone),
  likeness: Array<number>(256).fill(tone),
  frames: null,
});
const group = (key: string, children: ImportedNode[]): ImportedNode => ({
  kind: 'group',
  key,
  name: `Group ${key}`,
  opacity: 1,
  hidden: false,
  children,
});
const painting: ImportedPainting = {
  file: 'a.psd',
  widthPx: 100,
  heightPx: 100,
  nodes: [group('0', [layer('0.0', 1), group('0.1', [layer('0.1.0', 2), layer('0.1.1', 3)])]), layer('1', 4)],
  notKept: [],
  alphaUnsure: false,
  svgScale: null,
};
const looked = (left: readonly string[]): LookedAt => ({
  painting,
  set: null,
  source: new File([], 'a.psd'),
  merged: new Set(),
  left: new Set(left),
  premultiplied: false,
  part: null,
  asVersion: false,
  guide: null,
});
const RATE = { num: 24, den: 1 };

describe('what lands of a painting', () => {
  it('is every layer that is ticked, with its likeness beside it', () => {
    const { layers, likenesses } = landingLayers(looked([]), RATE);
    expect(layers.map(({ name, group: g }) => [name, g])).toEqual([
      ['Layer 0.0', 'Group 0'],
      ['Layer 0.1.0', 'Group 0 / Group 0.1'],
      ['Layer 0.1.1', 'Group 0 / Group 0.1'],
      ['Layer 1', null],
    ]);
    expect(likenesses.map((likeness) => likeness?.[0])).toEqual([1, 2, 3, 4]);
  });

  it('leaves out what is not, whole groups too, and likenesses keep step with layers', () => {
    const some = landingLayers(looked(['0.1.0', '1']), RATE);
    expect(some.layers.map(({ name }) => name)).toEqual(['Layer 0.0', 'Layer 0.1.1']);
    expect(some.likenesses.map((likeness) => likeness?.[0])).toEqual([1, 3]);
    expect(landingLayers(looked(['0']), RATE).layers.map(({ name }) => name)).toEqual(['Layer 1']);
    expect(landingLayers(looked(['0', '1']), RATE)).toEqual({ layers: [], likenesses: [] });
  });

  it('is counted and told group by group', () => {
    expect(layerCount(painting.nodes)).toBe(4);
    expect(groupKeys(painting.nodes)).toEqual(['0', '0.1']);
    expect([...toggled(new Set(['a']), 'b')]).toEqual(['a', 'b']);
    expect([...toggled(new Set(['a', 'b']), 'a')]).toEqual(['b']);
  });
});
