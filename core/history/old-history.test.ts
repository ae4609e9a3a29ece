import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { SCENE_VERSION, type Scene } from '../scene/index.ts';
import { planesOf } from '../scene/records/index.ts';
import { readScene } from '../staging/check/index.ts';
import { framePlan } from '../staging/frame/index.ts';
import { asVersion5, landed, testPlane, testPlaneId, testScene } from '../testing/index.ts';
import { historyByRecord, type OldEdit } from './old-history.ts';
import { inverseOf, type Patch } from './patch.ts';

interface Stored<Edit> {
  readonly version: number;
  readonly first: unknown;
  readonly last: unknown;
  readonly scene: unknown;
  readonly done: readonly Edit[];
  readonly undone: readonly Edit[];
}

/** Histories of this version and later ones name records, and need not be told anew. */
const FIRST_BY_ID = 6;

const FOLDER = new URL('../testing/stored/', import.meta.url);
const all = readdirSync(FOLDER)
  .filter((name) => name.endsWith('.json'))
  .map((name): Stored<unknown> => JSON.parse(readFileSync(new URL(name, FOLDER), 'utf8')));
const inLists = all.filter(({ version }) => version < FIRST_BY_ID) as Stored<OldEdit>[];
const byId = all.filter(({ version }) => version >= FIRST_BY_ID) as Stored<Patch>[];

function read(data: unknown): Scene {
  const scene = readScene(data);
  if (!scene.ok) throw new Error(JSON.stringify(scene.error));
  return scene.value;
}

/** Planes in their order: places that deleted ones keep in it are nobody's to see. */
const seen = (scene: Scene) => ({ ...scene, order: planesOf(scene).map(({ id }) => id) });

describe('stored shots', () => {
  it('are there of every version that was ever stored', () => {
    expect(all.map(({ version }) => version)).toEqual([1, 2, 3, 5, 6, 7]);
    expect(SCENE_VERSION).toBe(10);
  });

  it.each(inLists.map((shot) => [shot.version, shot] as const))(
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

  it.each(byId.map((shot) => [shot.version, shot] as const))(
    'of version %i are undone and redone by the patches that they were stored with',
    (_version, { scene, first, last, done, undone }) => {
      expect(done.length + undone.length).toBeGreaterThanOrEqual(14);
      const now = read(scene);
      const back = done.reduceRight((at, patch) => landed(at, inverseOf(patch)), now);
      expect(back).toEqual(read(first));
      expect(undone.reduce(landed, now)).toEqual(read(last));
    },
  );

  it('keep as much of a history as can be walked', () => {
    const { scene, done, undone } = inLists.at(-1)!;
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
