import { randomUUID } from 'node:crypto';
import { setShotLength } from '@keen-ridge/core/edits/shot';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { callsOf, edit, problem } from '../testing/calls.ts';
import { FaultyDatabase, type Mood } from '../testing/faulty-database.ts';
import { freshDatabase, startTestApp, type TestApp } from '../testing/test-app.ts';

let app: TestApp;
let faulty: FaultyDatabase;
let drop: () => Promise<void>;
beforeAll(async () => {
  const database = await freshDatabase();
  drop = database.drop;
  faulty = new FaultyDatabase(database.url);
  app = await startTestApp({ databaseUrl: await faulty.listen(), renders: false });
  vi.spyOn(console, 'error').mockImplementation(() => {});
});
afterAll(async () => {
  faulty.mood = { kind: 'well' };
  await app.close();
  faulty.close();
  await drop();
  vi.restoreAllMocks();
});
const { call, newShot, shotAt, send } = callsOf(() => app.url);

describe('a database that', () => {
  it('takes two seconds for every answer keeps an edit all the same', async () => {
    const id = await newShot();
    const { scene } = await shotAt(id);
    faulty.mood = { kind: 'slow', ms: 2000 };
    const began = performance.now();
    const sent = await send(id, 1, edit(scene, setShotLength(scene, 20)));
    // It was slow, so that this says something.
    expect(performance.now() - began).toBeGreaterThan(2000);
    expect(sent.status).toBe(200);
    faulty.mood = { kind: 'well' };
    expect((await shotAt(id)).scene.lengthFrames).toBe(20);
  });

  it.each([
    ['was restarted and refuses', { kind: 'refuses' }],
    ['has no connection left', { kind: 'full' }],
  ] as const)(
    '%s is said to be away, and what was asked then is done once it is back',
    async (_what, mood: Mood) => {
      const id = await newShot();
      const { scene } = await shotAt(id);
      faulty.mood = mood;
      faulty.cut();
      const opId = randomUUID();
      const op = edit(scene, setShotLength(scene, 30));
      const refused = await send(id, 1, op, opId);
      expect([refused.status, problem(refused).code]).toEqual([503, 'unavailable']);
      expect((await call('GET', '/api/ready')).status).toBe(503);
      expect((await call('GET', '/api/wall')).status).toBe(503);
      faulty.mood = { kind: 'well' };
      await expect.poll(async () => (await send(id, 1, op, opId)).status).toBe(200);
      // The same again, as after an answer that was lost: once is enough.
      expect((await send(id, 1, op, opId)).status).toBe(200);
      expect([(await shotAt(id)).revision, (await shotAt(id)).scene.lengthFrames]).toEqual([2, 30]);
      expect((await call('GET', '/api/ready')).status).toBe(200);
    },
    60_000,
  );
});
