import { setCamera } from '@keen-ridge/core/edits/keys';
import { differenceBetween, type HistoryEntry, NOBODY, type Revision } from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import { testScene } from '@keen-ridge/core/testing';
import { describe, expect, it } from 'vitest';
import { sceneAfter, stepWords } from './history-steps.ts';

const entry = (patch: HistoryEntry['patch']): HistoryEntry => ({
  id: crypto.randomUUID(),
  action: 'key-camera',
  subject: 'Pan',
  patch,
  author: NOBODY,
  at: '2026-01-01T00:00:00Z',
});
const step = (revision: number, from: Scene, to: Scene): Revision => {
  const made = entry(differenceBetween(from, to));
  return { revision, opId: made.id, kind: 'edit', entry: made, patch: null };
};

describe('the history', () => {
  const first = testScene();
  const second = setCamera(first, { panX: 40 }, { frame: 1, keying: true });
  const third = setCamera(second, { panX: 90 }, { frame: 12, keying: true });
  const history = { scene: third, revisions: [step(2, first, second), step(3, second, third)] };

  it('leads back to right after each step, and to before them all', () => {
    expect(sceneAfter(history, 3)).toEqual(third);
    expect(sceneAfter(history, 2)).toEqual(second);
    expect(sceneAfter(history, 1)).toEqual(first);
  });

  it('says when its steps do not lead back', () => {
    const torn = { scene: first, revisions: [history.revisions[1]!] };
    expect(sceneAfter(torn, 2)).toBeNull();
  });

  it('says in words what was done, taken back and made again', () => {
    const { entry: made } = history.revisions[0]!;
    expect(stepWords({ kind: 'edit', entry: made })).toBe('Keying Pan');
    expect(stepWords({ kind: 'undo', entry: made })).toBe('Taken back: keying Pan');
    expect(stepWords({ kind: 'redo', entry: made })).toBe('Made again: keying Pan');
  });
});
