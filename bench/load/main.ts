import { randomUUID } from 'node:crypto';
import { setMaxListeners } from 'node:events';
import { readFileSync } from 'node:fs';
import { connect } from 'node:net';
import { shotSchema } from '@keen-ridge/core/contract';
import { createdSchema } from '@keen-ridge/core/contract/wall';
import { addCard } from '@keen-ridge/core/edits/art';
import { differenceBetween } from '@keen-ridge/core/history';
import { planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { Client } from 'pg';
import { Random } from '../../server/testing/mutations/random.ts';
import { ask, pause } from '../faults/asking.ts';
import { House } from '../faults/house.ts';
import { artist, type Times } from './artist.ts';

const ARTISTS = 50;
const ARTISTS_OF_A_SHOT = 5;
/** Windows that only hear of a shot. */
const LISTENERS = 500;
/** Connections that keep the database busy with something else. */
const NOISE = 4;
const SAMPLE_EVERY_MS = 5000;

/** With a quiet database; with a busy one two at most, so that half an hour of memory is not an hour of waiting. */
const QUIET_MINUTES = Number(process.env.KEEN_RIDGE_LOAD_MINUTES ?? 2);
const BUSY_MINUTES = Math.min(2, QUIET_MINUTES);

interface Phase {
  readonly p50: number;
  readonly p95: number;
  readonly p99: number;
  readonly openP95: number;
  readonly importP95: number;
  readonly edits: number;
  readonly faults: number;
  /** MiB at the end, and how much it grew in a minute, by least squares over the second half. */
  readonly memoryMib: number;
  readonly memorySlope: number;
}

const share = (values: readonly number[], part: number): number =>
  [...values].sort((p, q) => p - q)[Math.min(values.length - 1, Math.floor(values.length * part))] ??
  Number.NaN;

/** Resident memory of a process, MiB (proc(5)). */
const residentMib = (pid: number): number =>
  Number(/^VmRSS:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;

function slopeOf(points: readonly (readonly [number, number])[]): number {
  const mean = (i: 0 | 1) => points.reduce((sum, p) => sum + p[i], 0) / points.length;
  const [mx, my] = [mean(0), mean(1)];
  const cross = points.reduce((sum, [x, y]) => sum + (x - mx) * (y - my), 0);
  return cross / points.reduce((sum, [x]) => sum + (x - mx) ** 2, 0);
}

async function newShot(url: string, planes: readonly string[]): Promise<string> {
  const production = createdSchema.parse(
    await ask(url, '/productions', { method: 'POST', json: { name: 'Load' } }),
  ).id;
  const size = { widthPx: 320, heightPx: 180, rate: { num: 24, den: 1 }, lengthFrames: 48 };
  const made = await ask(url, `/productions/${production}/shots`, {
    method: 'POST',
    json: { name: 'S', ...size },
  });
  const { id } = createdSchema.parse(made);
  const { scene, revision } = shotSchema.parse(await ask(url, `/shots/${id}`));
  const paint = { kind: 'solid', colour: '#806040', opacity: 1 } as const;
  const carded = planes.reduce(
    (so: Scene, name, i) => addCard(so, { id: planeIdSchema.parse(name), name, paint, depthSpx: i * 100 }),
    scene,
  );
  const op = { kind: 'edit', action: 'add-planes', subject: '', patch: differenceBetween(scene, carded) };
  const json = { opId: randomUUID(), revision, author: { id: 'load', name: 'Load' }, op };
  await ask(url, `/shots/${id}/ops`, { method: 'POST', json });
  return id;
}

/** Windows that hear of shots, and say nothing: bare connections, which cost this process as little as can be. */
async function listenIdly(url: string, shots: readonly string[], stop: AbortSignal): Promise<number> {
  const { hostname, port } = new URL(url);
  const heard = await Promise.all(
    Array.from({ length: LISTENERS }, (_, i) => {
      const path = `/api/shots/${shots[i % shots.length]}/events?after=1`;
      const socket = connect(Number(port), hostname, () =>
        socket.write(`GET ${path} HTTP/1.1\r\nHost: ${hostname}:${port}\r\n\r\n`),
      );
      socket.on('error', () => undefined);
      stop.addEventListener('abort', () => socket.destroy(), { once: true });
      return new Promise<boolean>((resolve) => {
        socket.once('data', (text) => {
          resolve(String(text).startsWith('HTTP/1.1 200'));
          socket.resume();
        });
        socket.once('close', () => resolve(false));
      });
    }),
  );
  return heard.filter(Boolean).length;
}

/** What another program would do to the same PostgreSQL: short transactions that write and read, without a rest. */
async function noise(databaseUrl: string, goesOn: () => boolean): Promise<void> {
  const client = new Client({ connectionString: databaseUrl });
  await client.connect();
  await client.query('create temp table noise (n int, t text)');
  while (goesOn()) {
    await client.query("insert into noise select n, repeat('x', 100) from generate_series(1, 50) n");
    await client.query('select sum(n), count(distinct t) from noise');
    await client.query('delete from noise where n % 2 = 0 or ctid in (select ctid from noise limit 20)');
  }
  await client.end();
}

async function phase(
  house: House,
  shots: readonly string[],
  { noisy, minutes }: { readonly noisy: boolean; readonly minutes: number },
): Promise<Phase & { lost: string[] }> {
  const times: Times = { edits: [], opens: [], imports: [], faults: [], left: new Map() };
  const until = performance.now() + minutes * 60_000;
  const goesOn = () => performance.now() < until;
  const people = Array.from({ length: ARTISTS }, (_, i) => {
    const shot = shots[Math.floor(i / ARTISTS_OF_A_SHOT)]!;
    const desk = { url: house.url, shot, plane: `plane-${i % ARTISTS_OF_A_SHOT}` };
    return artist(
      { ...desk, plane: desk.plane },
      new Random(i + 1),
      { ...times, left: leftOf(times, shot) },
      goesOn,
    );
  });
  const others = noisy ? Array.from({ length: NOISE }, () => noise(house.databaseUrl, goesOn)) : [];
  const memory: [number, number][] = [];
  while (goesOn()) {
    await pause(SAMPLE_EVERY_MS);
    memory.push([performance.now() / 60_000, residentMib(house.serverPid)]);
  }
  await Promise.all([...people, ...others]);
  const lost: string[] = [];
  for (const shot of shots) {
    const { scene } = shotSchema.parse(await ask(house.url, `/shots/${shot}`));
    for (const [plane, { depthSpx }] of leftOf(times, shot))
      if (planeOf(scene, plane)?.depthSpx !== depthSpx) lost.push(`${plane} of ${shot}`);
  }
  return {
    p50: share(times.edits, 0.5),
    p95: share(times.edits, 0.95),
    p99: share(times.edits, 0.99),
    openP95: share(times.opens, 0.95),
    importP95: share(times.imports, 0.95),
    edits: times.edits.length,
    faults: times.faults.length,
    memoryMib: memory.at(-1)?.[1] ?? Number.NaN,
    memorySlope: slopeOf(memory.slice(Math.floor(memory.length / 2))),
    lost: [...lost, ...times.faults.slice(0, 3)],
  };
}

const lefts = new WeakMap<Times, Map<string, Times['left']>>();
/** What was left in one shot: artists of different shots have planes of the same names. */
function leftOf(times: Times, shot: string): Times['left'] {
  const of = lefts.get(times) ?? new Map<string, Times['left']>();
  lefts.set(times, of);
  const left = of.get(shot) ?? new Map();
  of.set(shot, left);
  return left;
}

/** Fifty artists on one server beside one render worker, with 500 windows that listen; then with a busy database. */
export async function benchLoad(json: boolean): Promise<void> {
  // The worker renders; the server has people to answer.
  const house = new House({ KEEN_RIDGE_RENDER: 'off' });
  const stop = new AbortController();
  setMaxListeners(0, stop.signal);
  try {
    await house.open();
    const planes = Array.from({ length: ARTISTS_OF_A_SHOT }, (_, i) => `plane-${i}`);
    const shots: string[] = [];
    for (let i = 0; i < ARTISTS / ARTISTS_OF_A_SHOT; i++) shots.push(await newShot(house.url, planes));
    const listeners = await listenIdly(house.url, shots, stop.signal);
    const told: Record<string, unknown> = { artists: ARTISTS, listeners };
    for (const [name, minutes] of [
      ['quiet database', QUIET_MINUTES],
      ['busy database', BUSY_MINUTES],
    ] as const) {
      const one = await phase(house, shots, { noisy: name === 'busy database', minutes });
      told[name] = { minutes, ...one };
      if (!json)
        console.log(
          `${name}: ${ARTISTS} artists, ${listeners} listeners, ${minutes} min: ${one.edits} edits acknowledged in ${one.p50.toFixed(0)} ms (95 %: ${one.p95.toFixed(0)}, 99 %: ${one.p99.toFixed(0)}), a shot opened in ${one.openP95.toFixed(0)} ms (95 %), a picture brought in in ${one.importP95.toFixed(0)} ms (95 %); ${one.faults} faults, ${one.lost.length} lost; the server holds ${one.memoryMib.toFixed(0)} MiB, ${one.memorySlope.toFixed(1)} more a minute${one.lost.length > 0 ? `\n  ${one.lost.slice(0, 5).join('\n  ')}` : ''}`,
        );
    }
    if (json) console.log(JSON.stringify(told, null, 2));
  } finally {
    stop.abort();
    await house.close();
  }
}
