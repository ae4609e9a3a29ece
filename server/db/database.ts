import { fileURLToPath } from 'node:url';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { Pool } from 'pg';
import * as schema from './schema.ts';

export type Database = NodePgDatabase<typeof schema>;
/** A database or a transaction in it: whatever queries can run on. */
export type Queryable = Pick<Database, 'select' | 'insert' | 'update' | 'delete' | 'execute'>;

/** Any fixed number will do, as long as every process that migrates takes the same. */
const MIGRATION_LOCK = 4_190_331;

export interface OpenDatabase {
  readonly db: Database;
  close(): Promise<void>;
}

/** Connects and migrates. Two processes that start at once take turns: the lock is held by one client. */
export async function openDatabase(url: string): Promise<OpenDatabase> {
  const pool = new Pool({ connectionString: url, max: 10 });
  // A client that loses its server while idle must not end the process: the next query reconnects.
  pool.on('error', (error) => console.error(`Lost a database connection: ${error.message}`));
  const client = await pool.connect();
  try {
    await client.query('select pg_advisory_lock($1)', [MIGRATION_LOCK]);
    await migrate(drizzle(client), {
      migrationsFolder: fileURLToPath(new URL('./migrations', import.meta.url)),
    });
  } finally {
    await client.query('select pg_advisory_unlock($1)', [MIGRATION_LOCK]);
    client.release();
  }
  return { db: drizzle(pool, { schema }), close: () => pool.end() };
}
