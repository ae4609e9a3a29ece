import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { SCENE_VERSION, type Scene } from '../scene/index.ts';
import { planesOf } from '../scene/records/index.ts';
import { readScene } from '../staging/check/index.ts';
import { framePlan } from '../staging/frame/index.ts';
import { asVersion5, landed, testPlane, testPlaneId, testScene } from '../testing/index.ts';
import { historyByRecord, type OldEdit } from './old-history.ts';
import { inverseOf } from './patch.ts';

interface Stored {
  readonly version: number;
  readonly first: unknown;
  readonly last: unknown;
  readonly scene: unknown;
  readonly done: readonly OldEdit[];
  readonly undone: readonly OldEdit[];
}

const FOLDER = new URL('../testing/stored/', import.meta.url);
const stored = readdirSync(FOLDER)
  .filter((name) => name.endsWith('.json'))
  .map((name): Stored => JSON.parse(readFileSync(new URL(name, FOLDER), 'utf8')));

function read(data: unknown): Scene {
  const scene = readScene(data);
  if (!scene.ok) throw new Error(JSON.stringify(scene.error));
  return scene.value;
}

/** Planes in their order: places that deleted ones keep in it are nobody's to see. */
const seen = (scene: Scene) => ({ ...scene, order: planesOf(scene).map(({ id }) => id) });

describe('stored shots', () => {
  it('are there of every version that was ever stored', () => {
    expect(stored.map(({ version }) => version)).toEqual([1, 2, 3, 5]);
    expect(SCENE_VERSION).toBe(6);
  });

  it.each(stored.map((shot) => [shot.version, shot] as const))(
    'of version %i are undone to the first scene and redone to the last, step by step',
    (_version, { scene, first, last, done, undone }) => {
      const history = historyByRecord({ scene, done: done.toReversed(), undone });
      expect([history.done.length, history.undone.length]).toEqual([done.length, undone.length]);
      expect(done.length + undone.length).toBeGreaterThanOrEqual(14);
      const now = read(scene);
      const back = history.done.reduce((at, patch) => landed(at, inverseOf(patch)), now);
      expect(seen(back)).toEqual(seen(read(first)));
      expect(framePlan(back, 40)).toEqual(framePlan(read(first), 40));
      const forth = history.undone.reduce(landed, now);
      expect(seen(forth)).toEqual(seen(read(last)));
    },
  );

  it('keep as much of a history as can be walked', () => {
    const [, , , { scene, done, undone }] = stored as [Stored, Stored, Stored, Stored];
    const broken = done
      .toReversed()
      .map((edit, i) =>
        i === 3 ? { ...edit, inverse: [{ op: 'remove' as const, path: '/planes/77/grade' }] } : edit,
      );
    expect(historyByRecord({ scene, done: broken, undone }).done).toHaveLength(3);
    expect(historyByRecord({ scene: { version: 5 }, done, undone: [] }).done).toEqual([]);
  });

  it('of version 4 open, though none was ever stored', () => {
    const scene = testScene([testPlane({ id: testPlaneId('a') })]);
    const { air: _air, filter: _filter, planes, ...rest } = asVersion5(scene);
    const old = { ...rest, version: 4, planes: planes.map(({ grade: _grade, ...plane }) => plane) };
    expect(read(JSON.parse(JSON.stringify(old)))).toEqual(scene);
  });
});
