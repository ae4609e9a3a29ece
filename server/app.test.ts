import { request } from 'node:http';
import { binSchema, createdSchema, wallSchema } from '@keen-ridge/core/contract/wall';
import { setCamera } from '@keen-ridge/core/edits/keys';
import { differenceBetween } from '@keen-ridge/core/history';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { callsOf, problem } from './testing/calls.ts';
import { startTestApp, type TestApp } from './testing/test-app.ts';

let app: TestApp;
beforeAll(async () => {
  app = await startTestApp();
});
afterAll(() => app.close());

const { call, newShot, shotAt } = callsOf(() => app.url);

describe('the script of a page', () => {
  it('goes out gzipped to whoever takes it so, and is the same for whoever does not', async () => {
    const page = await (await fetch(`${app.url}/shots/any/stage`)).text();
    const scripts = [...page.matchAll(/"(\/assets\/[^"]+\.js)"/g)].map(([, path]) => path!);
    expect(scripts.length).toBeGreaterThan(1);
    for (const path of scripts) {
      const asked = (encoding: string) =>
        fetch(`${app.url}${path}`, { headers: { 'Accept-Encoding': encoding } });
      const [packed, plain] = [await asked('gzip'), await asked('identity')];
      expect(packed.headers.get('Content-Encoding')).toBe('gzip');
      expect(plain.headers.get('Content-Encoding')).toBeNull();
      for (const { headers } of [packed, plain]) {
        expect(headers.get('Vary')).toMatch(/Accept-Encoding/);
        expect(headers.get('Content-Type')).toMatch(/^text\/javascript; charset=utf-8$/i);
        expect(headers.get('Cache-Control')).toMatch(/immutable/);
      }
      expect(await packed.text()).toBe(await plain.text());
    }
  });

  it.each([
    ['is not there', '/assets/none.js', 404, 'not-found'],
    ['has an address that cannot be decoded', '/assets/%', 400, 'bad-request'],
  ])('that %s is refused as anything else is', async (_what, path, status, code) => {
    const answer = await call('GET', path);
    expect([answer.status, problem(answer).code]).toEqual([status, code]);
  });
});

