import type { ImportedNode } from '@keen-ridge/core/art/landing';
import { describe, expect, it } from 'vitest';
import { treeRows } from './tree-rows.ts';

const group = (key: string, children: ImportedNode[]): ImportedNode => ({
  kind: 'group',
  key,
  name: key,
  opacity: 1,
  hidden: false,
  children,
});
const NODES = [group('harbour', [group('quay', []), group('boats', [group('skiff', [])])]), group('sky', [])];
const words = (left: readonly string[], merged: readonly string[]) =>
  treeRows(NODES, { left: new Set(left), merged: new Set(merged) }).map(
    ({ node, depth, inMerged }) => `${'·'.repeat(depth)}${node.key}${inMerged ? ' in one' : ''}`,
  );

describe('the listed nodes of a painting', () => {
  it('stand on top first, each as deep as it lies', () => {
    expect(words([], [])).toEqual(['harbour', '·quay', '·boats', '··skiff', 'sky']);
  });

  it('leave out what lies in a group that is left out', () => {
    expect(words(['boats'], [])).toEqual(['harbour', '·quay', '·boats', 'sky']);
  });

  it('say of all that lies in a group of one plane that it does', () => {
    expect(words([], ['boats'])).toEqual(['harbour', '·quay', '·boats', '··skiff in one', 'sky']);
    expect(words([], ['harbour'])).toEqual([
      'harbour',
      '·quay in one',
      '·boats in one',
      '··skiff in one',
      'sky',
    ]);
  });
});
