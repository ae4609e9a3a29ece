import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { revisionsSchema, shotSchema } from '@keen-ridge/core/contract';
import { type Revision, sceneBefore } from '@keen-ridge/core/history';
import { planeOf } from '@keen-ridge/core/scene/records';
import { unzipSync } from 'fflate';
import { Client } from 'pg';
import sharp from 'sharp';
import { ask, pause, untilAnswered } from './asking.ts';
import type { House } from './house.ts';
import { type Acknowledged, FRAMES, handoffsOf } from './people.ts';

/** Older ones are given up: of a shot the newest 30 are kept, those among them whose asking was not answered. */
const MOST_LOOKED_AT = 20;

/** Everything that was lost, half-way or left behind, in words; empty where all is well. */
export async function faultsOf(house: House, shot: string, kept: Acknowledged): Promise<string[]> {
  const faults: string[] = [];
  const ended = await allEnded(house, shot);
  if (!ended) faults.push('hand-offs did not all end within two minutes');
  faults.push(...(await editFaults(house, shot, kept)));
  faults.push(...(await artFaults(house, kept)));
  faults.push(...(await handoffFaults(house, shot, kept)));
  faults.push(...(await leftBehind(house)));
  return faults;
}

async function allEnded(house: House, shot: string): Promise<boolean> {
  const until = Date.now() + 120_000;
  while (Date.now() < until) {
    const list = await untilAnswered(
      () => handoffsOf(house, shot),
      () => true,
    );
    if (list?.every(({ progress }) => progress.state !== 'queued' && progress.state !== 'running'))
      return true;
    await pause(500);
  }
  return false;
}

/** Each acknowledged edit once, in its author's order, revisions without a gap, and a scene that is where they lead. */
async function editFaults(house: House, shot: string, kept: Acknowledged): Promise<string[]> {
  const faults: string[] = [];
  const now = shotSchema.parse(await ask(house.url, `/shots/${shot}`));
  const revisions: Revision[] = [];
  for (let after = 0; after < now.revision; ) {
    const part = revisionsSchema.parse(
      await ask(house.url, `/shots/${shot}/revisions?after=${Math.max(1, after)}`),
    ).revisions;
    if (part.length === 0) break;
    revisions.push(...part);
    after = part.at(-1)!.revision;
  }
  revisions.forEach(({ revision }, i) => {
    if (revision !== i + 2) faults.push(`revision ${i + 2} is ${revision}`);
  });
  if (!sceneBefore(now.scene, revisions)) faults.push('the history does not lead to the scene');
  for (const [name, edits] of kept.edits) {
    const found = revisions.filter(({ entry }) => entry.author.id === name).map(({ opId }) => opId);
    const places = edits.map(({ opId }) => found.indexOf(opId));
    const lost = places.filter((place) => place < 0).length;
    if (lost > 0) faults.push(`${lost} edits of ${name} were lost`);
    if (new Set(found).size !== found.length) faults.push(`an edit of ${name} was done twice`);
    if (places.some((place, i) => i > 0 && place <= places[i - 1]!))
      faults.push(`edits of ${name} changed places`);
    const last = edits.at(-1)?.name;
    const there = planeOf(now.scene, name)?.name;
    if (last !== undefined && there !== last) faults.push(`${name} left “${last}”, and “${there}” is there`);
  }
  return faults;
}

async function artFaults(house: House, kept: Acknowledged): Promise<string[]> {
  const faults: string[] = [];
  for (const [id, colour] of kept.art) {
    const response = await fetch(`${house.url}/api/art/${id}/pixels`);
    const pixels = new Uint8Array(await response.arrayBuffer());
    const { r, g, b } = JSON.parse(colour) as { r: number; g: number; b: number };
    const right =
      response.ok && pixels.length === 64 * 48 * 4 && pixels[0] === r && pixels[1] === g && pixels[2] === b;
    if (!right) faults.push(`art ${id.slice(0, 8)} is not what was brought in (${response.status})`);
    const levels = await fetch(`${house.url}/api/art/${id}/levels`);
    if (!levels.ok) faults.push(`art ${id.slice(0, 8)} has no levels (${levels.status})`);
  }
  return faults;
}

/** Done means a whole zip of whole pictures; anything else has said why. */
async function handoffFaults(house: House, shot: string, kept: Acknowledged): Promise<string[]> {
  const faults: string[] = [];
  const list = new Map((await handoffsOf(house, shot)).map((one) => [one.id, one]));
  for (const id of kept.handoffs.slice(-MOST_LOOKED_AT)) {
    const progress = list.get(id)?.progress;
    if (!progress) faults.push(`hand-off ${id} is gone`);
    if (progress?.state === 'failed' && progress.reason.length < 10)
      faults.push(`hand-off ${id} failed without a word`);
    if (progress?.state !== 'done') continue;
    const bytes = new Uint8Array(await (await fetch(`${house.url}/api/handoffs/${id}/file`)).arrayBuffer());
    try {
      const pictures = Object.entries(unzipSync(bytes)).filter(([name]) => name.endsWith('.png'));
      if (pictures.length !== FRAMES) faults.push(`hand-off ${id} has ${pictures.length} pictures`);
      for (const [name, png] of pictures) {
        const { width, height } = await sharp(png)
          .raw()
          .toBuffer({ resolveWithObject: true })
          .then(({ info }) => info);
        if (width !== 160 || height !== 90) faults.push(`${name} of hand-off ${id} is ${width} × ${height}`);
      }
    } catch (error) {
      faults.push(`hand-off ${id} is damaged: ${error}`);
    }
  }
  return faults;
}

/** Rows and files that belong to nothing. */
async function leftBehind(house: House): Promise<string[]> {
  const client = new Client({ connectionString: house.databaseUrl });
  await client.connect();
  const count = async (sql: string) => Number((await client.query(sql)).rows[0].n);
  try {
    const faults: string[] = [];
    const rows = {
      'chunks of hand-offs that have ended': `select count(*) as n from render_chunks c join handoffs h on h.id = c.handoff_id
        where h.progress->>'state' not in ('queued', 'running')`,
      'ops without their edit': `select count(*) as n from ops o left join edits e on e.id = o.edit_id where o.edit_id is not null and e.id is null`,
      'art whose name is not its content': `select count(*) as n from art where id <> encode(sha256(png), 'hex')`,
    };
    for (const [what, sql] of Object.entries(rows)) {
      const found = await count(sql);
      if (found > 0) faults.push(`${found} ${what}`);
    }
    for (const folder of ['staging', 'handoffs']) {
      const path = join(house.data, folder);
      const left = existsSync(path)
        ? readdirSync(path).filter((name) => folder === 'staging' || name.includes('.part'))
        : [];
      if (left.length > 0) faults.push(`in ${folder}: ${left.slice(0, 3).join(', ')}`);
    }
    const stored = new Set((await client.query('select id from art')).rows.map(({ id }) => id));
    const levels = join(house.data, 'levels');
    const torn = existsSync(levels) ? readdirSync(levels).filter((name) => !name.endsWith('.levels')) : [];
    if (torn.length > 0) faults.push(`torn levels: ${torn.slice(0, 3).join(', ')}`);
    if (stored.size === 0) faults.push('no art was stored at all');
    return faults;
  } finally {
    await client.end();
  }
}
