import { randomUUID } from 'node:crypto';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { eq, sql } from 'drizzle-orm';
import { unzipSync } from 'fflate';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { JobQueue } from '../db/connection/job-queue.ts';
import { LifeLock } from '../db/connection/life-lock.ts';
import { claimHandoffs, sayProgress, setChunks } from '../db/handoffs.ts';
import { handoffs, renderChunks, renderedFrames, shots } from '../db/schema.ts';
import {
  ask,
  download,
  finished,
  handoffOf,
  pause,
  slidingBar,
  stateOf,
  TWELVE,
} from '../testing/handoffs.ts';
import { freshDatabase, startTestApp, type TestApp } from '../testing/test-app.ts';

/** A busy machine may take its time. */
const PATIENT = { timeout: 60_000 };
const apps: TestApp[] = [];
const locks: LifeLock[] = [];
const start = async (options: Parameters<typeof startTestApp>[0] = {}): Promise<TestApp> => {
  const app = await startTestApp(options);
  apps.push(app);
  return app;
};
const lockOn = (app: TestApp, ...args: [kind: 'desk'] | [kind: 'worker', { engine: string }]): LifeLock => {
  const lock = new LifeLock(app.databaseUrl, args[0], args[1]);
  locks.push(lock);
  return lock;
};
afterEach(async () => {
  await Promise.all(locks.splice(0).map((lock) => lock.close()));
  // The one that made the database drops it, last.
  for (const app of apps.splice(0).reverse()) await app.close();
});

const PNGS = { kind: 'png', firstFrame: 1, lastFrame: 12 } as const;
const filesOf = (app: TestApp) =>
  readdirSync(join(app.folder, 'handoffs')).filter((name) => name.endsWith('.zip'));

describe('two servers on one database', () => {
  it('write every hand-off once, between them, and tell where each lies', async () => {
    const first = await start();
    const second = await start({ databaseUrl: first.databaseUrl });
    const shotId = await slidingBar(first, TWELVE);
    const ids: string[] = [];
    for (let i = 0; i < 10; i++)
      ids.push(
        await ask(i % 2 === 0 ? first : second, shotId, {
          ...PNGS,
          names: { pattern: `t${i}_{frame}`, startAt: null },
        }),
      );
    for (const id of ids)
      expect(await finished(first, shotId, id)).toMatchObject({ state: 'done', total: 12 });
    const [mine, theirs] = [filesOf(first), filesOf(second)];
    expect([...mine, ...theirs].sort()).toEqual(ids.map((id) => `${id}.zip`).sort());
    // Either server gives out every file: they lie on one machine.
    for (const [i, id] of ids.entries()) {
      const names = Object.keys(unzipSync(await download(i % 2 === 0 ? second : first, id)));
      expect(names).toEqual(Array.from({ length: 12 }, (_, n) => `t${i}_${n + 1}.png`));
    }
    expect(
      [
        ...readdirSync(join(first.folder, 'handoffs')),
        ...readdirSync(join(second.folder, 'handoffs')),
      ].filter((name) => name.includes('.part')),
    ).toEqual([]);
  });

  it('never claim the same one, and claim what a dead one has left', async () => {
    const app = await start({ renders: false });
    await app.handoffs.close();
    const shotId = await slidingBar(app, TWELVE);
    const [shot] = await app.db.select().from(shots).where(eq(shots.id, shotId));
    for (let i = 0; i < 6; i++)
      await app.db.insert(handoffs).values({
        shotId,
        scene: shot!.scene,
        shotName: 's',
        request: { ...PNGS } as never,
        progress: { state: 'queued', total: 12 },
      });
    const [a, b] = [lockOn(app, 'desk'), lockOn(app, 'desk')];
    const claim = async (lock: LifeLock, folder: string, writing: readonly string[], most: number) =>
      claimHandoffs(app.db, { lock: await lock.held(), folder }, writing, most);
    const [own, others] = await Promise.all([claim(a, '/a', [], 2), claim(b, '/b', [], 2)]);
    expect(new Set([...own, ...others]).size).toBe(4);
    const rest = await claim(b, '/b', others, 9);
    expect(rest).toHaveLength(2);
    expect(await claim(b, '/b', [...others, ...rest], 9)).toEqual([]);
    // An answer that was lost: what it holds and does not write is claimed again.
    expect((await claim(b, '/b', others, 9)).sort()).toEqual([...rest].sort());
    await a.close();
    await vi.waitFor(
      async () => expect((await claim(b, '/b', [...others, ...rest], 9)).sort()).toEqual([...own].sort()),
      PATIENT,
    );
    const rows = await app.db.select({ folder: handoffs.deskFolder }).from(handoffs);
    expect(new Set(rows.map(({ folder }) => folder))).toEqual(new Set(['/b']));
  });

  it('go on where one ends in the middle of a film', async () => {
    const first = await start();
    const second = await start({ databaseUrl: first.databaseUrl });
    const shotId = await slidingBar(first, { ...TWELVE, widthPx: 640, heightPx: 360, lengthFrames: 48 });
    const ids: string[] = [];
    for (const kind of ['ffv1', 'png', 'ffv1', 'png'] as const)
      ids.push(await ask(first, shotId, { kind, firstFrame: 1, lastFrame: 48 }));
    const running = async (app: TestApp) =>
      (
        await app.db
          .select({ n: sql<number>`count(*)::int` })
          .from(handoffs)
          .where(eq(handoffs.deskFolder, join(app.folder, 'handoffs')))
      )[0]?.n ?? 0;
    await vi.waitFor(async () => expect(await running(second)).toBeGreaterThan(0), PATIENT);
    // Closed as a power cut would, as far as the database can tell: the lock goes, and nothing is said.
    await apps.splice(1, 1)[0]?.close();
    for (const id of ids)
      expect(await finished(first, shotId, id)).toMatchObject({ state: 'done', total: 48 });
  });
});

