import { randomUUID } from 'node:crypto';
import { setChangedSchema, setFindingsSchema, setListSchema } from '@keen-ridge/core/contract/sets';
import { createdSchema } from '@keen-ridge/core/contract/wall';
import { setPlaneDepth } from '@keen-ridge/core/edits/depth';
import { addPlanes } from '@keen-ridge/core/edits/planes';
import {
  followAgain,
  followingSet,
  planesForSet,
  setAsHere,
  withOwnCopies,
  withSet,
} from '@keen-ridge/core/edits/sets';
import type { Plane, Scene, SetId } from '@keen-ridge/core/scene';
import { planeOf, planesOf } from '@keen-ridge/core/scene/records';
import { newPlane } from '@keen-ridge/core/staging/content';
import { testPlaneId } from '@keen-ridge/core/testing';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ARTIST, callsOf, edit, problem, revisionOf } from '../testing/calls.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';

let app: TestApp;
let productionId: string;
const { call, shotAt, send } = callsOf(() => app.url);
const QUAY = testPlaneId('quay');
const SET = randomUUID() as SetId;

const card = (): Plane =>
  newPlane(QUAY, 'Quay', {
    kind: 'card',
    widthPx: 400,
    heightPx: 200,
    paint: { kind: 'solid', colour: '#808080', opacity: 1 },
  });

async function shotCalled(name: string, scene: (empty: Scene) => Scene): Promise<string> {
  const shot = { name, widthPx: 320, heightPx: 180, rate: { num: 24, den: 1 }, lengthFrames: 10 };
  const made = await call('POST', `/api/productions/${productionId}/shots`, shot);
  const { id } = createdSchema.parse(made.json);
  const { scene: empty, revision } = await shotAt(id);
  await send(id, revision, edit(empty, scene(empty)));
  return id;
}

const setsThere = async () =>
  setListSchema.parse((await call('GET', `/api/productions/${productionId}/sets`)).json).sets;
const depthIn = async (id: string) => planesOf((await shotAt(id)).scene)[0]!.depthSpx;

let [a, b, c] = ['', '', ''];
beforeAll(async () => {
  app = await startTestApp({ renders: false });
  productionId = createdSchema.parse((await call('POST', '/api/productions', { name: 'Sets' })).json).id;
  a = await shotCalled('A', (empty) => addPlanes(empty, [card()]));
  const { scene, revision } = await shotAt(a);
  const set = { id: SET, planes: planesForSet(scene, new Set([QUAY]), 1) };
  const made = { ...set, name: 'Harbour' };
  expect((await call('POST', `/api/productions/${productionId}/sets`, made)).status).toBe(201);
  // The same once more is the same set.
  expect((await call('POST', `/api/productions/${productionId}/sets`, made)).status).toBe(201);
  await send(a, revision, edit(scene, followingSet(scene, set)));
  b = await shotCalled('B', (empty) => withSet(empty, set, () => testPlaneId('mine')).scene);
  c = await shotCalled('C', (empty) => withSet(empty, set, () => testPlaneId('other')).scene);
});
afterAll(() => app.close());

