import { randomUUID } from 'node:crypto';
import { historySchema, problemSchema, revisionsSchema } from '@keen-ridge/core/contract';
import { setPlaneDepth } from '@keen-ridge/core/edits/depth';
import { setCamera } from '@keen-ridge/core/edits/keys';
import { renamePlane } from '@keen-ridge/core/edits/planes';
import { setShotLength } from '@keen-ridge/core/edits/shot';
import {
  differenceBetween,
  type Op,
  type Revision,
  revisionSchema,
  sceneBefore,
} from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import { withPlaneList } from '@keen-ridge/core/scene/records';
import { testPlane, testPlaneId } from '@keen-ridge/core/testing';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ARTIST, callsOf, edit, problem, revisionOf } from '../testing/calls.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';
import { sceneAt } from './history.ts';

let app: TestApp;
beforeAll(async () => {
  app = await startTestApp();
});
afterAll(() => app.close());

const { call, newShot, shotAt, send } = callsOf(() => app.url);
const OTHER = { id: 'other', name: 'Ines' };
const [A, B] = [testPlaneId('a'), testPlaneId('b')];

/** A shot of two planes, at revision 2. */
async function staged(): Promise<{ id: string; scene: Scene }> {
  const id = await newShot();
  const empty = (await shotAt(id)).scene;
  const scene = withPlaneList(empty, [testPlane({ id: A }), testPlane({ id: B })]);
  expect(revisionOf(await send(id, 1, edit(empty, scene)))).toBe(2);
  return { id, scene };
}

const last = async (id: string, stack: 'undo' | 'redo', author = ARTIST) =>
  (await shotAt(id, author))[stack].at(-1)!.id;
const back = async (id: string, kind: 'undo' | 'redo', author = ARTIST) =>
  send(id, 1, { kind, edit: await last(id, kind, author) }, randomUUID(), author);

describe('the edit log', () => {
  it('keeps edits, undoes and redoes them, and forgets the redone branch after a new edit', async () => {
    const id = await newShot();
    const { scene } = await shotAt(id);
    const [longer, longest] = [setShotLength(scene, 20), setShotLength(scene, 30)];
    expect(revisionOf(await send(id, 1, edit(scene, longer)))).toBe(2);
    expect(revisionOf(await send(id, 2, edit(longer, longest)))).toBe(3);
    await back(id, 'undo');
    const undone = await shotAt(id);
    expect([undone.scene.lengthFrames, undone.undo.length, undone.redo.length, undone.revision]).toEqual([
      20, 1, 1, 4,
    ]);
    await back(id, 'redo');
    expect((await shotAt(id)).scene.lengthFrames).toBe(30);
    await back(id, 'undo');
    await back(id, 'undo');
    expect((await shotAt(id)).redo).toHaveLength(2);
    await send(id, 7, edit(scene, setShotLength(scene, 99)));
    const branched = await shotAt(id);
    expect([branched.scene.lengthFrames, branched.undo.length, branched.redo.length]).toEqual([99, 1, 0]);
  });

  it('redoes in the order in which it was undone, back and forth', async () => {
    const id = await newShot();
    let { scene } = await shotAt(id);
    for (const [i, length] of [20, 30, 40].entries()) {
      const next = setShotLength(scene, length);
      await send(id, i + 1, edit(scene, next));
      scene = next;
    }
    const lengths: number[] = [];
    for (const kind of ['undo', 'undo', 'undo', 'redo', 'undo', 'redo', 'redo', 'redo'] as const) {
      await back(id, kind);
      lengths.push((await shotAt(id)).scene.lengthFrames);
    }
    expect(lengths).toEqual([30, 20, 10, 20, 10, 20, 30, 40]);
  });

  it('does an op once however often it is sent, and one of three that race for one field', async () => {
    const id = await newShot();
    const { scene } = await shotAt(id);
    const opId = randomUUID();
    const op = edit(scene, setShotLength(scene, 20));
    expect(revisionOf(await send(id, 1, op, opId))).toBe(2);
    expect(revisionOf(await send(id, 1, op, opId))).toBe(2);
    expect((await shotAt(id)).undo).toHaveLength(1);
    const on20 = setShotLength(scene, 20);
    const racing = await Promise.all(
      [30, 40, 50].map((n) => send(id, 2, edit(on20, setShotLength(scene, n)))),
    );
    expect(racing.map(({ status }) => status).sort()).toEqual([200, 409, 409]);
  });

  it('refuses an edit that would leave no valid shot', async () => {
    const id = await newShot();
    const bad = await send(id, 1, {
      kind: 'edit',
      action: 'set-length',
      subject: '',
      patch: [
        { op: 'test', path: '/lengthFrames', value: 10 },
        { op: 'replace', path: '/lengthFrames', value: 0 },
      ],
    });
    expect([bad.status, problem(bad).code]).toEqual([422, 'edit-refused']);
    expect(problem(bad).detail).toContain('lengthFrames');
    const nothing = await send(id, 1, { kind: 'undo', edit: randomUUID() });
    expect([nothing.status, problem(nothing).code]).toEqual([409, 'nothing-to-undo']);
    expect((await shotAt(id)).revision).toBe(1);
  });
});