describe('the queue of chunks', () => {
  it('is made by processes that start at once, of one build or of several', async () => {
    const { url, drop } = await freshDatabase();
    for (let round = 0; round < 3; round++) {
      const engines = [0, 1, 2, 3, 4, 5].map((i) => `build ${round} ${i >> 1}`.replaceAll(' ', '-'));
      const opened = await Promise.all(engines.map((engine) => JobQueue.open(url, engine)));
      await Promise.all(opened.map((queue) => queue.close()));
    }
    await drop();
  });
});

describe('chunks of a hand-off', () => {
  const chunksLeft = (app: TestApp) => app.db.select({ id: renderChunks.id }).from(renderChunks);

  it('go with what ends it, and come no more, even where nobody hears that it was said', async () => {
    const app = await start({ renders: false });
    await app.handoffs.close();
    const shotId = await slidingBar(app, TWELVE);
    const [shot] = await app.db.select().from(shots).where(eq(shots.id, shotId));
    const given = { chunks: [[{ item: 0, key: 'a' }], [{ item: 1, key: 'b' }]], engine: 'e', deskLock: 7 };
    for (const ended of [
      { state: 'cancelled' },
      { state: 'failed', reason: 'no paint' },
      { state: 'done', total: 2, fileName: 'a', bytes: 1, seconds: 1, reused: 0, folder: null },
    ] as const) {
      const id = randomUUID();
      const progress = { state: 'queued', total: 2 } as const;
      const row = { id, shotId, scene: shot!.scene, shotName: 's', request: PNGS as never, progress };
      await app.db.insert(handoffs).values({ ...row, deskLock: 7 });
      expect(await setChunks(app.db, id, given)).toHaveLength(2);
      const running = { state: 'running', done: 0, total: 2, rendered: 0, secondsLeft: null } as const;
      expect(await sayProgress(app.db, id, running, 7)).toBe(true);
      expect(await chunksLeft(app)).toHaveLength(2);
      expect(await sayProgress(app.db, id, ended)).toBe(true);
      expect(await chunksLeft(app)).toEqual([]);
      // A desk that has not heard of it yet plans on.
      expect(await setChunks(app.db, id, given)).toBeNull();
      expect(await chunksLeft(app)).toEqual([]);
    }
  });
});

describe('frames of another build', () => {
  it('are drawn by none but their own; nobody to draw them is said', async () => {
    const app = await start({ renders: false });
    const stranger = lockOn(app, 'worker', { engine: 'another build' });
    await stranger.held();
    const shotId = await slidingBar(app, TWELVE);
    const id = await ask(app, shotId, PNGS);
    await vi.waitFor(
      async () => expect((await app.db.select().from(renderChunks)).length).toBeGreaterThan(0),
      PATIENT,
    );
    const queue = await JobQueue.open(app.databaseUrl, 'another build');
    expect(await queue.take()).toBeNull();
    await queue.close();
    const list = await (await fetch(`${app.url}/api/shots/${shotId}/handoffs`)).json();
    expect(list).toMatchObject({ workers: 0, strangers: 1 });
    expect(await stateOf(app, shotId, id)).toMatchObject({ state: 'running', done: 0 });
    // One of its own takes it up.
    await start({ databaseUrl: app.databaseUrl });
    expect(await finished(app, shotId, id)).toMatchObject({ state: 'done' });
  });
});

