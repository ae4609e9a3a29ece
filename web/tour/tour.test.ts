import type { HistoryEntry } from '@keen-ridge/core/history';
import { testPlaneId, testScene } from '@keen-ridge/core/testing';
import { describe, expect, it } from 'vitest';
import { STOPS, type TourSight } from './tour.ts';

const entry = (id: string, action: HistoryEntry['action']): HistoryEntry => ({
  id,
  action,
  subject: '',
  patch: [],
  author: { id: 'me', name: 'Me' },
  at: '',
});
const sight = (part: Partial<TourSight['state']>, step = 'stage'): TourSight => ({
  state: { selection: [], frame: 1, playing: false, undo: [], redo: [], scene: testScene([]), ...part },
  step,
});
const start = sight({ undo: [entry('old', 'set-depth')] });

describe('the tour', () => {
  const done: readonly TourSight[] = [
    sight({ selection: [testPlaneId('a')] }),
    sight({ undo: [entry('old', 'set-depth'), entry('new', 'set-depth')] }),
    sight({ redo: [entry('new', 'set-depth')] }),
    sight({}, 'move'),
    sight({ frame: 120 }),
    sight({ undo: [entry('pan', 'key-camera')] }),
    sight({ playing: true }),
    sight({ undo: [entry('ease', 'set-ease')] }),
    sight({}, 'hand-off'),
  ];

  it('waits at every stop until the artist has done just that', () => {
    expect(done).toHaveLength(STOPS.length);
    for (const [i, stop] of STOPS.entries()) {
      expect([i, stop.done(start, start)]).toEqual([i, false]);
      expect([i, stop.done(done[i]!, start)]).toEqual([i, true]);
    }
  });

  it('does not take what was done before a stop for what it asks', () => {
    const depth = STOPS.find(({ title }) => title === 'Depth')!;
    const before = sight({ undo: [entry('mine', 'set-depth')] });
    expect(depth.done(before, before)).toBe(false);
  });
});