describe('two artists on one shot', () => {
  it('edit different planes, and different fields of one, without knowing of each other', async () => {
    const { id, scene } = await staged();
    const deeper = setPlaneDepth(scene, A, { depthSpx: 300, atFrame: 1, holdPicture: true });
    const named = renamePlane(renamePlane(scene, B, 'Tree'), A, 'Hill');
    expect((await send(id, 2, edit(scene, deeper))).status).toBe(200);
    const answer = await send(id, 2, edit(scene, named), randomUUID(), OTHER);
    // The window gets what it missed together with its own step.
    const { revisions } = revisionsSchema.parse(answer.json);
    expect(revisions.map(({ revision, entry }) => [revision, entry.author.name])).toEqual([
      [3, 'Artist'],
      [4, 'Ines'],
    ]);
    const now = await shotAt(id);
    expect(now.scene).toEqual(renamePlane(renamePlane(deeper, B, 'Tree'), A, 'Hill'));
    // Each sees his own stack; what is deleted of it or not is nobody else's.
    expect((await shotAt(id, OTHER)).undo.map(({ author }) => author.id)).toEqual(['other']);
    expect(now.undo.map(({ author }) => author.id)).toEqual(['artist', 'artist']);
  });

  it('are told what and who, where both touch the same, and nothing is changed', async () => {
    const { id, scene } = await staged();
    await send(id, 2, edit(scene, renamePlane(scene, A, 'Hill')), randomUUID(), OTHER);
    const late = await send(id, 2, edit(scene, renamePlane(scene, A, 'Rock')));
    expect(late.status).toBe(409);
    expect(late.headers.get('content-type')).toContain('application/problem+json');
    expect(problem(late)).toMatchObject({
      code: 'conflict',
      detail: 'Ines has changed the same meanwhile.',
      conflict: { paths: ['/planes/a/name'], by: { author: OTHER, action: 'set-length' } },
    });
    expect((await shotAt(id)).revision).toBe(3);
  });

  it('cannot take back what the other has built on, until that is taken back', async () => {
    const { id, scene } = await staged();
    const hill = renamePlane(scene, A, 'Hill');
    await send(id, 2, edit(scene, hill));
    await send(id, 3, edit(hill, renamePlane(hill, A, 'Rock')), randomUUID(), OTHER);
    const refused = await back(id, 'undo');
    expect(problem(refused)).toMatchObject({ code: 'conflict', conflict: { by: { author: OTHER } } });
    expect((await back(id, 'undo', OTHER)).status).toBe(200);
    expect((await back(id, 'undo')).status).toBe(200);
    expect((await shotAt(id)).scene).toEqual(scene);
    // Nor the other's own.
    const theirs = await last(id, 'redo', OTHER);
    expect(problem(await send(id, 1, { kind: 'redo', edit: theirs })).code).toBe('nothing-to-undo');
  });

  it('are not told that an edit is bad where it only came too late', async () => {
    const { id, scene } = await staged();
    const ride = (plane: typeof A, on: typeof A): Op =>
      edit(scene, {
        ...scene,
        planes: { ...scene.planes, [plane]: { ...scene.planes[plane]!, mount: { on: 'plane', plane: on } } },
      });
    expect((await send(id, 2, ride(A, B), randomUUID(), OTHER)).status).toBe(200);
    const ring = await send(id, 2, ride(B, A));
    expect([ring.status, problem(ring).code]).toEqual([409, 'conflict']);
    const alone = await send(id, 3, ride(B, A));
    expect([alone.status, problem(alone).code]).toEqual([422, 'edit-refused']);
  });

  it('lists the newest steps with the scene that they led to, and steps back from it', async () => {
    const { id } = await staged();
    const scenes = [(await shotAt(id)).scene];
    for (const [i, name] of ['x', 'y', 'z'].entries()) {
      const now = scenes.at(-1)!;
      await send(id, 2 + i, edit(now, renamePlane(now, A, name)));
      scenes.push((await shotAt(id)).scene);
    }
    const newest = async (n: number) =>
      historySchema.parse((await call('GET', `/api/shots/${id}/history?newest=${n}`)).json);
    const { scene, revisions } = await newest(2);
    expect(revisions.map(({ revision }) => revision)).toEqual([4, 5]);
    expect([sceneBefore(scene, []), sceneBefore(scene, revisions)]).toEqual([scenes[3], scenes[1]]);
    expect((await newest(500)).revisions).toHaveLength(4);
    // Every point has a picture; the art of these planes is made up, that of the empty shot is not.
    expect(await sceneAt(app.db, id, 3)).toEqual(scenes[1]);
    const picture = (revision: number) => fetch(`${app.url}/api/shots/${id}/history/${revision}/picture`);
    expect((await picture(1)).headers.get('content-type')).toBe('image/png');
    expect((await picture(6)).status).toBe(404);
    // What is torn is not listed: no point before the tear can be had.
    await app.db.execute(`delete from ops where revision = 4`);
    expect((await newest(500)).revisions.map(({ revision }) => revision)).toEqual([5]);
    expect((await picture(2)).status).toBe(404);
    expect((await call('GET', `/api/shots/${id}/history?newest=0`)).status).toBe(400);
    expect((await call('GET', `/api/shots/${randomUUID()}/history?newest=5`)).status).toBe(404);
  });

  it('tells revisions after any that is still known, and says when one is not', async () => {
    const { id, scene } = await staged();
    for (const [i, name] of ['x', 'y', 'z'].entries()) {
      const { scene: now } = await shotAt(id);
      expect(revisionOf(await send(id, 2 + i, edit(now, renamePlane(now, A, name))))).toBe(3 + i);
    }
    const after = async (n: number) => (await call('GET', `/api/shots/${id}/revisions?after=${n}`)).json;
    const numbers = async (n: number) =>
      revisionsSchema.parse(await after(n)).revisions.map(({ revision }) => revision);
    expect([await numbers(1), await numbers(4), await numbers(5)]).toEqual([[2, 3, 4, 5], [5], []]);
    expect(scene).toBeDefined();
    await app.db.execute(`delete from ops where revision < 4`);
    expect(problemSchema.parse(await after(2)).code).toBe('forgotten');
    expect(await numbers(3)).toEqual([4, 5]);
    expect((await call('GET', `/api/shots/${id}/revisions?after=x`)).status).toBe(400);
  });
});