describe('a hand-off that cannot be read', () => {
  it('fails with a reason, stands in nobody’s way, and can be listed and cancelled', async () => {
    const app = await start();
    const shotId = await slidingBar(app, TWELVE);
    const [shot] = await app.db.select().from(shots).where(eq(shots.id, shotId));
    const bad = [
      { request: { kind: 'hologram' }, scene: shot!.scene, progress: { state: 'queued', total: 1 } },
      { request: PNGS, scene: { version: 99 }, progress: { state: 'queued', total: 1 } },
      { request: PNGS, scene: shot!.scene, progress: { state: 'running', total: 'many' } },
    ];
    const ids: string[] = [];
    for (const row of bad) {
      const id = randomUUID();
      ids.push(id);
      await app.db.insert(handoffs).values({ id, shotId, shotName: 'bad', ...row } as never);
    }
    const good = await ask(app, shotId, PNGS);
    expect(await finished(app, shotId, good)).toMatchObject({ state: 'done' });
    for (const id of ids) {
      await vi.waitFor(
        async () => expect((await handoffOf(app, shotId, id)).progress).toMatchObject({ state: 'failed' }),
        PATIENT,
      );
      const { progress } = await handoffOf(app, shotId, id);
      expect(progress).toMatchObject({ reason: expect.stringMatching(/\S/) });
    }
    expect((await handoffOf(app, shotId, ids[0]!)).request).toBeNull();
    await app.db
      .update(handoffs)
      .set({ progress: { state: 'queued' } as never, deskLock: 1 })
      .where(eq(handoffs.id, ids[0]!));
    const cancelled = await fetch(`${app.url}/api/handoffs/${ids[0]}/cancel`, { method: 'POST' });
    expect(cancelled.status).toBe(204);
  });
});

describe('a disk that is full', () => {
  /** Every write of this kind fails as PostgreSQL fails without room; a log of parameters would be seen in `said`. */
  const fill = (app: TestApp, table: string, when: string) =>
    app.db.execute(
      sql.raw(`create function no_room_${table}() returns trigger language plpgsql as $$
        begin raise exception 'could not extend file: No space left on device' using errcode = '53100'; end $$;
      create trigger no_room before ${when} on ${table} for each row execute function no_room_${table}()`),
    );
  const makeRoom = (app: TestApp, table: string) =>
    app.db.execute(sql.raw(`drop trigger no_room on ${table}`));

  it('for frames fails the hand-off with a sentence, once that can be stored, and logs no contents', {
    timeout: 180_000,
  }, async () => {
    const said: string[] = [];
    vi.spyOn(console, 'error').mockImplementation((...words) => void said.push(words.join(' ')));
    const app = await start();
    const shotId = await slidingBar(app, TWELVE);
    await fill(app, 'rendered_frames', 'insert');
    const id = await ask(app, shotId, PNGS);
    // The failure's own reason finds no room either, for a while.
    await fill(app, 'handoffs', 'update');
    await pause(2500);
    expect((await stateOf(app, shotId, id)).state).not.toBe('failed');
    await makeRoom(app, 'handoffs');
    expect(await finished(app, shotId, id)).toEqual({
      state: 'failed',
      reason: 'The disk is full. Make room, then hand off again: what was rendered is kept.',
    });
    await makeRoom(app, 'rendered_frames');
    expect(await finished(app, shotId, await ask(app, shotId, PNGS))).toMatchObject({ state: 'done' });
    vi.restoreAllMocks();
    expect(said.length).toBeGreaterThan(0);
    expect(Math.max(...said.map((line) => line.length))).toBeLessThan(4000);
    expect(said.join('').length).toBeLessThan(60_000);
    expect(said.join('\n')).not.toMatch(/insert into|\\x89504e47/i);
  });

  it('leaves chunks that failed for another reason to go round again', async () => {
    vi.spyOn(console, 'error').mockImplementation(() => {});
    const app = await start();
    const shotId = await slidingBar(app, TWELVE);
    await app.db.execute(
      sql.raw(`create sequence failures; create function fails_twice() returns trigger language plpgsql as $$
        begin if nextval('failures') <= 2 then raise exception 'a passing fault'; end if; return new; end $$;
      create trigger fails_twice before insert on rendered_frames for each row execute function fails_twice()`),
    );
    const id = await ask(app, shotId, PNGS);
    expect(await finished(app, shotId, id)).toMatchObject({ state: 'done', total: 12 });
    expect((await app.db.select({ key: renderedFrames.key }).from(renderedFrames)).length).toBe(12);
    vi.restoreAllMocks();
  });
});
