import { randomInt } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { Client } from 'pg';
import type { Database } from '../db/database.ts';

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
/** Locks of render workers have this first half, so that nothing else in the database takes one of them. */
const SPACE = 41_904_190;

/**
 * A sign of life: an advisory lock on a connection of its own. The server lets go of it when the process dies, however
 * it dies. A new connection takes a new number, so that what was under way on the old one counts as left.
 */
export class WorkerLock {
  private readonly url: string;
  private client: Client | null = null;
  private connecting: Promise<void> | null = null;
  private number = 0;
  private closed = false;

  constructor(databaseUrl: string) {
    this.url = databaseUrl;
  }

  /** The number of the lock that is held now; waits until there is one. */
  async held(): Promise<number> {
    while (!this.client && !this.closed) {
      // Several may wait for it; one connection is made.
      this.connecting ??= this.connect().finally(() => {
        this.connecting = null;
      });
      await this.connecting.catch(() => pause(300));
    }
    return this.number;
  }

  private async connect(): Promise<void> {
    const client = new Client({ connectionString: this.url, keepAlive: true });
    client.on('error', () => this.drop(client));
    client.on('end', () => this.drop(client));
    await client.connect();
    const number = randomInt(1, 2 ** 31 - 1);
    await client.query('select pg_advisory_lock($1, $2)', [SPACE, number]);
    this.number = number;
    this.client = client;
  }

  private drop(client: Client): void {
    if (this.client === client) this.client = null;
  }

  async close(): Promise<void> {
    this.closed = true;
    const { client } = this;
    this.client = null;
    await client?.end().catch(() => undefined);
  }
}

/** The numbers of the locks of all processes that render and live. */
export async function livingWorkers(db: Pick<Database, 'execute'>): Promise<Set<number>> {
  const { rows } = await db.execute<{ number: number }>(
    sql`select distinct objid::int as number from pg_locks where locktype = 'advisory' and classid = ${SPACE} and objsubid = 2 and granted
        and database = (select oid from pg_database where datname = current_database())`,
  );
  return new Set(rows.map(({ number }) => number));
}
