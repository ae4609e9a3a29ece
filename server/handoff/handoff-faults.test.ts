import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync, readdirSync, symlinkSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { setCamera } from '@keen-ridge/core/edits/keys';
import { planesOf, withPlaneList } from '@keen-ridge/core/scene/records';
import { seededRandom } from '@keen-ridge/core/units';
import { eq, sql } from 'drizzle-orm';
import { unzipSync } from 'fflate';
import { Client } from 'pg';
import { afterEach, describe, expect, it } from 'vitest';
import { JobQueue } from '../db/connection/job-queue.ts';
import { pruneFrames } from '../db/frames.ts';
import { dropOldHandoffs } from '../db/handoffs.ts';
import { art, handoffs, renderChunks, renderedFrames } from '../db/schema.ts';
import { engineName } from '../farm/engine.ts';
import {
  ask,
  changeScene,
  download,
  finished,
  handoffOf,
  pause,
  slidingBar,
  stateOf,
  TWELVE,
  underWay,
} from '../testing/handoffs.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';

let app: TestApp;
const workers: ChildProcess[] = [];
afterEach(async () => {
  for (const worker of workers.splice(0)) worker.kill('SIGKILL');
  await app.close();
});

const LONG = { widthPx: 640, heightPx: 360, rate: { num: 24, den: 1 }, lengthFrames: 96 } as const;
const frames = async (id: string) => unzipSync(await download(app, id));
/** What was cut short is cleared away a moment after its end is told. */
async function nothingLeft(): Promise<void> {
  const parts = () => readdirSync(join(app.folder, 'handoffs')).filter((name) => name.includes('.part'));
  for (let i = 0; i < 60 && parts().length > 0; i++) await pause(50);
  expect(parts()).toEqual([]);
}

