import { describe, expect, it } from 'vitest';
import { setCamera } from '../edits/keys/index.ts';
import {
  addPlanes,
  deletePlanes,
  renamePlane,
  reorderPlanes,
  setPlaneContent,
  setPlaneMount,
  setPlaneTransform,
} from '../edits/planes/index.ts';
import { setMarker } from '../edits/shot/index.ts';
import type { PlaneId, Scene } from '../scene/index.ts';
import { mergedOrder, planeOf, planesOf } from '../scene/records/index.ts';
import { landed, mountedOn, testPlane, testPlaneId, testScene } from '../testing/index.ts';
import { differenceBetween } from './difference.ts';
import { SceneFeed, SceneMirror } from './feed.ts';
import { landPatch } from './land.ts';
import { inverseOf, type Patch, touchedBy } from './patch.ts';
import { overlap } from './pointer.ts';

const [A, B, C, N] = ['a', 'b', 'c', 'n/~1'].map(testPlaneId) as [PlaneId, PlaneId, PlaneId, PlaneId];
const scene = testScene([A, B, C].map((id, i) => testPlane({ id, depthSpx: 100 * i })));
const only = (...ids: PlaneId[]) => new Set(ids);
const list = (s: Scene) => planesOf(s).map(({ id }) => id);

/** Two edits of one scene, the second made without knowing of the first. */
const both = (one: (s: Scene) => Scene, two: (s: Scene) => Scene) =>
  landPatch(one(scene), differenceBetween(scene, two(scene)));
const merged = (one: (s: Scene) => Scene, two: (s: Scene) => Scene): Scene => {
  const on = both(one, two);
  if (!on.ok) throw new Error(JSON.stringify(on.error));
  return on.value.scene;
};

describe('a difference', () => {
  it('names records and fields, never places', () => {
    const moved = setPlaneTransform(renamePlane(scene, B, 'Tree'), B, { xSpx: 5 });
    expect(differenceBetween(scene, moved)).toEqual([
      { op: 'test', path: '/planes/b/name', value: 'b' },
      { op: 'replace', path: '/planes/b/name', value: 'Tree' },
      { op: 'test', path: '/planes/b/transform/xSpx', value: 0 },
      { op: 'replace', path: '/planes/b/transform/xSpx', value: 5 },
    ]);
    const keyed = setCamera(scene, { panX: 7 }, { frame: 12, keying: true });
    expect(touchedBy(differenceBetween(scene, keyed))).toEqual([
      '/camera/panX/keys/1',
      '/camera/panX/keys/12',
    ]);
    expect(touchedBy(differenceBetween(scene, setMarker(scene, 9, 'gull')))).toEqual(['/markers/at-9']);
    expect(touchedBy(differenceBetween(scene, addPlanes(scene, [testPlane({ id: N })])))).toEqual([
      '/planes/n~1~01',
      '/order',
    ]);
  });

  it('takes a record of another kind whole', () => {
    const card = {
      kind: 'card',
      widthPx: 9,
      heightPx: 9,
      paint: { kind: 'solid', colour: '#112233', alpha: 1 },
    } as const;
    const after = setPlaneContent(scene, A, card as never);
    expect(touchedBy(differenceBetween(scene, after))).toContain('/planes/a/content');
    expect(touchedBy(differenceBetween(scene, mountedOn(scene, A, { on: 'camera' })))).toContain(
      '/planes/a/mount',
    );
  });

  it('is turned round by itself alone, names of records escaped as RFC 6901 says', () => {
    const after = addPlanes(deletePlanes(scene, only(B)), [testPlane({ id: N })]);
    const patch = differenceBetween(scene, after);
    expect(landed(after, inverseOf(patch))).toEqual(scene);
    expect(landed(landed(after, inverseOf(patch)), patch)).toEqual(after);
  });
});

describe('two edits of one scene', () => {
  it('are put together where they touch different fields, of one plane too', () => {
    const after = merged(
      (s) => setPlaneTransform(s, A, { xSpx: 5 }),
      (s) => setPlaneTransform(renamePlane(s, A, 'Hill'), A, { ySpx: 6 }),
    );
    expect(planeOf(after, A)).toMatchObject({ name: 'Hill', transform: { xSpx: 5, ySpx: 6 } });
  });

  it('are put together where they key one channel at different frames', () => {
    const key = (frame: number, value: number) => (s: Scene) =>
      setCamera(s, { panX: value }, { frame, keying: true });
    const start = key(1, 0)(scene);
    const on = landPatch(key(30, 9)(start), differenceBetween(start, key(20, 4)(start)));
    expect(on.ok && Object.keys(on.value.scene.camera.panX.keys)).toEqual(['1', '20', '30']);
  });

  it('are put together where one adds a plane and the other deletes or moves others', () => {
    const add = (s: Scene) => addPlanes(s, [testPlane({ id: N })]);
    expect(list(merged((s) => deletePlanes(s, only(A)), add))).toEqual([N, B, C]);
    expect(list(merged((s) => reorderPlanes(s, only(A), null), add))).toEqual([N, B, C, A]);
    expect(list(merged(add, (s) => reorderPlanes(s, only(A), null)))).toEqual([N, B, C, A]);
  });

  it.each<[string, (s: Scene) => Scene, (s: Scene) => Scene, string]>([
    ['one field', (s) => renamePlane(s, A, 'x'), (s) => renamePlane(s, A, 'y'), '/planes/a/name'],
    [
      'a plane that is gone',
      (s) => deletePlanes(s, only(A)),
      (s) => renamePlane(s, A, 'y'),
      '/planes/a/name',
    ],
    ['a plane that was changed', (s) => renamePlane(s, A, 'x'), (s) => deletePlanes(s, only(A)), '/planes/a'],
    ['the order', (s) => reorderPlanes(s, only(A), null), (s) => reorderPlanes(s, only(C), A), '/order'],
    ['one new marker', (s) => setMarker(s, 9, 'x'), (s) => setMarker(s, 9, 'y'), '/markers/at-9'],
  ])('conflict over %s', (_what, one, two, path) => {
    expect(both(one, two)).toEqual({ ok: false, error: { code: 'conflict', paths: [path] } });
  });

  it('do not make a scene that cannot stand', () => {
    const ride = (id: PlaneId, on: PlaneId) => (s: Scene) => mountedOn(s, id, { on: 'plane', plane: on });
    expect(both(ride(A, B), ride(B, A))).toMatchObject({
      ok: false,
      error: { code: 'does-not-apply', detail: expect.stringContaining('rides on itself') },
    });
    expect(both((s) => deletePlanes(s, only(B)), ride(A, B))).toMatchObject({
      ok: false,
      error: { code: 'does-not-apply', detail: expect.stringContaining('not there') },
    });
    expect(setPlaneMount(scene, A, { on: 'plane', plane: B }, 1).ok).toBe(true);
  });
});

