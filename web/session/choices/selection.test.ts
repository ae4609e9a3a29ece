import { describe, expect, it } from 'vitest';
import { selectionAfterClick } from './selection.ts';

describe('a click on a row', () => {
  const click = (selection: string[], clicked: string, keys: { shift?: boolean; add?: boolean } = {}) =>
    selectionAfterClick(['a', 'b', 'c', 'd', 'e'], selection, clicked, { shift: false, add: false, ...keys });

  it('chooses it, adds it, or takes it away', () => {
    expect(click(['a', 'b'], 'd')).toEqual(['d']);
    expect(click(['a'], 'c', { add: true })).toEqual(['a', 'c']);
    expect(click(['a', 'c'], 'c', { add: true })).toEqual(['a']);
  });

  it('with Shift chooses everything between, either way, and can be moved on', () => {
    expect(click(['b'], 'd', { shift: true }).sort()).toEqual(['b', 'c', 'd']);
    expect(click(['d'], 'b', { shift: true }).sort()).toEqual(['b', 'c', 'd']);
    const once = click(['b'], 'd', { shift: true });
    expect(click(once, 'e', { shift: true }).sort()).toEqual(['b', 'c', 'd', 'e']);
    expect(click([], 'c', { shift: true })).toEqual(['c']);
  });
});