describe('the wall', () => {
  it('hides what is deleted and brings it back', async () => {
    const id = await newShot();
    const shotsOnWall = async () =>
      wallSchema
        .parse((await call('GET', '/api/wall')).json)
        .productions.flatMap((p) => p.shots.map((s) => s.id));
    expect(await shotsOnWall()).toContain(id);
    expect((await call('DELETE', `/api/shots/${id}`)).status).toBe(204);
    expect(await shotsOnWall()).not.toContain(id);
    expect((await call('GET', `/api/shots/${id}`)).status).toBe(404);
    await call('POST', `/api/shots/${id}/restore`);
    expect(await shotsOnWall()).toContain(id);
    expect((await call('PATCH', `/api/shots/${id}`, { name: ' Renamed ' })).status).toBe(204);
    expect((await shotAt(id)).name).toBe('Renamed');
  });

  it('duplicates a shot beside it, with or without its move, and puts shots in an order', async () => {
    const id = await newShot();
    const { scene } = await shotAt(id);
    const keyed = setCamera(scene, { panX: 90 }, { frame: 12, keying: true });
    const patch = differenceBetween(scene, keyed);
    const op = { kind: 'edit', action: 'key-camera', subject: 'Pan', patch };
    const author = { id: 'me', name: 'Me' };
    await call('POST', `/api/shots/${id}/ops`, { opId: crypto.randomUUID(), revision: 1, author, op });
    const copy = async (name: string, withMove: boolean) =>
      createdSchema.parse((await call('POST', `/api/shots/${id}/duplicate`, { name, withMove })).json).id;
    const [whole, still] = [await copy('Whole', true), await copy('Still', false)];
    expect((await shotAt(whole)).scene).toEqual(keyed);
    const rest = (await shotAt(still)).scene;
    expect([Object.keys(rest.camera.panX.keys), rest.camera.panX.value]).toEqual([[], 0]);
    expect((await shotAt(still)).undo).toEqual([]);
    const { productionId } = await shotAt(id);
    const order = async () =>
      wallSchema
        .parse((await call('GET', '/api/wall')).json)
        .productions.find((p) => p.id === productionId)!
        .shots.map((s) => s.id);
    expect((await order()).indexOf(still)).toBe((await order()).indexOf(id) + 1);
    const wanted = [still, id, whole];
    expect((await call('PUT', `/api/productions/${productionId}/order`, { shotIds: wanted })).status).toBe(
      204,
    );
    expect((await order()).slice(0, 3)).toEqual(wanted);
    const other = createdSchema.parse((await call('POST', '/api/productions', { name: 'Other' })).json).id;
    expect((await call('PUT', `/api/shots/${whole}/production`, { productionId: other })).status).toBe(204);
    expect([(await shotAt(whole)).productionId, await order()]).toEqual([
      other,
      expect.not.arrayContaining([whole]),
    ]);
    const nowhere = { productionId: crypto.randomUUID() };
    expect((await call('PUT', `/api/shots/${whole}/production`, nowhere)).status).toBe(404);
    const unknown = `/api/productions/${crypto.randomUUID()}/order`;
    expect((await call('PUT', unknown, { shotIds: wanted })).status).toBe(404);
    await call('DELETE', `/api/shots/${whole}`);
    const bin = binSchema.parse((await call('GET', '/api/bin')).json);
    expect(bin.items.find((item) => item.id === whole)).toMatchObject({
      kind: 'shot',
      productionName: 'Other',
    });
  });

  it.each([
    ['an empty name', { name: '  ' }],
    ['an unknown field', { name: 'x', colour: 'red' }],
    ['no body', undefined],
  ])('refuses %s with problem details', async (_what, body) => {
    const answer = await call('POST', '/api/productions', body);
    expect([answer.status, problem(answer).code]).toEqual([400, 'bad-request']);
  });
});

describe('who may ask', () => {
  const asked = (
    headers: Record<string, string>,
    method = 'GET',
  ): Promise<{ status: number; body: string }> =>
    new Promise((resolve, reject) => {
      const { port } = new URL(app.url);
      request({ port, host: '127.0.0.1', path: '/api/health', method, headers }, (response) => {
        let body = '';
        response.on('data', (chunk) => {
          body += chunk;
        });
        response.on('end', () => resolve({ status: response.statusCode ?? 0, body }));
      })
        .on('error', reject)
        .end();
    });

  it.each([
    ['its own name', { host: 'localhost' }, 200],
    ['another name that points here', { host: 'evil.example' }, 403],
    ['a name that begins like ours', { host: 'localhost.evil.example' }, 403],
    ['a page of another site', { host: 'localhost', origin: 'http://evil.example' }, 403],
    ['a page of our own', { host: 'localhost', origin: 'http://localhost' }, 200],
    ['a sandboxed page', { host: 'localhost', origin: 'null' }, 403],
  ])('answers %s', async (_who, headers, status) => {
    expect((await asked(headers)).status).toBe(status);
  });

  it('isolates its pages, so that memory can be shared', async () => {
    const { headers } = await call('GET', '/api/health');
    expect(headers.get('cross-origin-opener-policy')).toBe('same-origin');
    expect(headers.get('cross-origin-embedder-policy')).toBe('require-corp');
  });

  it('bounds what it takes and names unknown addresses', async () => {
    const huge = await call('POST', '/api/productions', { name: 'x'.repeat(25 * 2 ** 20) });
    expect([huge.status, problem(huge).code]).toEqual([413, 'too-large']);
    expect(problem(await call('GET', '/api/nowhere')).code).toBe('not-found');
    const broken = await fetch(`${app.url}/api/productions`, {
      method: 'POST',
      body: '{',
      headers: { 'Content-Type': 'application/json' },
    });
    expect(broken.status).toBe(400);
  });
});
