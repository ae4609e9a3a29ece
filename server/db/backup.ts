import { handoffRequestSchema } from '@keen-ridge/core/contract';
import { eq, sql } from 'drizzle-orm';
import { Client } from 'pg';
import type { Database, Queryable } from './connection/queryable.ts';
import type { StoredHandoff } from './handoffs.ts';
import { art, handoffs, shots, sounds, takes } from './schema.ts';

/** A database as it was at one moment. */
export interface Moment {
  /** By this name other connections see the same. */
  readonly snapshot: string;
  readonly migrations: number;
  /** Rows by table. */
  readonly rows: Readonly<Record<string, number>>;
  readonly finished: readonly Pick<StoredHandoff, 'id' | 'request' | 'deskFolder'>[];
}

const isDone = sql`${handoffs.progress}->>'state' = 'done'`;

export async function countRows(db: Queryable): Promise<Record<string, number>> {
  const { rows: tables } = await db.execute<{ name: string }>(
    sql`select table_name as name from information_schema.tables where table_schema = 'public' order by 1`,
  );
  const counts: Record<string, number> = {};
  for (const { name } of tables) {
    const { rows } = await db.execute<{ n: number }>(
      sql`select count(*)::int as n from ${sql.identifier(name)}`,
    );
    counts[name] = rows[0]!.n;
  }
  return counts;
}

/** Does `work` while a snapshot of the database is held open. */
export const atOneMoment = <T>(db: Database, work: (moment: Moment) => Promise<T>): Promise<T> =>
  db.transaction(
    async (tx) => {
      const { rows: named } = await tx.execute<{ snapshot: string }>(
        sql`select pg_export_snapshot() as snapshot`,
      );
      const { rows: applied } = await tx.execute<{ n: number }>(
        sql`select count(*)::int as n from drizzle.__drizzle_migrations`,
      );
      const finished = await tx
        .select({ id: handoffs.id, request: handoffs.request, deskFolder: handoffs.deskFolder })
        .from(handoffs)
        .where(isDone);
      return work({
        snapshot: named[0]!.snapshot,
        migrations: applied[0]!.n,
        rows: await countRows(tx),
        finished: finished.map((row) => ({ ...row, request: handoffRequestSchema.parse(row.request) })),
      });
    },
    { isolationLevel: 'repeatable read', accessMode: 'read only' },
  );

/** Whether a database has no tables yet. */
export async function isEmptyDatabase(url: string): Promise<boolean> {
  const client = new Client({ connectionString: url });
  await client.connect();
  try {
    const { rows } = await client.query<{ n: number }>(
      "select count(*)::int as n from information_schema.tables where table_schema not in ('pg_catalog', 'information_schema')",
    );
    return rows[0]!.n === 0;
  } finally {
    await client.end();
  }
}

/** Finished hand-offs lie in another folder from now on; nobody writes the others any more. */
export async function moveFinished(db: Database, folder: string): Promise<void> {
  await db.update(handoffs).set({ deskFolder: folder }).where(isDone);
  await db.update(handoffs).set({ deskFolder: null, deskLock: null }).where(sql`not (${isDone})`);
}

/** Every set-up that is stored, one after another, with what it is of. */
export async function* everySetUp(db: Database): AsyncGenerator<{ of: string; scene: unknown }> {
  for (const [what, table] of [
    ['shot', shots],
    ['take', takes],
    ['hand-off', handoffs],
  ] as const) {
    const ids = await db.select({ id: table.id }).from(table);
    for (const { id } of ids) {
      const [row] = await db.select({ scene: table.scene }).from(table).where(eq(table.id, id));
      if (row) yield { of: `${what} ${id}`, scene: row.scene };
    }
  }
}

/** Everything that is named by the SHA-256 of its bytes, one after another. */
export async function* everyNamed(db: Database): AsyncGenerator<{ id: string; bytes: Uint8Array }> {
  for (const { id } of await db.select({ id: art.id }).from(art)) {
    const [row] = await db.select({ bytes: art.png }).from(art).where(eq(art.id, id));
    if (row) yield { id, bytes: row.bytes };
  }
  for (const { id } of await db.select({ id: sounds.id }).from(sounds)) {
    const [row] = await db.select({ bytes: sounds.bytes }).from(sounds).where(eq(sounds.id, id));
    if (row) yield { id, bytes: row.bytes };
  }
}
