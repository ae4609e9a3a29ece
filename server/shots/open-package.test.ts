import { importedArtSchema, paintedLayers } from '@keen-ridge/core/art/landing';
import { SCENE_PART } from '@keen-ridge/core/art/package';
import { createdSchema, openedShotSchema } from '@keen-ridge/core/contract/wall';
import { addPlanes } from '@keen-ridge/core/edits/planes';
import { SCENE_VERSION } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { newPlane, sceneArts } from '@keen-ridge/core/staging/content';
import { testPlaneId } from '@keen-ridge/core/testing';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { pngOfSamples, solidPng } from '../testing/art.ts';
import { callsOf, edit, problem } from '../testing/calls.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';

let app: TestApp;
let productionId: string;
let shotId: string;
const { call, newShot, shotAt, send } = callsOf(() => app.url);

const packageOf = async (id: string) =>
  new Uint8Array(await (await fetch(`${app.url}/api/shots/${id}/package`)).arrayBuffer());

async function open(bytes: Uint8Array, name = 'Bar 2.zip') {
  const response = await fetch(
    `${app.url}/api/productions/${productionId}/packages?name=${encodeURIComponent(name)}`,
    { method: 'POST', body: new Uint8Array(bytes) },
  );
  return { status: response.status, json: await response.json() };
}

/** The parts of a package after a change of them. */
function changed(bytes: Uint8Array, change: (parts: Record<string, Uint8Array>) => void): Uint8Array {
  const parts = { ...unzipSync(bytes) };
  change(parts);
  return zipSync(parts, { level: 0 });
}

async function bringIn(png: Uint8Array, name: string) {
  const response = await fetch(`${app.url}/api/art?name=${name}.png`, {
    method: 'POST',
    body: new Uint8Array(png),
  });
  const { paintings } = importedArtSchema.parse(await response.json());
  return paintedLayers(paintings[0]!, { num: 24, den: 1 })[0]!.art;
}

beforeAll(async () => {
  app = await startTestApp({ renders: false });
  productionId = createdSchema.parse(
    (await call('POST', '/api/productions', { name: 'Out and in' })).json,
  ).id;
  shotId = await newShot();
  const { scene, revision } = await shotAt(shotId);
  const arts = [
    await bringIn(await solidPng(40, 30, { r: 200, g: 10, b: 10 }), 'red'),
    await bringIn(
      pngOfSamples({ width: 20, height: 16, colourType: 6, depth: 16, interlaced: false, seed: 3 }),
      'deep',
    ),
  ];
  const planes = arts.map((art, i) =>
    newPlane(testPlaneId(`p${i}`), `Plane ${i}`, { kind: 'still', art, made: null }),
  );
  const sent = await send(shotId, revision, edit(scene, addPlanes(scene, planes)));
  expect(sent.status).toBe(200);
});
afterAll(() => app.close());

describe('an open package', () => {
  it('opens as a shot again, and leaves as the same bytes', async () => {
    const bytes = await packageOf(shotId);
    const { status, json } = await open(bytes);
    expect([status, json]).toMatchObject([201, { name: 'Bar 2', leftOut: [] }]);
    expect(await packageOf(openedShotSchema.parse(json).id)).toEqual(bytes);
    const { json: wall } = await call('GET', '/api/wall');
    expect(JSON.stringify(wall)).toContain('"name":"Bar 2"');
  });

  it('whose art is damaged or missing brings the rest, and names what it lacks', async () => {
    const { scene } = await shotAt(shotId);
    const [red, deep] = sceneArts(scene).map(({ id }) => `art/${id}.png`) as [string, string];
    const bytes = changed(await packageOf(shotId), (parts) => {
      delete parts[red];
      parts[deep] = parts[deep]!.map((byte, i) => (i === 60 ? byte ^ 1 : byte));
    });
    const { status, json } = await open(bytes);
    expect(status).toBe(201);
    const { id, leftOut } = openedShotSchema.parse(json);
    expect(leftOut.sort()).toEqual([
      `Plane 0: ${red} is not in the package`,
      `Plane 1: ${deep} is damaged: its SHA-256 differs`,
    ]);
    expect(planesOf((await shotAt(id)).scene)).toEqual([]);
  });

  it('of an older version is brought up, of a newer one refused with a sentence', async () => {
    const version = (wanted: number) => async () =>
      changed(await packageOf(shotId), (parts) => {
        const scene = JSON.parse(strFromU8(parts[SCENE_PART]!));
        parts[SCENE_PART] = strToU8(JSON.stringify({ ...scene, version: wanted }));
      });
    const older = await open(await version(7)());
    expect(older.status).toBe(201);
    const newer = await open(await version(SCENE_VERSION + 1)(), 'Tomorrow.zip');
    expect(newer.status).toBe(422);
    expect(problem(newer).detail).toContain(
      `“Tomorrow.zip” is no package that can be opened: its scene is of version ${SCENE_VERSION + 1}`,
    );
  });

  it.each([
    ['no zip at all', strToU8('hello'), 422],
    ['a zip of something else', zipSync({ 'a.txt': strToU8('x') }), 422],
    ['nothing', new Uint8Array(), 422],
  ])('that is %s makes no shot', async (_what, bytes, status) => {
    const before = JSON.stringify((await call('GET', '/api/wall')).json);
    expect((await open(bytes)).status).toBe(status);
    expect(JSON.stringify((await call('GET', '/api/wall')).json)).toBe(before);
  });

  it('cannot come into a production that is not there', async () => {
    const gone = '00000000-0000-4000-8000-000000000000';
    const response = await fetch(`${app.url}/api/productions/${gone}/packages?name=a.zip`, {
      method: 'POST',
      body: 'x',
    });
    expect(response.status).toBe(404);
  });
});
