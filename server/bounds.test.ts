import { randomUUID } from 'node:crypto';
import { problemSchema, shotSchema } from '@keen-ridge/core/contract';
import { createdSchema, wallSchema } from '@keen-ridge/core/contract/wall';
import { setShotLength } from '@keen-ridge/core/edits/shot';
import { differenceBetween } from '@keen-ridge/core/history';
import { withPlaneList } from '@keen-ridge/core/scene/records';
import { newPlane } from '@keen-ridge/core/staging/content';
import { testArt, testPlaneId } from '@keen-ridge/core/testing';
import { Client } from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { ARTIST, callsOf, edit, problem, revisionOf } from './testing/calls.ts';
import { startTestApp, type TestApp } from './testing/test-app.ts';

let app: TestApp;
beforeAll(async () => {
  app = await startTestApp();
});
afterAll(() => app.close());
const { call, newShot, shotAt, send } = callsOf(() => app.url);

describe('edits that cannot be stored or do not fit', () => {
  /** Sent as text, since JSON.stringify would not make all of these. */
  const raw = (id: string, body: string) =>
    fetch(`${app.url}/api/shots/${id}/ops`, {
      method: 'POST',
      body,
      headers: { 'Content-Type': 'application/json' },
    }).then(async (response) => ({ status: response.status, json: await response.json() }));
  const op = (patch: string, opId: string = randomUUID()) =>
    `{"opId":"${opId}","revision":1,"author":{"id":"a","name":"A"},"op":{"kind":"edit","action":"set-length","subject":"","patch":${patch}}}`;
  const card = (name: string) =>
    `[{"op":"add","path":"/markers/-","value":{"frame":3,"name":"${name}","colour":"x"}}]`;

  it.each([
    ['half of a pair', card('lamp\\ud83c'), 422, 'unstorable-text'],
    ['the other half', card('\\uDFEElamp'), 422, 'unstorable-text'],
    ['NUL', card('a\\u0000b'), 422, 'unstorable-text'],
    ['a path into the prototype', '[{"op":"add","path":"/__proto__/x","value":1}]', 400, 'bad-request'],
    ['a path into nothing', '[{"op":"add","path":"/nothing/here/at/all","value":1}]', 422, 'edit-refused'],
    ['a path past the list', '[{"op":"replace","path":"/planes/7/opacity","value":1}]', 422, 'edit-refused'],
    [
      'a value that is nested 100 000 deep',
      `[{"op":"add","path":"/markers/-","value":${'['.repeat(100_000)}${']'.repeat(100_000)}}]`,
      400,
      'bad-request',
    ],
  ])('%s: refused, and nothing changes', async (_what, patch, status, code) => {
    const id = await newShot();
    const before = await shotAt(id);
    const answer = await raw(id, op(patch));
    expect([answer.status, problem(answer).code]).toEqual([status, code]);
    expect(await shotAt(id)).toEqual(before);
    // A whole pair, also where it is written as two escapes, is a character like any other.
    const { scene } = before;
    const named = differenceBetween(scene, setShotLength(scene, 20));
    expect(
      (await send(id, 1, { kind: 'edit', action: 'set-length', subject: '🏮', patch: named })).status,
    ).toBe(200);
  });

  it('the id of another shot’s edit: refused', async () => {
    const [first, second] = [await newShot(), await newShot()];
    const { scene } = await shotAt(first);
    const opId = randomUUID();
    const longer = edit(scene, setShotLength(scene, 20));
    expect((await send(first, 1, longer, opId)).status).toBe(200);
    const again = await send(second, 1, longer, opId);
    expect([again.status, problem(again).detail]).toEqual([400, expect.stringContaining('another shot')]);
    expect((await shotAt(second)).revision).toBe(1);
  });

  it('names of productions and shots: refused in the same way', async () => {
    const answer = await raw('x', '{}');
    expect(answer.status).toBe(400);
    const named = await fetch(`${app.url}/api/productions`, {
      method: 'POST',
      body: '{"name":"a\\u0000"}',
      headers: { 'Content-Type': 'application/json' },
    });
    expect([named.status, problemSchema.parse(await named.json()).code]).toEqual([422, 'unstorable-text']);
  });

  it('more bytes than one request may have: refused before it is read', async () => {
    const id = await newShot();
    const large = await raw(id, op(card('x'.repeat(13 * 2 ** 20))));
    expect([large.status, problem(large).code]).toEqual([413, 'too-large']);
  });
});

