import { fileURLToPath } from 'node:url';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { Client, Pool } from 'pg';
import * as schema from '../schema.ts';
import { upgradeHistories } from '../upgrade-histories.ts';
import type { Database } from './queryable.ts';

/** Any fixed number will do, as long as every process that migrates takes the same. */
const MIGRATION_LOCK = 4_190_331;

const CONNECTIONS = 10;

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

/** Connects and migrates; processes that start at once take turns. */
export async function openDatabase(url: string): Promise<OpenDatabase> {
  const pool = new Pool({
    connectionString: url,
    max: CONNECTIONS,
    connectionTimeoutMillis: WAIT_FOR_CONNECTION_MS,
    keepAlive: true,
  });
  const lost = (error: Error) => console.error(`Lost a database connection: ${error.message}`);
  // The pool hears of idle clients only. One that loses its server inside a transaction tells nobody but its own
  // listeners, and without one the process ends; the query that was under way rejects by itself.
  pool.on('error', lost);
  pool.on('connect', (client) => client.on('error', lost));
  const migrationsFolder = fileURLToPath(new URL('../migrations', import.meta.url));
  await alone(url, async (client) => {
    await migrate(drizzle(client), { migrationsFolder });
    const upgraded = await upgradeHistories(drizzle(client, { schema }));
    if (upgraded.length > 0) console.log(`Brought ${upgraded.length} shots to a newer version of the scene.`);
  });
  return { db: drizzle(pool, { schema }), close: () => pool.end() };
}
