import { mkdirSync, readdirSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { addPlanes } from '@keen-ridge/core/edits/planes';
import { differenceBetween } from '@keen-ridge/core/history';
import { newScene, type Scene } from '@keen-ridge/core/scene';
import { newPlane } from '@keen-ridge/core/staging/content';
import { testArt, testPlaneId } from '@keen-ridge/core/testing';
import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { keepArt } from '../db/art.ts';
import { dropUnusedArt } from '../db/retention.ts';
import { art, edits, handoffs, ops, shelfPieces, shots, takes } from '../db/schema.ts';
import { makeProduction, makeShot, setDeleted } from '../db/wall.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';
import { giveUpUnused } from './retention.ts';

let app: TestApp;
beforeAll(async () => {
  app = await startTestApp({ renders: false });
});
afterAll(() => app.close());

const SHOT = { widthPx: 32, heightPx: 18, rate: { num: 24, den: 1 }, lengthFrames: 2 };
const empty = newScene(SHOT);
const showing = (n: number): Scene =>
  addPlanes(empty, [newPlane(testPlaneId('p'), 'P', { kind: 'still', art: testArt(n), made: null })]);
const longAgo = new Date('2020-01-01');
const stored = async () =>
  (await app.db.select({ id: art.id }).from(art))
    .map(({ id }) => Number.parseInt(id, 16))
    .sort((p, q) => p - q);

describe('art that nothing names', () => {
  it('is given up after its time; what anything names never is', async () => {
    for (let n = 1; n <= 12; n++) await keepArt(app.db, testArt(n), [], new Uint8Array([n]));
    await app.db.update(art).set({ madeAt: longAgo });
    const production = await makeProduction(app.db, 'P');
    const shot = await makeShot(app.db, production, { name: 'S', ...SHOT });
    await app.db
      .update(shots)
      .set({ scene: showing(1) })
      .where(eq(shots.id, shot));
    const deleted = await makeShot(app.db, production, { name: 'D', ...SHOT });
    await app.db
      .update(shots)
      .set({ scene: showing(2) })
      .where(eq(shots.id, deleted));
    await setDeleted(app.db, 'shot', deleted, true);
    const log = (n: number, state: 'done' | 'undone' | 'superseded', seq: number) => {
      const patch = differenceBetween(empty, showing(n));
      return app.db.insert(edits).values({
        id: crypto.randomUUID(),
        shotId: shot,
        seq,
        state,
        action: 'set-length',
        subject: '',
        patch,
      });
    };
    await log(3, 'done', 1);
    await log(4, 'undone', 2);
    await log(5, 'superseded', 3);
    // A way back names what was there before.
    const patch = differenceBetween(showing(6), empty);
    await app.db.insert(edits).values({
      id: crypto.randomUUID(),
      shotId: shot,
      seq: 4,
      state: 'done',
      action: 'set-length',
      subject: '',
      patch,
    });
    await app.db.insert(takes).values({ shotId: shot, number: 1, name: 'T', note: '', scene: showing(7) });
    await app.db.insert(shelfPieces).values({
      productionId: production,
      name: 'S',
      from: '',
      content: { kind: 'still', art: testArt(8), made: null },
    });
    const request = { kind: 'png', firstFrame: 1, lastFrame: 1 } as never;
    await app.db
      .insert(handoffs)
      .values({ shotId: shot, scene: showing(9), shotName: 's', request, progress: { state: 'cancelled' } });
    // How it was made from another names that one too.
    const cut = { kind: 'recoloured', from: testArt(10), hueDeg: 1, saturation: 1, brightness: 1 } as const;
    const recoloured = addPlanes(empty, [
      newPlane(testPlaneId('r'), 'R', { kind: 'still', art: testArt(1), made: cut }),
    ]);
    await app.db.insert(takes).values({ shotId: shot, number: 2, name: 'R', note: '', scene: recoloured });
    // 11 was brought in again just now; 12 nobody knows.
    await keepArt(app.db, testArt(11), [], new Uint8Array([11]));
    const gone = await dropUnusedArt(app.db, new Date(Date.now() - 60_000));
    expect(gone).toEqual([testArt(12).id]);
    expect(await stored()).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11]);
  });

  it('goes with its levels and with old ids of edits, by the days that are documented', async () => {
    const folder = join(app.folder, 'levels');
    mkdirSync(folder, { recursive: true });
    await app.db
      .update(art)
      .set({ madeAt: sql`now() - interval '31 days'` })
      .where(eq(art.id, testArt(11).id));
    const file = (n: number, ageDays: number) => {
      const path = join(folder, `${testArt(n).id}.levels`);
      writeFileSync(path, 'x');
      const at = new Date(Date.now() - ageDays * 86_400_000);
      utimesSync(path, at, at);
    };
    file(1, 50);
    file(11, 50);
    file(99, 2);
    file(98, 0);
    const [shot] = await app.db.select({ id: shots.id }).from(shots).limit(1);
    const op = (days: number) =>
      app.db.insert(ops).values({
        opId: crypto.randomUUID(),
        shotId: shot!.id,
        revision: 1,
        madeAt: new Date(Date.now() - days * 86_400_000),
      });
    await op(89);
    await op(91);
    expect(await giveUpUnused(app.db, folder)).toEqual([testArt(11).id]);
    expect(readdirSync(folder).sort()).toEqual([1, 98].map((n) => `${testArt(n).id}.levels`).sort());
    expect(await app.db.select().from(ops)).toHaveLength(1);
  });
});
