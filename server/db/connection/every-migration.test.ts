import { createHash, randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { asVersion5, testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { sql } from 'drizzle-orm';
import { Client } from 'pg';
import { describe, expect, it } from 'vitest';
import { solidPng } from '../../testing/art.ts';
import { freshDatabase } from '../../testing/test-app.ts';
import journal from '../migrations/meta/_journal.json' with { type: 'json' };
import { readSetUp } from '../shots.ts';
import { openDatabase } from './database.ts';

const MIGRATIONS = journal.entries.map(({ tag, when }) => ({
  tag,
  when,
  text: readFileSync(new URL(`../migrations/${tag}.sql`, import.meta.url), 'utf8'),
}));
/** The first that keeps records by their ids; scenes before it are of version 5 and older. */
const RECORDS_BY_ID = MIGRATIONS.findIndex(({ tag }) => tag.startsWith('0006'));

/** A database as a program of long ago left it: with the migrations up to one, as the migrator notes them. */
async function asOf(client: Client, count: number): Promise<void> {
  await client.query('create schema drizzle');
  await client.query(
    'create table drizzle.__drizzle_migrations (id serial primary key, hash text not null, created_at bigint)',
  );
  for (const { text, when } of MIGRATIONS.slice(0, count)) {
    for (const statement of text.split('--> statement-breakpoint')) await client.query(statement);
    await client.query('insert into drizzle.__drizzle_migrations (hash, created_at) values ($1, $2)', [
      createHash('sha256').update(text).digest('hex'),
      when,
    ]);
  }
}

describe('a database of every earlier version, with work in it', () => {
  it.each(MIGRATIONS.map(({ tag }, i) => [tag, i + 1] as const))(
    'is brought up from %s, and what was in it is there',
    async (_tag, count) => {
      const { url, drop } = await freshDatabase();
      const client = new Client({ connectionString: url });
      await client.connect();
      await asOf(client, count);
      const [production, shot] = [randomUUID(), randomUUID()];
      const now = testScene([testPlane({ id: testPlaneId('hill'), name: 'Hill' })]);
      const scene = count > RECORDS_BY_ID ? now : asVersion5(now);
      const png = await solidPng(2, 2, { r: 1, g: 2, b: 3, alpha: 1 });
      const id = createHash('sha256').update(png).digest('hex');
      await client.query('insert into productions (id, name) values ($1, $2)', [production, 'Old']);
      await client.query(
        'insert into shots (id, production_id, name, scene, revision) values ($1, $2, $3, $4, 7)',
        [shot, production, '010', JSON.stringify(scene)],
      );
      await client.query('insert into art (id, facts, png) values ($1, $2, $3)', [
        id,
        '{}',
        Buffer.from(png),
      ]);
      await client.query('insert into ops (op_id, shot_id, revision) values ($1, $2, 7)', [
        randomUUID(),
        shot,
      ]);
      await client.end();

      const { db, close } = await openDatabase(url);
      const setUp = await readSetUp(db, shot);
      expect(setUp).toMatchObject({ name: '010', productionName: 'Old', productionId: production });
      expect(setUp.revision).toBeGreaterThanOrEqual(7);
      expect(setUp.scene.version).toBe(now.version);
      expect(Object.values(setUp.scene.planes).map(({ name }) => name)).toEqual(['Hill']);
      const { rows } = await db.execute<{ n: number; png: Buffer }>(
        sql`select (select count(*)::int from drizzle.__drizzle_migrations) as n, png from art where id = ${id}`,
      );
      expect([rows[0]!.n, Buffer.compare(rows[0]!.png, Buffer.from(png))]).toEqual([MIGRATIONS.length, 0]);
      await close();
      await drop();
    },
  );
});