/** What a window hears of a shot after a revision, until it goes away. */
async function listening(id: string, after: number, headers: Record<string, string> = {}) {
  const gone = new AbortController();
  const response = await fetch(`${app.url}/api/shots/${id}/events?after=${after}`, {
    headers,
    signal: gone.signal,
  });
  const heard: Revision[] = [];
  const kinds: string[] = [];
  const present: { window: string; plane: string | null; author: { name: string } }[][] = [];
  const read = (async () => {
    let text = '';
    for await (const part of response.body!.pipeThrough(new TextDecoderStream())) {
      text += part;
      const events = text.split('\n\n');
      text = events.pop() ?? '';
      for (const event of events) {
        const kind = /^event: (.*)$/m.exec(event)?.[1];
        // Who is there is told as one comes, and whenever it changes.
        if (kind === 'present') present.push(JSON.parse(/^data: (.*)$/m.exec(event)![1]!));
        else if (kind) kinds.push(kind);
        if (kind === 'revision')
          heard.push(revisionSchema.parse(JSON.parse(/^data: (.*)$/m.exec(event)![1]!)));
      }
    }
  })().catch((error: unknown) => {
    if (!gone.signal.aborted) throw error;
  });
  return {
    response,
    heard,
    kinds,
    present,
    close: () => {
      gone.abort();
      return read;
    },
    ended: read,
  };
}