describe('a long history', () => {
  const lastIds = z.object({ undo: z.array(z.object({ id: z.string() })) });

  it('travels in bounds, and every edit of it can be undone', async () => {
    const id = await newShot();
    const ref = (n: number) => ({ ...testArt(n), painted: null });
    let { scene } = await shotAt(id);
    const before = scene;
    // Four edits of 2 MB each, there and back: more than travels at once.
    const planes = (n: number) => {
      const exposures = Array.from({ length: 3400 }, (_, i) => ({ art: ref(n * 3400 + i), hold: 1 }));
      const content = { kind: 'moving', exposures, cycle: 'once', startFrame: 1, rate: null } as const;
      return [1, 2, 3].map((k) => newPlane(testPlaneId(`p${n}-${k}`), 'P', content));
    };
    for (let n = 1; n <= 4; n++) {
      const next = withPlaneList(scene, planes(n));
      expect(revisionOf(await send(id, n, edit(scene, next)))).toBe(n + 1);
      scene = next;
    }
    const text = await (await fetch(`${app.url}/api/shots/${id}?author=${ARTIST.id}`)).text();
    expect(text.length).toBeLessThan(17e6);
    const shot = shotSchema.parse(JSON.parse(text));
    expect(shot.undo.length).toBeGreaterThanOrEqual(1);
    expect(shot.undo.length).toBeLessThan(4);
    for (let n = 5; n <= 8; n++) {
      // Eight megabytes are checked once, above.
      const { json } = await call('GET', `/api/shots/${id}?author=${ARTIST.id}`);
      const last = lastIds.parse(json).undo.at(-1)!;
      expect((await send(id, n, { kind: 'undo', edit: last.id })).status).toBe(200);
    }
    const undone = await shotAt(id);
    expect([undone.scene, undone.undo, undone.redo.length > 0]).toEqual([before, [], true]);
    // The wall takes what it shows out of scenes and does not read them.
    const wall = await (await fetch(`${app.url}/api/wall`)).text();
    expect(wall.length).toBeLessThan(200_000);
    expect(
      wallSchema
        .parse(JSON.parse(wall))
        .productions.flatMap(({ shots }) => shots)
        .find((card) => card.id === id),
    ).toMatchObject({ planes: 0, lengthFrames: 10, frame: { widthPx: 320, heightPx: 180 } });
  });
});

describe('requests that are wrong', () => {
  it.each([
    ['a page that is not there', 'GET', '/assets/nope.js', {}, 404],
    ['a path that is no text', 'GET', '/api/shots/%ff', {}, 400],
    ['NUL in a name', 'POST', '/api/art?name=a%00b.png', {}, 422],
    [
      'a character set that is not known',
      'POST',
      '/api/productions',
      { 'content-type': 'application/json; charset=klingon' },
      415,
    ],
    [
      'a packing that is not known',
      'POST',
      '/api/productions',
      { 'content-type': 'application/json', 'content-encoding': 'lzma' },
      415,
    ],
  ])('%s: said, and not as a fault of the server', async (_what, method, path, headers, status) => {
    const response = await fetch(app.url + path, {
      method,
      headers,
      ...(method === 'POST' ? { body: '{}' } : {}),
    });
    const said = problemSchema.parse(await response.json());
    expect([response.status, said.status]).toEqual([status, status]);
    expect(said.code).not.toBe('internal');
  });

  it('a part of a page that it has not: the page', async () => {
    const response = await fetch(`${app.url}/somewhere`, { headers: { Range: 'bytes=99999999-' } });
    expect([200, 404]).toContain(response.status);
  });

  it('a still of a shot without art, or one that is too large: refused with a reason', async () => {
    const id = await newShot();
    const still = (query: string) => fetch(`${app.url}/api/shots/${id}/still?${query}`);
    expect((await still('frame=1&format=png')).status).toBe(200);
    const shot = await shotAt(id);
    const gone = newPlane(testPlaneId('gone'), 'Gone', { kind: 'still', art: testArt(77), made: null });
    expect((await send(id, 1, edit(shot.scene, withPlaneList(shot.scene, [gone])))).status).toBe(200);
    for (const format of ['png', 'webp', 'openraster']) {
      const answer = await still(`frame=1&format=${format}`);
      const said = problemSchema.parse(await answer.json());
      expect([answer.status, said.code]).toEqual([422, 'unreadable-art']);
      expect(said.detail).toContain('“Gone”');
    }
    const large = {
      name: 'L',
      widthPx: 16_000,
      heightPx: 16_000,
      rate: { num: 24, den: 1 },
      lengthFrames: 1,
    };
    const [production] = wallSchema.parse((await call('GET', '/api/wall')).json).productions;
    const made = createdSchema.parse(
      (await call('POST', `/api/productions/${production!.id}/shots`, large)).json,
    );
    const refused = await fetch(`${app.url}/api/shots/${made.id}/still?frame=1&format=png&scale=4`);
    expect([refused.status, problemSchema.parse(await refused.json()).detail]).toEqual([
      400,
      expect.stringContaining('16384 px'),
    ]);
    const packed = await fetch(`${app.url}/api/shots/${id}/package`);
    expect(packed.status).toBe(422);
  });

  it('a database that is away: said as such, and it may be asked again', async () => {
    const url = new URL(app.databaseUrl);
    const name = url.pathname.slice(1);
    url.pathname = '/postgres';
    const admin = new Client({ connectionString: url.href });
    await admin.connect();
    await admin.query(`alter database ${name} allow_connections false`);
    await admin.query('select pg_terminate_backend(pid) from pg_stat_activity where datname = $1', [name]);
    const away = await call('GET', '/api/wall');
    expect([away.status, problem(away).code]).toEqual([503, 'unavailable']);
    expect((await call('GET', '/api/health')).json).toMatchObject({ database: 'away' });
    await admin.query(`alter database ${name} allow_connections true`);
    await admin.end();
    await expect.poll(async () => (await call('GET', '/api/wall')).status).toBe(200);
    expect((await call('GET', '/api/health')).json).toMatchObject({ database: 'up' });
  });
});
