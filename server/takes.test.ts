import {
  createdSchema,
  easeShelfSchema,
  lookShelfSchema,
  takeListSchema,
  takeSceneSchema,
} from '@keen-ridge/core/contract/wall';
import { setCamera } from '@keen-ridge/core/edits/keys';
import { lookTakenFrom } from '@keen-ridge/core/edits/look';
import { newScene, type Scene } from '@keen-ridge/core/scene';
import { EASE_PRESETS } from '@keen-ridge/core/timing';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestApp, type TestApp } from './testing/test-app.ts';

let app: TestApp;
beforeAll(async () => {
  app = await startTestApp();
});
afterAll(() => app.close());

async function call(method: string, path: string, body?: unknown) {
  const response = await fetch(`${app.url}/api${path}`, {
    method,
    ...(body === undefined
      ? {}
      : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
  });
  const text = await response.text();
  return { status: response.status, json: text ? (JSON.parse(text) as unknown) : null };
}

const scene = newScene({ widthPx: 320, heightPx: 180, rate: { num: 24, den: 1 }, lengthFrames: 24 });
const keyed = (panX: number): Scene => setCamera(scene, { panX }, { frame: 9, keying: true });

async function shotOf(name: string): Promise<string> {
  const production = createdSchema.parse((await call('POST', '/productions', { name })).json);
  const shot = { name: '010', widthPx: 320, heightPx: 180, rate: { num: 24, den: 1 }, lengthFrames: 24 };
  return createdSchema.parse((await call('POST', `/productions/${production.id}/shots`, shot)).json).id;
}
const takesOf = async (id: string) =>
  takeListSchema.parse((await call('GET', `/shots/${id}/takes`)).json).takes;

describe('takes', () => {
  it('are kept whole, numbered in order even when they come at once, and never change', async () => {
    const id = await shotOf('Taken');
    expect(await takesOf(id)).toEqual([]);
    const made = await Promise.all(
      [1, 2, 3, 4, 5].map((n) =>
        call('POST', `/shots/${id}/takes`, { name: `T${n}`, note: '', scene: keyed(n) }),
      ),
    );
    expect(made.map(({ status }) => status)).toEqual([201, 201, 201, 201, 201]);
    const takes = await takesOf(id);
    expect(takes.map((take) => take.number)).toEqual([1, 2, 3, 4, 5]);
    const third = takes.find((take) => take.name === 'T3')!;
    await call('PATCH', `/takes/${third.id}`, { name: 'The slow one', note: 'for the director' });
    expect((await takesOf(id)).find((take) => take.id === third.id)).toMatchObject({
      name: 'The slow one',
      note: 'for the director',
      number: third.number,
    });
    const kept = takeSceneSchema.parse((await call('GET', `/takes/${third.id}`)).json);
    expect(kept.scene).toEqual(keyed(3));
    expect(await takesOf(await shotOf('Another'))).toEqual([]);
  });

  it('are refused where they do not fit, and say why', async () => {
    const id = await shotOf('Refused');
    const gone = '11111111-2222-4333-8444-555555555555';
    const take = { name: 'One', note: '', scene };
    expect((await call('POST', `/shots/${gone}/takes`, take)).status).toBe(404);
    expect((await call('GET', `/takes/${gone}`)).status).toBe(404);
    expect((await call('PATCH', `/takes/${gone}`, { name: 'x', note: '' })).status).toBe(404);
    expect((await call('POST', `/shots/${id}/takes`, { ...take, name: ' ' })).status).toBe(400);
    const bad = await call('POST', `/shots/${id}/takes`, { ...take, scene: { ...scene, lengthFrames: 0 } });
    expect(bad.status).toBe(400);
    expect(JSON.stringify(bad.json)).toContain('lengthFrames');
    expect(await takesOf(id)).toEqual([]);
  });
});

describe('the ease shelf', () => {
  it('keeps eases across productions and takes them off', async () => {
    const shelf = async () => easeShelfSchema.parse((await call('GET', '/eases')).json).eases;
    const before = await shelf();
    const ease = { kind: 'bezier', x1: 0.8, y1: 0, x2: 0.1, y2: 1.2 };
    const made = createdSchema.parse((await call('POST', '/eases', { name: 'Snap', ease })).json);
    await call('POST', '/eases', { name: 'Plain', ease: EASE_PRESETS.linear });
    expect((await shelf()).slice(before.length)).toMatchObject([{ name: 'Snap', ease }, { name: 'Plain' }]);
    expect((await call('DELETE', `/eases/${made.id}`)).status).toBe(204);
    expect((await shelf()).map((kept) => kept.name)).not.toContain('Snap');
    expect((await call('POST', '/eases', { name: 'Bad', ease: { ...ease, x1: 2 } })).status).toBe(400);
    expect((await call('DELETE', '/eases/11111111-2222-4333-8444-555555555555')).status).toBe(404);
  });
});

describe('the shelf of looks', () => {
  it('keeps looks for one production, and takes them off', async () => {
    const production = async (name: string) =>
      createdSchema.parse((await call('POST', '/productions', { name })).json).id;
    const [own, other] = [await production('Lit'), await production('Dark')];
    const shelf = async (id: string) =>
      lookShelfSchema.parse((await call('GET', `/productions/${id}/looks`)).json).looks;
    const look = lookTakenFrom(scene, 'camera', 1)!;
    const made = await call('POST', `/productions/${own}/looks`, { name: 'Plain day', look });
    expect(made.status).toBe(201);
    expect(await shelf(own)).toMatchObject([{ name: 'Plain day', look }]);
    expect(await shelf(other)).toEqual([]);
    const bad = { name: 'Bad', look: { ...look, values: { glow: 1 } } };
    expect((await call('POST', `/productions/${own}/looks`, bad)).status).toBe(400);
    const gone = '11111111-2222-4333-8444-555555555555';
    expect((await call('POST', `/productions/${gone}/looks`, { name: 'Lost', look })).status).toBe(404);
    expect((await call('DELETE', `/looks/${createdSchema.parse(made.json).id}`)).status).toBe(204);
    expect(await shelf(own)).toEqual([]);
    expect((await call('DELETE', `/looks/${gone}`)).status).toBe(404);
  });
});
