import { copyFileSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type ImportedPainting, importedArtSchema, paintedLayers } from '@keen-ridge/core/art/landing';
import { changedManySchema, type ManyChange, offersSchema } from '@keen-ridge/core/contract/many';
import { planeFromLayer } from '@keen-ridge/core/edits/art';
import { setCamera } from '@keen-ridge/core/edits/keys';
import { addPlanes } from '@keen-ridge/core/edits/planes';
import { keysOf, planesOf } from '@keen-ridge/core/scene/records';
import { shownArts } from '@keen-ridge/core/staging/content';
import { testPlaneId } from '@keen-ridge/core/testing';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { solidPng } from '../testing/art.ts';
import { ARTIST, callsOf, edit } from '../testing/calls.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';

const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-watched-'));
let app: TestApp;
const { call, newShot, shotAt, send } = callsOf(() => app.url);

async function bringIn(file: string, width: number, r: number): Promise<ImportedPainting[]> {
  const png = await solidPng(width, 90, { r, g: 20, b: 30 });
  const answer = await fetch(`${app.url}/api/art?name=${file}`, { method: 'POST', body: Buffer.from(png) });
  return importedArtSchema.parse(await answer.json()).paintings;
}

/** A shot of 10 frames at 24 with the wall painting in it, keyed at frame 7. */
async function shotWithWall(): Promise<string> {
  const id = await newShot();
  const [painting] = await bringIn('wall.png', 160, 200);
  const [layer] = paintedLayers(painting!, { num: 24, den: 1 });
  const { scene, revision } = await shotAt(id);
  const staged = addPlanes(scene, [planeFromLayer(testPlaneId('wall'), layer!)]);
  const keyed = setCamera(staged, { panX: 40 }, { frame: 7, keying: true });
  await send(id, revision, edit(scene, keyed));
  return id;
}

const change = async (shotIds: string[], wanted: ManyChange) =>
  changedManySchema.parse(
    (await call('POST', '/api/shots/change', { shotIds, author: ARTIST, change: wanted })).json,
  );
const sceneOf = async (id: string) => (await shotAt(id)).scene;
const artIn = async (id: string) => shownArts(planesOf(await sceneOf(id))[0]!.content)[0]!;

let [one, two, empty] = ['', '', ''];
beforeAll(async () => {
  app = await startTestApp({ renders: false, watch: folder });
  [one, two, empty] = [await shotWithWall(), await shotWithWall(), await newShot()];
});
afterAll(async () => {
  await app.close();
  rmSync(folder, { recursive: true, force: true });
});

describe('several shots at once', () => {
  it('take another rate, with everything at the same second, and another size', async () => {
    const done = await change([one, two], { kind: 'rate', rate: { num: 12, den: 1 }, keep: 'seconds' });
    expect([done.changed.length, done.same, done.left]).toEqual([2, [], []]);
    const scene = await sceneOf(one);
    expect([scene.rate, scene.lengthFrames]).toEqual([{ num: 12, den: 1 }, 5]);
    // Frame 7 of 24 begins after 6/24 s, which is frame 4 of 12.
    expect(keysOf(scene.camera.panX).map(({ frame }) => frame)).toEqual([1, 4]);
    const sized = await change([one, empty], { kind: 'size', widthPx: 640, heightPx: 360 });
    expect(sized.changed).toHaveLength(2);
    expect((await sceneOf(one)).frame).toEqual({ widthPx: 640, heightPx: 360 });
    expect((await change([one], { kind: 'size', widthPx: 640, heightPx: 360 })).same).toHaveLength(1);
    // Undone in one shot, and there alone.
    const shot = await shotAt(one);
    await send(one, shot.revision, { kind: 'undo', edit: shot.undo.at(-1)!.id });
    expect((await sceneOf(one)).frame.widthPx).toBe(320);
    expect((await sceneOf(empty)).frame.widthPx).toBe(640);
  });

  it('take the next version of a painting where they use it, in place', async () => {
    const before = await artIn(one);
    const paintings = await bringIn('from%20elsewhere/wall.png', 320, 90);
    const done = await change([one, two, empty], { kind: 'art', paintings });
    expect([done.changed.length, done.same.length, done.left]).toEqual([2, 1, []]);
    const plane = planesOf(await sceneOf(one))[0]!;
    const art = shownArts(plane.content)[0]!;
    expect([art.id === before.id, art.widthPx]).toEqual([false, 320]);
    expect(plane.id).toBe('wall');
    expect((await change([one], { kind: 'art', paintings })).same).toHaveLength(1);
  });

  it('refuse a shot that is not there, and change none after it', async () => {
    const gone = '00000000-0000-4000-8000-000000000000';
    const answer = await call('POST', '/api/shots/change', {
      shotIds: [gone, one],
      author: ARTIST,
      change: { kind: 'size', widthPx: 100, heightPx: 100 },
    });
    expect(answer.status).toBe(404);
    expect((await sceneOf(one)).frame.widthPx).toBe(320);
  });
});

describe('the watched folder', () => {
  const offers = async () => offersSchema.parse((await call('GET', '/api/offers')).json);
  const save = async (name: string, r: number) => {
    const part = join(tmpdir(), `keen-ridge-${process.pid}-${name}`);
    writeFileSync(part, await solidPng(200, 100, { r, g: 1, b: 2 }));
    copyFileSync(part, join(folder, name));
    rmSync(part);
  };

  it('offers what is saved in it to the shots that use it, and they take it when told', async () => {
    expect((await offers()).folder).toBe(folder);
    await save('stranger.png', 10);
    await save('wall.png', 33);
    await vi.waitFor(async () => expect((await offers()).offers).toHaveLength(1), {
      timeout: 180_000,
      interval: 200,
    });
    const [offer] = (await offers()).offers;
    expect([offer!.file, offer!.fault]).toEqual(['wall.png', null]);
    expect(new Set(offer!.shots.map(({ id }) => id))).toEqual(new Set([one, two]));
    const before = await artIn(two);
    const taken = await call('POST', `/api/offers/${offer!.id}/take`, { shotIds: [two], author: ARTIST });
    expect(changedManySchema.parse(taken.json).changed.map(({ id }) => id)).toEqual([two]);
    expect((await artIn(two)).id).not.toBe(before.id);
    // To the other it is offered still, until that has it too.
    expect((await offers()).offers[0]!.shots.map(({ id }) => id)).toEqual([one]);
    await call('POST', `/api/offers/${offer!.id}/take`, { shotIds: [one], author: ARTIST });
    expect((await offers()).offers).toEqual([]);
    expect(
      (await call('POST', `/api/offers/${offer!.id}/take`, { shotIds: [two], author: ARTIST })).status,
    ).toBe(404);
  });

  it('tells of a file that cannot be read, and forgets what is not wanted', async () => {
    writeFileSync(join(folder, 'wall.png'), 'no picture');
    await vi.waitFor(async () => expect((await offers()).offers[0]?.fault).toContain('wall.png'), {
      timeout: 180_000,
      interval: 200,
    });
    const [offer] = (await offers()).offers;
    expect((await call('DELETE', `/api/offers/${offer!.id}`)).status).toBe(204);
    expect((await offers()).offers).toEqual([]);
  });
});
