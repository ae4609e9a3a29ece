import { fileURLToPath } from 'node:url';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { Client, Pool } from 'pg';
import { log } from '../../faults/log.ts';
import journal from '../migrations/meta/_journal.json' with { type: 'json' };
import * as schema from '../schema.ts';
import { upgradeHistories } from '../upgrade-histories.ts';
import type { Database } from './queryable.ts';

/** Any fixed number will do, as long as every process that migrates takes the same. */
const MIGRATION_LOCK = 4_190_331;

const CONNECTIONS = 16;

/** A caller that gets no connection for so long is told that the database does not answer. */
const WAIT_FOR_CONNECTION_MS = 15_000;

/** Does something to the shape of the database while no other process does: the lock goes with the connection. */
export async function alone<T>(url: string, work: (client: Client) => Promise<T>): Promise<T> {
  const client = new Client({ connectionString: url });
  // A lost connection shows in the query that is under way.
  client.on('error', () => undefined);
  await client.connect();
  try {
    await client.query('select pg_advisory_lock($1)', [MIGRATION_LOCK]);
    return await work(client);
  } finally {
    await client.end();
  }
}

export interface OpenDatabase {
  readonly db: Database;
  close(): Promise<void>;
}

/** A newer version of the program has changed the database: this one would not know what it writes. */
export class DatabaseNewer extends Error {
  override readonly name = 'DatabaseNewer';
}

/** How many changes of the database's shape this version of the program knows. */
export const KNOWN_MIGRATIONS = journal.entries.length;

const NEWEST_MIGRATION = Math.max(...journal.entries.map(({ when }) => when));

async function needKnownShape(client: Client): Promise<void> {
  const there = await client.query<{ there: boolean }>(
    "select to_regclass('drizzle.__drizzle_migrations') is not null as there",
  );
  if (!there.rows[0]?.there) return;
  const { rows } = await client.query<{ newest: string | null }>(
    'select max(created_at) as newest from drizzle.__drizzle_migrations',
  );
  if (Number(rows[0]?.newest ?? 0) > NEWEST_MIGRATION)
    throw new DatabaseNewer(
      'The database was written by a newer version of Keen Ridge. Start that version, or restore a backup that was made before; nothing was changed.',
    );
}

/** Connects and migrates; processes that start at once take turns. */
export async function openDatabase(url: string): Promise<OpenDatabase> {
  const pool = new Pool({
    connectionString: url,
    max: CONNECTIONS,
    connectionTimeoutMillis: WAIT_FOR_CONNECTION_MS,
    keepAlive: true,
  });
  const lost = (error: Error) => log.warn(`Lost a database connection: ${error.message}`);
  // The pool hears of idle clients only. One that loses its server inside a transaction tells nobody but its own
  // listeners, and without one the process ends; the query that was under way rejects by itself.
  pool.on('error', lost);
  pool.on('connect', (client) => client.on('error', lost));
  const migrationsFolder = fileURLToPath(new URL('../migrations', import.meta.url));
  await alone(url, async (client) => {
    await needKnownShape(client);
    await migrate(drizzle(client), { migrationsFolder });
    const upgraded = await upgradeHistories(drizzle(client, { schema }));
    if (upgraded.length > 0) log.info(`Brought ${upgraded.length} shots to a newer version of the scene.`);
  });
  const db = drizzle(pool, { schema });
  db.transaction = transactionsOf(pool);
  return { db, close: () => pool.end() };
}

/**
 * Transactions that give their connection back however they end. Drizzle ORM 0.45 keeps one for good whose `begin` is
 * not answered: where the database goes away just then a few times, none is left.
 */
const transactionsOf =
  (pool: Pool): Database['transaction'] =>
  async (work, config) => {
    const client = await pool.connect();
    try {
      return await drizzle(client, { schema }).transaction(work, config);
    } finally {
      client.release();
    }
  };