/** A process of `npm run worker`; resolves once it says that it renders. */
function startWorkerProcess(): Promise<ChildProcess> {
  const script = fileURLToPath(new URL('../../scripts/worker.mjs', import.meta.url));
  const worker = spawn(process.execPath, [script, '--threads', '1'], {
    env: { ...process.env, DATABASE_URL: app.databaseUrl, KEEN_RIDGE_DATA: join(app.folder, 'workers') },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  workers.push(worker);
  return new Promise((resolve, reject) => {
    worker.stdout?.on('data', (text) => String(text).includes('Rendering on') && resolve(worker));
    worker.on('exit', () => reject(new Error('The worker ended before it began')));
  });
}

describe('workers in processes of their own', () => {
  it('share a render, and one that is killed costs nothing but its chunk', { timeout: 240_000 }, async () => {
    app = await startTestApp({ renders: false });
    const shotId = await slidingBar(app, { ...LONG, widthPx: 1280, heightPx: 720 });
    const [first] = await Promise.all([startWorkerProcess(), startWorkerProcess()]);
    const id = await ask(app, shotId, { kind: 'png', firstFrame: 1, lastFrame: 96 });
    const locksOf = async () => {
      const rows = await app.db
        .selectDistinct({ lock: renderChunks.workerLock })
        .from(renderChunks)
        .where(eq(renderChunks.handoffId, id));
      return rows.filter(({ lock }) => lock !== null).length;
    };
    const seen = new Set<number>();
    for (;;) {
      seen.add(await locksOf());
      const [taken] = await app.db
        .select({ n: sql<number>`count(*)::int` })
        .from(renderChunks)
        .where(eq(renderChunks.state, 'taken'));
      if (seen.has(2) && (taken?.n ?? 0) > 1) break;
      const { state } = await stateOf(app, shotId, id);
      if (state === 'done') throw new Error('It was over before the worker could be killed');
      await pause(10);
    }
    first.kill('SIGKILL');
    expect(await finished(app, shotId, id)).toMatchObject({ state: 'done', total: 96 });
    const shared = await frames(id);
    expect(Object.keys(shared)).toHaveLength(96);
    // The one that was killed and the one that lives: nobody else rendered.
    expect(Math.max(...seen)).toBe(2);
    const { workers: living } = (await (await fetch(`${app.url}/api/shots/${shotId}/handoffs`)).json()) as {
      workers: number;
    };
    expect(living).toBe(1);
  });

  it('a job that was taken by one who died before it began is given to another', {
    timeout: 180_000,
  }, async () => {
    app = await startTestApp({ renders: false });
    const shotId = await slidingBar(app, TWELVE);
    const id = await ask(app, shotId, { kind: 'png', firstFrame: 1, lastFrame: 12 });
    const queue = await JobQueue.open(app.databaseUrl, await engineName());
    let job = null;
    while (!job) job = await queue.take();
    // Nobody ever answers for it; the chunk was not marked as taken.
    await queue.close();
    await startWorkerProcess();
    expect(await finished(app, shotId, id)).toMatchObject({ state: 'done', total: 12 });
  });

  it('nobody to render is waited for, and said', async () => {
    app = await startTestApp({ renders: false });
    const shotId = await slidingBar(app, TWELVE);
    const id = await ask(app, shotId, { kind: 'png', firstFrame: 1, lastFrame: 2 });
    await pause(800);
    expect(await stateOf(app, shotId, id)).toMatchObject({ state: 'running', done: 0 });
  });
});

describe('a database that goes away', () => {
  it('in a render is waited for; the render goes on', async () => {
    app = await startTestApp();
    const shotId = await slidingBar(app, LONG);
    const id = await ask(app, shotId, { kind: 'png', firstFrame: 1, lastFrame: 96 });
    await underWay(app, shotId, id, 4);
    // From another database of the same server: nobody may connect, and everybody is thrown out.
    const url = new URL(app.databaseUrl);
    const name = url.pathname.slice(1);
    url.pathname = '/postgres';
    const admin = new Client({ connectionString: url.href });
    await admin.connect();
    await admin.query(`alter database ${name} allow_connections false`);
    for (let i = 0; i < 5; i++) {
      await admin.query('select pg_terminate_backend(pid) from pg_stat_activity where datname = $1', [name]);
      await pause(150);
    }
    await admin.query(`alter database ${name} allow_connections true`);
    await admin.end();
    for (;;) {
      const progress = await stateOf(app, shotId, id).catch(() => null);
      if (progress && progress.state !== 'queued' && progress.state !== 'running') {
        expect(progress).toMatchObject({ state: 'done', total: 96 });
        break;
      }
      await pause(100);
    }
    expect(Object.keys(await frames(id))).toHaveLength(96);
  });

  // Sooner than a chunk that nobody answers for would be given to somebody else.
  it('but for the sign of life loses no chunk', async () => {
    app = await startTestApp();
    const shotId = await slidingBar(app, LONG);
    const id = await ask(app, shotId, { kind: 'png', firstFrame: 1, lastFrame: 96 });
    await underWay(app, shotId, id, 4);
    const admin = new Client({ connectionString: app.databaseUrl });
    await admin.connect();
    let cutOff = 0;
    for (let i = 0; i < 8; i++) {
      const { rowCount } = await admin.query(
        `select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database()
          and pid <> pg_backend_pid() and pid not in (select pid from pg_locks where locktype = 'advisory')`,
      );
      cutOff += rowCount ?? 0;
      await pause(60);
    }
    await admin.end();
    expect(cutOff).toBeGreaterThan(4);
    expect(await finished(app, shotId, id)).toMatchObject({ state: 'done', total: 96 });
    expect(Object.keys(await frames(id))).toHaveLength(96);
  });
});

describe('faults of what is needed', () => {
  it('a full disk is said, and leaves nothing behind', async () => {
    app = await startTestApp();
    const shotId = await slidingBar(app, TWELVE);
    const asked = { kind: 'png', firstFrame: 1, lastFrame: 12 } as const;
    // The next hand-off is written through a link to a device that is always full.
    for (const kind of ['png', 'ffv1'] as const) {
      const blocker = await ask(app, shotId, { ...asked, kind });
      await finished(app, shotId, blocker);
      const [row] = await app.db.select().from(handoffs).where(eq(handoffs.id, blocker));
      const part = join(app.folder, 'handoffs', `${blocker}.${kind === 'png' ? 'zip' : 'mkv'}.part`);
      symlinkSync('/dev/full', part);
      await app.db
        .update(handoffs)
        .set({ progress: { state: 'queued', total: 12 } })
        .where(eq(handoffs.id, row!.id));
      expect(await finished(app, shotId, blocker)).toEqual({
        state: 'failed',
        reason: expect.stringContaining('The disk is full'),
      });
      expect(existsSync(part)).toBe(false);
    }
  });

  it('art that was deleted while it waited is named', async () => {
    app = await startTestApp({ renders: true });
    const shotId = await slidingBar(app, TWELVE);
    await app.db.delete(art);
    const id = await ask(app, shotId, { kind: 'png', firstFrame: 1, lastFrame: 12 });
    expect(await finished(app, shotId, id)).toMatchObject({
      state: 'failed',
      reason: expect.stringMatching(/The art of “bar” cannot be read: .*missing or damaged/),
    });
    const film = await ask(app, shotId, { kind: 'apng', firstFrame: 1, lastFrame: 12 });
    expect(await finished(app, shotId, film)).toMatchObject({ state: 'failed' });
    await nothingLeft();
  });
});

describe('the queue', () => {
  it('cancels at any point and can be asked again', async () => {
    app = await startTestApp();
    const shotId = await slidingBar(app, LONG);
    const random = seededRandom(5);
    for (const kind of ['png', 'webm', 'ffv1', 'contact-sheet'] as const) {
      const id = await ask(app, shotId, { kind, firstFrame: 1, lastFrame: 96 });
      await pause(random() * 700);
      await fetch(`${app.url}/api/handoffs/${id}/cancel`, { method: 'POST' });
      // A sheet may be done before it can be cancelled.
      expect(['cancelled', 'done']).toContain((await finished(app, shotId, id)).state);
    }
    await nothingLeft();
    const id = await ask(app, shotId, { kind: 'png', firstFrame: 1, lastFrame: 96 });
    expect(await finished(app, shotId, id)).toMatchObject({ state: 'done', total: 96 });
    expect(await app.db.select().from(renderChunks)).toEqual([]);
  });

  it('makes two at once as it makes one after the other', async () => {
    app = await startTestApp();
    const [p, q] = [
      await slidingBar(app, TWELVE),
      await slidingBar(app, { ...TWELVE, widthPx: 120 }, { r: 9, g: 200, b: 90 }),
    ];
    const asked = { kind: 'png', firstFrame: 1, lastFrame: 12 } as const;
    const together = await Promise.all([ask(app, p, asked), ask(app, q, asked)]);
    await Promise.all([finished(app, p, together[0]), finished(app, q, together[1])]);
    const files = await Promise.all(together.map(frames));
    await app.db.delete(renderedFrames);
    for (const [i, shotId] of [p, q].entries()) {
      const id = await ask(app, shotId, asked);
      expect(await finished(app, shotId, id)).toMatchObject({ state: 'done', reused: 0 });
      expect(await frames(id)).toEqual(files[i]);
    }
  });

  it('renders only what has changed: an ease at the end renders the end again', async () => {
    app = await startTestApp();
    const shotId = await slidingBar(app, TWELVE);
    const asked = { kind: 'png', firstFrame: 1, lastFrame: 12 } as const;
    await finished(app, shotId, await ask(app, shotId, asked));
    expect(await finished(app, shotId, await ask(app, shotId, asked))).toMatchObject({ reused: 12 });
    // A key in the middle as it is, and another value at the end: only frames 8 to 12 move otherwise.
    await changeScene(app, shotId, (scene) => {
      const kept = setCamera(scene, { panX: 12 }, { frame: 7, keying: true });
      return setCamera(kept, { panX: 40 }, { frame: 12, keying: true });
    });
    const progress = await finished(app, shotId, await ask(app, shotId, asked));
    if (progress.state !== 'done') throw new Error(JSON.stringify(progress));
    expect(progress.reused).toBeGreaterThanOrEqual(1);
    expect(progress.reused).toBeLessThanOrEqual(7);
    // What only names things is not what pixels are made of.
    await changeScene(app, shotId, (scene) => ({
      ...withPlaneList(
        scene,
        planesOf(scene).map((plane) => ({ ...plane, name: 'renamed' })),
      ),
      markers: { 'at-3': { frame: 3, note: 'look' } },
    }));
    expect(await finished(app, shotId, await ask(app, shotId, asked))).toMatchObject({ reused: 12 });
  });

  it('lets one go before another', async () => {
    app = await startTestApp({ renders: false });
    const shotId = await slidingBar(app, TWELVE);
    const asked = { kind: 'png', firstFrame: 1, lastFrame: 12 } as const;
    const ids: string[] = [];
    for (let i = 0; i < 4; i++) ids.push(await ask(app, shotId, asked));
    const places = async () => Promise.all(ids.map(async (id) => (await handoffOf(app, shotId, id)).place));
    expect(await places()).toEqual([1, 2, 3, 4]);
    const move = (id: string, way: string) =>
      fetch(`${app.url}/api/handoffs/${id}/move`, {
        method: 'POST',
        body: JSON.stringify({ way }),
        headers: { 'Content-Type': 'application/json' },
      });
    await move(ids[3]!, 'sooner');
    await move(ids[0]!, 'later');
    expect(await places()).toEqual([2, 1, 4, 3]);
    const refused = await move(ids[2]!, 'later');
    expect([refused.status, (await refused.json()).detail]).toEqual([400, 'Nothing waits behind it.']);
    for (const id of ids) await fetch(`${app.url}/api/handoffs/${id}/cancel`, { method: 'POST' });
    expect(await places()).toEqual([null, null, null, null]);
  });

  it('gives up frames that were not used for longest, never those in use', async () => {
    app = await startTestApp();
    const png = new Uint8Array(1000);
    const day = 86_400_000;
    const now = Date.now();
    for (const [key, age] of [
      ['old', 3 * day],
      ['older', 5 * day],
      ['newer', day],
      ['now', 0],
    ] as const)
      await app.db.insert(renderedFrames).values({ key, png, bytes: 1000, usedAt: new Date(now - age) });
    const keys = async () =>
      (await app.db.select({ key: renderedFrames.key }).from(renderedFrames)).map(({ key }) => key).sort();
    expect(await pruneFrames(app.db, 2500, now)).toBe(2);
    expect(await keys()).toEqual(['newer', 'now']);
    expect(await pruneFrames(app.db, 0, now)).toBe(1);
    expect(await keys()).toEqual(['now']);
  });

  it('forgets the oldest hand-offs of a shot, never those that wait or run', async () => {
    app = await startTestApp({ renders: false });
    const shotId = await slidingBar(app, TWELVE);
    const [row] = await app.db
      .select()
      .from(handoffs)
      .where(eq(handoffs.id, await ask(app, shotId, { kind: 'png', firstFrame: 1, lastFrame: 2 })));
    const { id: waiting, queueNumber: _number, ...asked } = row!;
    const ended: string[] = [];
    for (let day = 1; day <= 4; day++) {
      const madeAt = new Date(Date.UTC(2020, 0, day));
      const values = { ...asked, madeAt, progress: { state: 'cancelled' as const } };
      ended.push((await app.db.insert(handoffs).values(values).returning({ id: handoffs.id }))[0]!.id);
    }
    await app.db
      .update(handoffs)
      .set({ madeAt: new Date(Date.UTC(2019, 0, 1)) })
      .where(eq(handoffs.id, waiting));
    const dropped = (await dropOldHandoffs(app.db, 2)).map(({ id }) => id);
    expect(dropped.sort()).toEqual(ended.slice(0, 2).sort());
    const left = (await app.db.select({ id: handoffs.id }).from(handoffs)).map(({ id }) => id);
    expect(left.sort()).toEqual([waiting, ...ended.slice(2)].sort());
  });

  it('tells what happens over server-sent events', async () => {
    app = await startTestApp();
    const shotId = await slidingBar(app, TWELVE);
    const abort = new AbortController();
    const stream = await fetch(`${app.url}/api/shots/${shotId}/handoffs/events`, { signal: abort.signal });
    expect(stream.headers.get('content-type')).toContain('text/event-stream');
    const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
    let text = '';
    const id = await ask(app, shotId, { kind: 'png', firstFrame: 1, lastFrame: 12 });
    while (!(text.includes(id) && text.includes('"state":"done"'))) text += (await reader.read()).value ?? '';
    abort.abort();
    expect(text.split('\n\n').filter((event) => event.startsWith('data: ')).length).toBeGreaterThanOrEqual(2);
  });
});
