import { importedArtSchema, paintedLayers } from '@keen-ridge/core/art/landing';
import { openedArchiveSchema } from '@keen-ridge/core/contract/archive';
import { createdSchema, wallSchema } from '@keen-ridge/core/contract/wall';
import { addPlanes, deletePlanes } from '@keen-ridge/core/edits/planes';
import { planesOf } from '@keen-ridge/core/scene/records';
import { newPlane } from '@keen-ridge/core/staging/content';
import { USUAL_LIMITS } from '@keen-ridge/core/survey';
import { testPlaneId } from '@keen-ridge/core/testing';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { solidPng } from '../../testing/art.ts';
import { callsOf, edit, problem } from '../../testing/calls.ts';
import { startTestApp, type TestApp } from '../../testing/test-app.ts';

let app: TestApp;
let productionId: string;
const { call, shotAt, send } = callsOf(() => app.url);

const bytesAt = async (path: string) => new Uint8Array(await (await fetch(app.url + path)).arrayBuffer());

async function open(bytes: Uint8Array, name = 'Out_production.zip') {
  const response = await fetch(`${app.url}/api/archives?name=${encodeURIComponent(name)}`, {
    method: 'POST',
    body: new Uint8Array(bytes),
  });
  return { status: response.status, json: await response.json() };
}

const shotsOf = async (id: string) => {
  const { productions } = wallSchema.parse((await call('GET', '/api/wall')).json);
  return productions.find((one) => one.id === id)!.shots;
};

function changed(bytes: Uint8Array, change: (parts: Record<string, Uint8Array>) => void): Uint8Array {
  const parts = { ...unzipSync(bytes) };
  change(parts);
  return zipSync(parts, { level: 0 });
}

async function bringIn(name: string, r: number) {
  const png = await solidPng(24, 18, { r, g: 20, b: 30 });
  const answer = await fetch(`${app.url}/api/art?name=${name}.png`, {
    method: 'POST',
    body: Buffer.from(png),
  });
  const { paintings } = importedArtSchema.parse(await answer.json());
  return paintedLayers(paintings[0]!, { num: 24, den: 1 })[0]!.art;
}

beforeAll(async () => {
  app = await startTestApp({ renders: false });
  productionId = createdSchema.parse((await call('POST', '/api/productions', { name: 'Out' })).json).id;
  const [red, dark] = [await bringIn('red', 200), await bringIn('dark', 20)];
  for (const [name, arts] of [
    ['010', [red, dark]],
    ['020', [red]],
  ] as const) {
    const shot = { name, widthPx: 320, heightPx: 180, rate: { num: 24, den: 1 }, lengthFrames: 10 };
    const { id } = createdSchema.parse(
      (await call('POST', `/api/productions/${productionId}/shots`, shot)).json,
    );
    const { scene, revision } = await shotAt(id);
    const planes = arts.map((art, i) =>
      newPlane(testPlaneId(`p${i}`), `Plane ${i}`, { kind: 'still', art, made: null }),
    );
    const next = addPlanes(scene, planes);
    expect((await send(id, revision, edit(scene, next))).status).toBe(200);
    const take = await call('POST', `/api/shots/${id}/takes`, {
      name: 'first',
      note: 'as it was',
      scene: next,
    });
    expect(take.status).toBe(201);
  }
  const limits = { ...USUAL_LIMITS, gapPx: 3 };
  expect((await call('PUT', `/api/productions/${productionId}/survey-limits`, limits)).status).toBeLessThan(
    300,
  );
});
afterAll(() => app.close());

