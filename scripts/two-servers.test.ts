import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type HandoffAsked, handoffListSchema, shotSchema } from '@keen-ridge/core/contract';
import { createdSchema } from '@keen-ridge/core/contract/wall';
import { addCard } from '@keen-ridge/core/edits/art';
import { setCamera } from '@keen-ridge/core/edits/keys';
import { differenceBetween, NOBODY } from '@keen-ridge/core/history';
import { planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
// @ts-expect-error: the scripts that run before anything is installed are plain JavaScript.
import { startCluster } from './lib/cluster.mjs';

const SCRIPTS = fileURLToPath(new URL('.', import.meta.url));
const FRAMES = 60;
const FILMS = ['mp4', 'webm', 'ffv1', 'gif', 'apng', 'ffv1', 'mp4', 'webm', 'gif', 'ffv1'] as const;

interface Cluster {
  readonly url: string;
  readonly port: number;
  stop(): void;
}

let folder: string;
let cluster: Cluster;
const children: ChildProcess[] = [];

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'keen-ridge-two-'));
  // As root PostgreSQL runs as another user, who must be able to get there.
  chmodSync(folder, 0o755);
  cluster = await startCluster(folder);
});
afterAll(() => {
  for (const child of children) child.kill('SIGKILL');
  cluster.stop();
  rmSync(folder, { recursive: true, force: true });
});

/** Starts a script of the program on the shared database; resolves with what it said when it is ready. */
function run(script: string, data: string, ready: RegExp, args: readonly string[] = []) {
  const { PORT: _, ...env } = process.env;
  const child = spawn(process.execPath, [join(SCRIPTS, script), ...args], {
    env: {
      ...env,
      DATABASE_URL: cluster.url,
      KEEN_RIDGE_DATA: join(folder, data),
      KEEN_RIDGE_DEMO: 'off',
      PORT: '0',
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  children.push(child);
  let said = '';
  return new Promise<{ child: ChildProcess; said: string }>((resolve, reject) => {
    const hear = (text: Buffer) => {
      said += String(text);
      if (ready.test(said)) resolve({ child, said });
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.on('exit', (code) => reject(new Error(`${script} ended with ${code}:\n${said}`)));
  });
}

const serve = async (data: string) => {
  const { child, said } = await run('start.mjs', data, /is ready at (\S+)/);
  return { child, url: /is ready at (\S+)/.exec(said)?.[1] ?? '' };
};
const work = (data: string) => run('worker.mjs', data, /Rendering on/, ['--threads', '1']);

async function ask(url: string, path: string, body?: unknown): Promise<unknown> {
  const response = await fetch(`${url}/api${path}`, {
    signal: AbortSignal.timeout(30_000),
    ...(body === undefined
      ? {}
      : { method: 'POST', body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
  });
  if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`);
  return response.json();
}

/** A card with a slow gradient that a pan slides by, so that no two frames are alike. */
async function shotOn(url: string): Promise<string> {
  const production = createdSchema.parse(await ask(url, '/productions', { name: 'P' })).id;
  const size = { widthPx: 320, heightPx: 180, rate: { num: 24, den: 1 }, lengthFrames: FRAMES };
  const { id } = createdSchema.parse(
    await ask(url, `/productions/${production}/shots`, { name: 'S', ...size }),
  );
  const { scene, revision } = shotSchema.parse(await ask(url, `/shots/${id}`));
  const stops = [
    { at: 0, colour: '#102040', opacity: 1 },
    { at: 1, colour: '#f0d0a0', opacity: 1 },
  ];
  const paint = { kind: 'linear', angleDeg: 90, space: 'srgb', stops } as const;
  const carded: Scene = addCard(scene, { id: planeIdSchema.parse('card'), name: 'Card', paint, depthSpx: 0 });
  const from = setCamera(carded, { panX: 0 }, { frame: 1, keying: true });
  const moved = setCamera(from, { panX: 120 }, { frame: FRAMES, keying: true });
  const patch = differenceBetween(scene, moved);
  const op = { kind: 'edit', action: 'set-length', subject: 'Card', patch };
  await ask(url, `/shots/${id}/ops`, { opId: randomUUID(), revision, author: NOBODY, op });
  return id;
}

/** Frames of a film, decoded one by one. */
function framesOf(path: string): number {
  const args =
    '-v error -count_frames -select_streams v:0 -show_entries stream=nb_read_frames -of csv=p=0'.split(' ');
  return Number.parseInt(spawnSync('ffprobe', [...args, path], { encoding: 'utf8' }).stdout, 10);
}

describe('two servers and two workers on one database', () => {
  it('hand off ten films, though one of each is killed and the database goes for a while', {
    timeout: 300_000,
  }, async () => {
    const [first, second] = await Promise.all([serve('one'), serve('two')]);
    const [worker] = await Promise.all([work('one'), work('two')]);
    const shot = await shotOn(first.url);
    for (const [i, kind] of FILMS.entries()) {
      const asked: HandoffAsked = { kind, firstFrame: 1, lastFrame: FRAMES };
      await ask(i % 2 === 0 ? first.url : second.url, `/shots/${shot}/handoffs`, asked);
    }
    const list = async () => {
      const answer = await ask(second.url, `/shots/${shot}/handoffs`).catch(() => null);
      return answer ? handoffListSchema.parse(answer).handoffs : null;
    };
    const done = (handoffs: Awaited<ReturnType<typeof list>>) =>
      handoffs?.filter(({ progress }) => progress.state === 'done').length ?? -1;
    await expect.poll(async () => done(await list()), { timeout: 120_000 }).toBeGreaterThanOrEqual(1);
    worker.child.kill('SIGKILL');
    first.child.kill('SIGKILL');
    await expect.poll(async () => done(await list()), { timeout: 120_000 }).toBeGreaterThanOrEqual(4);
    cluster.stop();
    await new Promise((resolve) => setTimeout(resolve, 2000));
    expect(second.child.exitCode).toBeNull();
    cluster = await startCluster(folder, { port: cluster.port });
    await expect.poll(async () => done(await list()), { timeout: 200_000 }).toBe(FILMS.length);
    const handoffs = (await list()) ?? [];
    expect(handoffs.length).toBe(FILMS.length);
    for (const { id, progress, request } of handoffs) {
      if (progress.state !== 'done') throw new Error(JSON.stringify(progress));
      const response = await fetch(`${second.url}/api/handoffs/${id}/file`);
      expect(response.status).toBe(200);
      const path = join(folder, progress.fileName);
      writeFileSync(path, Buffer.from(await response.arrayBuffer()));
      expect([request?.kind, framesOf(path)]).toEqual([request?.kind, FRAMES]);
    }
  });
});
