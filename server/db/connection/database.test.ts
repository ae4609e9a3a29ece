import { sql } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { freshDatabase } from '../../testing/test-app.ts';
import { openDatabase } from './database.ts';

describe('opening the database', () => {
  it('migrates once when several processes start together', async () => {
    const { url, drop } = await freshDatabase();
    const opened = await Promise.all([1, 2, 3, 4].map(() => openDatabase(url)));
    const [first] = opened;
    const applied = await first!.db.execute(sql`select count(*)::int as n from drizzle.__drizzle_migrations`);
    const tables = await first!.db.execute(
      sql`select table_name from information_schema.tables where table_schema = 'public' order by 1`,
    );
    expect(applied.rows).toEqual([{ n: 13 }]);
    expect(tables.rows.map((row) => row.table_name)).toEqual([
      'art',
      'edits',
      'facts',
      'handoffs',
      'kept_eases',
      'kept_looks',
      'members',
      'ops',
      'people',
      'productions',
      'render_chunks',
      'render_workers',
      'rendered_frames',
      'sessions',
      'sets',
      'shelf_pieces',
      'shots',
      'sounds',
      'takes',
    ]);
    for (const { close } of opened) await close();
    const again = await openDatabase(url);
    await again.close();
    await drop();
  });

  it('has every connection back, those too whose transaction did not even begin', async () => {
    const { url, drop } = await freshDatabase();
    const { db, close } = await openDatabase(url);
    const neverBegun = { isolationLevel: 'none' as never };
    for (let i = 0; i < 20; i++)
      await expect(db.transaction(async () => 'begun', neverBegun)).rejects.toThrow(/begin/);
    expect(await db.transaction(async (tx) => (await tx.execute(sql`select 1 as n`)).rows)).toEqual([
      { n: 1 },
    ]);
    const refused = db.transaction(async () => Promise.reject(new Error('not so')));
    await expect(refused).rejects.toThrow('not so');
    await close();
    await drop();
  });
});