describe('a patch that is none of ours', () => {
  it.each<[string, Patch]>([
    ['without a test', [{ op: 'replace', path: '/planes/a/name', value: 'x' }]],
    [
      'with a test of another field',
      [
        { op: 'test', path: '/rate', value: 1 },
        { op: 'remove', path: '/order' },
      ],
    ],
    ['with a test alone', [{ op: 'test', path: '/lengthFrames', value: 120 }]],
    ['of a field that no scene has', [{ op: 'add', path: '/mood', value: 'blue' }]],
    ['of a field that no plane has', [{ op: 'add', path: '/planes/a/mood', value: 'blue' }]],
    [
      'of a plane under the id of another',
      [{ op: 'add', path: '/planes/z', value: scene.planes[A] as never }],
    ],
    [
      'that leaves out what must be',
      [
        { op: 'test', path: '/lengthFrames', value: 120 },
        { op: 'remove', path: '/lengthFrames' },
      ],
    ],
    [
      'of a value that cannot be',
      [
        { op: 'test', path: '/lengthFrames', value: 120 },
        { op: 'replace', path: '/lengthFrames', value: 0 },
      ],
    ],
  ])('%s does not apply', (_what, patch) => {
    const before = JSON.stringify(scene);
    expect(landPatch(scene, patch)).toMatchObject({ ok: false, error: { code: 'does-not-apply' } });
    expect(JSON.stringify(scene)).toBe(before);
  });

  it('leads through nothing, or through what is inherited, and conflicts', () => {
    for (const path of ['/planes/a/name/first', '/planes/zz/name', '/planes/constructor/name'])
      expect(landPatch(scene, [{ op: 'add', path, value: 1 }])).toEqual({
        ok: false,
        error: { code: 'conflict', paths: [path] },
      });
  });

  it('overlaps by whole names', () => {
    expect([overlap('/planes/a', '/planes/a/name'), overlap('/planes/a', '/planes/ab')]).toEqual([
      true,
      false,
    ]);
  });
});

describe('the order of planes', () => {
  const ids = (text: string) => [...text] as unknown as PlaneId[];
  // Base, what one wanted, what the other made of it meanwhile: worked by hand.
  it.each([
    ['abc', 'abc', 'abc', 'abc'],
    ['abc', 'nabc', 'xabc', 'nxabc'],
    ['abc', 'abcn', 'abcx', 'abcnx'],
    ['abc', 'ac', 'abxc', 'axc'],
    ['abc', 'cab', 'abxc', 'caxb'],
    ['abc', 'abnc', 'cab', 'cabn'],
    ['abc', 'cab', 'cab', 'cab'],
    ['abc', 'cab', 'bca', null],
    ['', 'n', 'x', 'nx'],
  ])('%s → %s beside %s is %s', (base, wanted, current, result) => {
    expect(mergedOrder(ids(base), ids(wanted), ids(current))?.join('') ?? null).toBe(result);
  });
});

describe('a scene that is sent to a worker', () => {
  it('keeps the planes that have not changed the same objects there', () => {
    const feed = new SceneFeed();
    const mirror = new SceneMirror();
    // Messages to workers are cloned: nothing of them is the same object.
    const sent = (s: Scene) => mirror.take(structuredClone(feed.next(s)));
    const first = sent(scene);
    expect(first).toEqual(scene);
    const edited = setPlaneTransform(addPlanes(scene, [testPlane({ id: N })]), B, { xSpx: 5 });
    const second = sent(edited);
    expect(second).toEqual(edited);
    expect([A, B, C].map((id) => planeOf(second, id) === planeOf(first, id))).toEqual([true, false, true]);
    expect(second.camera).toBe(first.camera);
    expect(sent(scene)).toEqual(scene);
  });

  it('is not guessed where a message was lost', () => {
    const feed = new SceneFeed();
    feed.next(scene);
    expect(() => new SceneMirror().take(feed.next(renamePlane(scene, A, 'x')))).toThrow(
      'without the one before',
    );
  });
});