describe('sets of a production', () => {
  it('tell which shots use them, and how', async () => {
    const [set, ...others] = await setsThere();
    expect(others).toEqual([]);
    expect(set).toMatchObject({ id: SET, name: 'Harbour', revision: 1 });
    expect(set!.users.map(({ name, follow, own }) => [name, follow, own])).toEqual([
      ['A', [QUAY], 0],
      ['B', [QUAY], 0],
      ['C', [QUAY], 0],
    ]);
  });

  it('change with a depth that is set right, and the shots that follow change too; an own copy does not', async () => {
    const inC = await shotAt(c);
    const own = withOwnCopies(
      inC.scene,
      setPlaneDepth(inC.scene, testPlaneId('other'), { depthSpx: 50, atFrame: 1, holdPicture: true }),
    );
    await send(c, inC.revision, edit(inC.scene, own));
    const { scene, revision } = await shotAt(a);
    const deeper = withOwnCopies(
      scene,
      setPlaneDepth(scene, QUAY, { depthSpx: 700, atFrame: 1, holdPicture: true }),
    );
    const kept = revisionOf(await send(a, revision, edit(scene, deeper)));
    const [set] = await setsThere();
    const planes = setAsHere(deeper, set!, new Set([QUAY]));
    const answer = await call('PUT', `/api/sets/${SET}`, { planes, revision: set!.revision, author: ARTIST });
    const { followed, left, revision: next } = setChangedSchema.parse(answer.json);
    expect([followed.map(({ name }) => name), left, next]).toEqual([['B'], [], 2]);
    await send(a, kept, edit(deeper, followAgain(deeper, { id: SET, planes }, new Set([QUAY]))));
    expect(await Promise.all([a, b, c].map(depthIn))).toEqual([700, 700, 50]);
    expect(planeOf((await shotAt(a)).scene, QUAY)?.ofSet?.follows).toBe(true);
    // An edit like any other: in the history of the shot that followed, and taken back by who gave.
    const followedB = await shotAt(b);
    expect(followedB.undo.at(-1)).toMatchObject({ action: 'follow-set', subject: 'Harbour' });
    await send(b, followedB.revision, { kind: 'undo', edit: followedB.undo.at(-1)!.id });
    expect(await depthIn(b)).toBe(0);
  });

  it('tell as followed what was changed by it, not who follows what stays as it is', async () => {
    const [quay, pole] = [testPlaneId('quay'), testPlaneId('pole')];
    const two = (empty: Scene) => addPlanes(empty, [card(), { ...card(), id: pole, name: 'Pole' }]);
    const giver = await shotCalled('Giver', two);
    const { scene, revision } = await shotAt(giver);
    const set = { id: randomUUID() as SetId, planes: planesForSet(scene, new Set([quay, pole]), 1) };
    await call('POST', `/api/productions/${productionId}/sets`, { ...set, name: 'Two' });
    const following = followingSet(scene, set);
    const known = revisionOf(await send(giver, revision, edit(scene, following)));
    const user = await shotCalled(
      'User',
      (empty) => withSet(empty, set, (i) => testPlaneId(['one', 'other'][i]!)).scene,
    );
    const move = setPlaneDepth(following, pole, { depthSpx: 300, atFrame: 1, holdPicture: true });
    const own = withOwnCopies(following, move);
    await send(giver, known, edit(following, own));
    const planes = setAsHere(own, set, new Set([pole]));
    const answer = await call('PUT', `/api/sets/${set.id}`, { planes, revision: 1, author: ARTIST });
    // The giver follows the quay, of which nothing has changed.
    expect(setChangedSchema.parse(answer.json)).toMatchObject({
      followed: [{ name: 'User' }],
      left: [],
    });
    for (const id of [giver, user]) expect((await call('DELETE', `/api/shots/${id}`)).status).toBe(204);
    expect((await call('DELETE', `/api/sets/${set.id}`)).status).toBe(204);
  });

  it('refuse a change of a set that has changed meanwhile, one of art that is not there, and strangers', async () => {
    const [set] = await setsThere();
    const { planes, revision } = set!;
    const old = await call('PUT', `/api/sets/${SET}`, { planes, revision: revision - 1, author: ARTIST });
    expect([old.status, problem(old).detail]).toEqual([409, expect.stringContaining('changed meanwhile')]);
    const art = {
      id: 'f'.repeat(64),
      widthPx: 4,
      heightPx: 4,
      painted: null,
      cutEdges: { left: false, right: false, top: false, bottom: false },
    };
    const still = { ...planes[0]!, content: { kind: 'still', art, made: null } };
    const bare = await call('PUT', `/api/sets/${SET}`, { planes: [still], revision, author: ARTIST });
    expect(bare.status).toBe(404);
    expect((await setsThere())[0]!.revision).toBe(revision);
    expect(
      (await call('PUT', `/api/sets/${randomUUID()}`, { planes, revision: 1, author: ARTIST })).status,
    ).toBe(404);
  });

  it('are surveyed in every shot that uses them', async () => {
    const { shots } = setFindingsSchema.parse((await call('GET', `/api/sets/${SET}/findings`)).json);
    expect(shots.map(({ name }) => name)).toEqual(['A', 'B', 'C']);
    // A card of 400 × 200 fills 320 × 180 at home; held in depth it still does.
    expect(shots.map(({ open }) => open)).toEqual([0, 0, 0]);
  });

  it('go out and come in with the production, under ids of their own', async () => {
    const bytes = await (await fetch(`${app.url}/api/productions/${productionId}/archive`)).arrayBuffer();
    const opened = await fetch(`${app.url}/api/archives?name=Sets.zip`, { method: 'POST', body: bytes });
    const { id } = createdSchema.parse(await opened.json());
    const { sets } = setListSchema.parse((await call('GET', `/api/productions/${id}/sets`)).json);
    expect(sets.map(({ name, users }) => [name, users.length])).toEqual([['Harbour', 3]]);
    expect(sets[0]!.id).not.toBe(SET);
  });

  it('are put away: shots keep their planes', async () => {
    expect((await call('PATCH', `/api/sets/${SET}`, { name: 'Old harbour' })).status).toBe(204);
    expect((await setsThere())[0]!.name).toBe('Old harbour');
    expect((await call('DELETE', `/api/sets/${SET}`)).status).toBe(204);
    expect(await setsThere()).toEqual([]);
    expect(planesOf((await shotAt(b)).scene)).toHaveLength(1);
    expect((await call('DELETE', `/api/sets/${SET}`)).status).toBe(404);
  });
});