describe('the stream of a shot', () => {
  it('tells what came before it and every step as it is taken, of this server or another', async () => {
    const { id, scene } = await staged();
    const second = await startTestApp({ databaseUrl: app.databaseUrl });
    try {
      const window = await listening(id, 1);
      expect(window.response.headers.get('content-type')).toBe('text/event-stream');
      await expect.poll(() => window.heard.length).toBe(1);
      const other = callsOf(() => second.url);
      const keyed = setCamera(scene, { panX: 5 }, { frame: 3, keying: true });
      await other.send(id, 2, edit(scene, keyed), randomUUID(), OTHER);
      await expect.poll(() => window.heard.length).toBe(2);
      expect(window.heard[1]).toMatchObject({
        revision: 3,
        kind: 'edit',
        entry: { author: OTHER, patch: differenceBetween(scene, keyed) },
        patch: null,
      });
      await back(id, 'undo', OTHER);
      await expect.poll(() => window.heard.length).toBe(3);
      expect(window.heard[2]).toMatchObject({ revision: 4, kind: 'undo' });
      await window.close();
      const later = await listening(id, 1, { 'Last-Event-ID': '3' });
      await expect.poll(() => later.heard.map(({ revision }) => revision)).toEqual([4]);
      await later.close();
    } finally {
      await second.close();
    }
  });

  it('says so where the steps are no longer known, and of no shot that is not there', async () => {
    const { id } = await staged();
    await app.db.execute(`delete from ops`);
    const window = await listening(id, 1);
    await window.ended;
    expect(window.kinds).toEqual(['forgotten']);
    expect((await listening(randomUUID(), 1)).response.status).toBe(404);
  });

  it('tells in which windows the shot is open, those of another server too, and when one is left', async () => {
    const { id } = await staged();
    const second = await startTestApp({ databaseUrl: app.databaseUrl, renders: false });
    try {
      const window = await listening(id, 2);
      const [mine, theirs] = [randomUUID(), randomUUID()];
      const author = { id: 'bo', name: 'Bo' };
      const say = (of: typeof call, who: string, more: object) =>
        of('POST', `/api/shots/${id}/present`, { window: who, author, plane: null, ...more });
      await say(call, mine, {});
      await say(callsOf(() => second.url).call, theirs, { plane: 'hill' });
      const planes = () => window.present.at(-1)?.map(({ plane }) => plane);
      await expect.poll(planes).toEqual([null, 'hill']);
      expect(window.present.at(-1)![1]!.author.name).toBe('Bo');
      // The same again is not told again.
      const told = window.present.length;
      await say(call, mine, {});
      await say(call, mine, { gone: true });
      await expect.poll(planes).toEqual(['hill']);
      expect(window.present).toHaveLength(told + 1);
      // Who comes later is told at once.
      const later = await listening(id, 2);
      await expect.poll(() => later.present.at(-1)?.length).toBe(1);
      expect((await say(call, 'no id', {})).status).toBe(400);
      await later.close();
      await window.close();
    } finally {
      await second.close();
    }
  });

  it('ends with the shot', async () => {
    const { id, scene } = await staged();
    const window = await listening(id, 2);
    await call('DELETE', `/api/shots/${id}`);
    expect((await send(id, 2, edit(scene, renamePlane(scene, A, 'x')))).status).toBe(404);
    await app.db.execute(`select pg_notify('keen_ridge_revision', '${id}')`);
    await window.ended;
    expect(window.kinds).toEqual([]);
  });

  it('goes on after the connection to the database was lost', async () => {
    const { id, scene } = await staged();
    const window = await listening(id, 2);
    await app.db.execute(
      `select pg_terminate_backend(pid) from pg_stat_activity where query like 'listen %' and datname = current_database()`,
    );
    await send(id, 2, edit(scene, renamePlane(scene, A, 'Hill')));
    await expect.poll(() => window.heard.length, { timeout: 60_000 }).toBe(1);
    await window.close();
  });
});
