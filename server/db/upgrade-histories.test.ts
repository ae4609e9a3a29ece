import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { readScene } from '@keen-ridge/core/staging/check';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { Client } from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { callsOf } from '../testing/calls.ts';
import { freshDatabase, startTestApp, type TestApp } from '../testing/test-app.ts';

const MIGRATIONS = fileURLToPath(new URL('./migrations', import.meta.url));
/** Migrations that a database of scene version 5 had. */
const OLD_MIGRATIONS = 6;

interface OldEdit {
  readonly action: string;
  readonly subject: string;
  readonly patch: object;
  readonly inverse: object;
}
const stored: { scene: object; first: object; last: object; done: OldEdit[]; undone: OldEdit[] } = JSON.parse(
  readFileSync(new URL('../../core/testing/stored/version-5.json', import.meta.url), 'utf8'),
);

/** A database as version 5 left it: a shot with its history, another one that cannot be read, and one that is deleted. */
async function oldDatabase(url: string): Promise<{ shot: string; broken: string; deleted: string }> {
  const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-migrations-'));
  const client = new Client({ connectionString: url });
  await client.connect();
  try {
    cpSync(MIGRATIONS, folder, { recursive: true });
    const journal = join(folder, 'meta/_journal.json');
    const whole = JSON.parse(readFileSync(journal, 'utf8'));
    writeFileSync(journal, JSON.stringify({ ...whole, entries: whole.entries.slice(0, OLD_MIGRATIONS) }));
    await migrate(drizzle(client), { migrationsFolder: folder });
    const id = async (sql: string, values: unknown[]) =>
      (await client.query(sql, values)).rows[0].id as string;
    const production = await id(`insert into productions (name) values ('P') returning id`, []);
    const newShot = (scene: object, deleted: boolean) =>
      id(
        `insert into shots (production_id, name, scene, revision, deleted_at) values ($1, 'S', $2, 40, $3) returning id`,
        [production, scene, deleted ? new Date() : null],
      );
    const log = async (shot: string) => {
      const rows = [
        ...stored.done.map((e) => [e, 'done'] as const),
        ...stored.undone.map((e) => [e, 'undone'] as const),
      ];
      for (const [i, [{ action, subject, patch, inverse }, state]] of rows.entries())
        await client.query(
          `insert into edits (id, shot_id, seq, state, action, subject, patch, inverse)
           values (gen_random_uuid(), $1, $2, $3, $4, $5, $6, $7)`,
          [shot, i + 1, state, action, subject, JSON.stringify(patch), JSON.stringify(inverse)],
        );
    };
    const shot = await newShot(stored.scene, false);
    const deleted = await newShot(stored.scene, true);
    for (const one of [shot, deleted]) await log(one);
    return { shot, broken: await newShot({ version: 5, planes: [] }, false), deleted };
  } finally {
    await client.end();
    rmSync(folder, { recursive: true });
  }
}

const seen = (scene: Scene) => ({ ...scene, order: planesOf(scene).map(({ id }) => id) });
const read = (data: object): Scene => {
  const scene = readScene(data);
  if (!scene.ok) throw new Error(JSON.stringify(scene.error));
  return scene.value;
};

describe('a database of version 5', () => {
  let [database, app] = [{} as Awaited<ReturnType<typeof freshDatabase>>, {} as TestApp];
  let ids = {} as Awaited<ReturnType<typeof oldDatabase>>;
  beforeAll(async () => {
    database = await freshDatabase();
    ids = await oldDatabase(database.url);
    app = await startTestApp({ databaseUrl: database.url });
  });
  afterAll(async () => {
    await app.close();
    await database.drop();
  });
  const { call, send, shotAt } = callsOf(() => app.url);

  it('opens as it was, and everything that was done is still undone and redone by anybody', async () => {
    for (const id of [ids.shot, ids.deleted]) {
      await call('POST', `/api/shots/${id}/restore`);
      const shot = await shotAt(id);
      expect(shot.scene).toEqual(read(stored.scene));
      expect([shot.undo.length, shot.redo.length]).toEqual([stored.done.length, stored.undone.length]);
      expect(shot.undo.map(({ action }) => action)).toEqual(stored.done.map(({ action }) => action));
      let revision = 40;
      for (const kind of [...Array(stored.done.length).fill('undo'), 'redo'] as const) {
        const { undo, redo } = await shotAt(id);
        const edit = (kind === 'undo' ? undo : redo).at(-1)!.id;
        expect((await send(id, revision++, { kind, edit })).status).toBe(200);
      }
      const { undo } = await shotAt(id);
      expect(undo.map(({ subject }) => subject)).toEqual([stored.done[0]!.subject]);
      await send(id, revision++, { kind: 'undo', edit: undo[0]!.id });
      expect(seen((await shotAt(id)).scene)).toEqual(seen(read(stored.first)));
      for (;;) {
        const { redo } = await shotAt(id);
        if (redo.length === 0) break;
        expect((await send(id, revision++, { kind: 'redo', edit: redo.at(-1)!.id })).status).toBe(200);
      }
      expect(seen((await shotAt(id)).scene)).toEqual(seen(read(stored.last)));
    }
  });

  it('keeps what cannot be read as it is, and the wall shows the rest', async () => {
    expect((await call('GET', `/api/shots/${ids.broken}`)).status).toBe(500);
    const wall = await call('GET', '/api/wall');
    expect(wall.status).toBe(200);
    expect(JSON.stringify(wall.json)).toContain(`"planes":4`);
  });
});