describe('the archive of a production', () => {
  it('has every image once, and opens as the same production again', async () => {
    const bytes = await bytesAt(`/api/productions/${productionId}/archive`);
    const names = Object.keys(unzipSync(bytes));
    expect(names.filter((name) => name.startsWith('art/'))).toHaveLength(2);
    const { status, json } = await open(bytes);
    const { id, name, leftOut } = openedArchiveSchema.parse(json);
    expect([status, name, leftOut]).toEqual([201, 'Out 2', []]);
    expect((await shotsOf(id)).map((shot) => shot.name)).toEqual(['010', '020']);
    // The same to the byte but for its name.
    const again = await bytesAt(`/api/productions/${id}/archive`);
    const renamed = changed(again, (parts) => {
      const text = strFromU8(parts['production.json']!);
      parts['production.json'] = strToU8(text.replace('"name": "Out 2"', '"name": "Out"'));
    });
    expect(unzipSync(renamed)).toEqual(unzipSync(bytes));
    expect(strFromU8(unzipSync(bytes)['production.json']!)).toContain('"gapPx": 3');
    const [first] = await shotsOf(id);
    const { json: takes } = await call('GET', `/api/shots/${first!.id}/takes`);
    expect(JSON.stringify(takes)).toContain('"as it was"');
  });

  it('has the histories where they are wanted: what was done there is undone here, with its art', async () => {
    const [first] = await shotsOf(productionId);
    const before = await shotAt(first!.id);
    // The second plane is deleted: only the history names its art then.
    const less = deletePlanes(before.scene, new Set([testPlaneId('p1')]));
    await send(first!.id, before.revision, edit(before.scene, less));
    const bytes = await bytesAt(`/api/productions/${productionId}/archive?history=true`);
    expect(Object.keys(unzipSync(bytes)).filter((name) => name.startsWith('art/'))).toHaveLength(2);
    const { id } = openedArchiveSchema.parse((await open(bytes)).json);
    const [copy] = await shotsOf(id);
    const opened = await shotAt(copy!.id);
    const now = await shotAt(first!.id);
    expect(opened.revision).toBe(now.revision);
    const told = (shot: typeof now) =>
      shot.undo.map(({ action, subject, at, author }) => [action, subject, at, author]);
    expect(told(opened)).toEqual(told(now));
    expect(opened.undo.at(-1)!.id).not.toBe(now.undo.at(-1)!.id);
    await send(copy!.id, opened.revision, { kind: 'undo', edit: opened.undo.at(-1)!.id });
    expect(planesOf((await shotAt(copy!.id)).scene)).toHaveLength(2);
    expect(planesOf((await shotAt(first!.id)).scene)).toHaveLength(1);
    const { json } = await call('GET', `/api/shots/${copy!.id}/history?newest=10`);
    expect((json as { revisions: unknown[] }).revisions.length).toBeGreaterThan(1);
    await send(first!.id, now.revision, { kind: 'undo', edit: now.undo.at(-1)!.id });
  });

  it('that is damaged brings the rest, and names what is missing', async () => {
    const whole = await bytesAt(`/api/productions/${productionId}/archive`);
    const parts = unzipSync(whole);
    const scene = JSON.parse(strFromU8(parts['shots/0001/scene.json']!));
    const dark = scene.planes.p1.content.art.id as string;
    // What is in the store already would not be missed: this one is of a store that never had it.
    const strange = '0'.repeat(64);
    const bytes = changed(whole, (all) => {
      for (const [name, bytes] of Object.entries(all))
        if (name.endsWith('.json')) all[name] = strToU8(strFromU8(bytes).replaceAll(dark, strange));
    });
    const { status, json } = await open(bytes);
    const { id, leftOut } = openedArchiveSchema.parse(json);
    expect([status, leftOut]).toEqual([201, [`010, Plane 1: art/${strange}.png is not in the archive`]]);
    const shots = await shotsOf(id);
    const left = await Promise.all(shots.map(async (shot) => planesOf((await shotAt(shot.id)).scene).length));
    expect(left).toEqual([1, 1]);
  });

  it.each([
    ['of a newer version', { version: 3 }, /of version 3, and this program knows up to 2/],
    [
      'with a shot that is not there',
      { shots: [{ name: 'x', scene: 'shots/9/scene.json', takes: [] }] },
      /is not in it/,
    ],
    ['with a field that it cannot have', { shots: 'many' }, /production\.json, shots/],
  ])('%s is refused with a sentence, and nothing is made', async (_what, part, words) => {
    const before = JSON.stringify((await call('GET', '/api/wall')).json);
    const bytes = changed(await bytesAt(`/api/productions/${productionId}/archive`), (parts) => {
      const archive = JSON.parse(strFromU8(parts['production.json']!));
      parts['production.json'] = strToU8(JSON.stringify({ ...archive, ...part }));
    });
    const refused = await open(bytes, 'strange.zip');
    expect(refused.status).toBe(422);
    expect(problem(refused).detail).toMatch(words);
    expect(problem(refused).detail).toContain('“strange.zip”');
    expect(JSON.stringify((await call('GET', '/api/wall')).json)).toBe(before);
  });

  it('that is no zip is refused', async () => {
    expect((await open(strToU8('hello'))).status).toBe(422);
  });
});
