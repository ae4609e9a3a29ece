import { randomInt } from 'node:crypto';
import { type SQL, sql } from 'drizzle-orm';
import { Client } from 'pg';
import { pause } from './database-gone.ts';
import type { Database } from './queryable.ts';

/**
 * Locks of each kind of process have a first half of their own, so that nothing else in the database takes one of them:
 * a `worker` renders chunks, a `desk` writes the files of hand-offs.
 */
const SPACES = { worker: 41_904_190, desk: 41_904_191 } as const;
export type LockKind = keyof typeof SPACES;

export interface LifeLockOptions {
  /** Build that a worker draws by: told with the lock. */
  readonly engine?: string;
}

/**
 * A sign of life: an advisory lock on a connection of its own. The server lets go of it when the process dies, however
 * it dies. A new connection takes a new number, so that what was under way on the old one counts as left.
 */
export class LifeLock {
  private readonly url: string;
  private readonly kind: LockKind;
  private readonly engine: string | null;
  private client: Client | null = null;
  private connecting: Promise<void> | null = null;
  private number = 0;
  private readonly closing = new AbortController();

  constructor(databaseUrl: string, kind: LockKind, { engine }: LifeLockOptions = {}) {
    this.url = databaseUrl;
    this.kind = kind;
    this.engine = engine ?? null;
  }

  /** The number of the lock that is held now; waits until there is one, or until it is closed. */
  async held(): Promise<number> {
    const { signal } = this.closing;
    while (!this.client && !signal.aborted) {
      // Several may wait for it; one connection is made.
      this.connecting ??= this.connect().finally(() => {
        this.connecting = null;
      });
      await this.connecting.catch(() => pause(300, signal));
    }
    return this.number;
  }

  private async connect(): Promise<void> {
    const client = new Client({
      connectionString: this.url,
      keepAlive: true,
      connectionTimeoutMillis: 5000,
    });
    client.on('error', () => this.drop(client));
    client.on('end', () => this.drop(client));
    await client.connect();
    const number = randomInt(1, 2 ** 31 - 1);
    await client.query('select pg_advisory_lock($1, $2)', [SPACES[this.kind], number]);
    if (this.engine !== null)
      await client.query('insert into render_workers (lock, engine) values ($1, $2)', [number, this.engine]);
    if (this.closing.signal.aborted) {
      await client.end();
      return;
    }
    this.number = number;
    this.client = client;
  }

  private drop(client: Client): void {
    if (this.client === client) this.client = null;
  }

  async close(): Promise<void> {
    this.closing.abort();
    const { client } = this;
    this.client = null;
    // A server that is gone has let go of the lock already.
    await client?.end().catch(() => undefined);
  }
}

/** Query of the numbers of all locks of a kind whose processes live. */
export const livingLocks = (kind: LockKind): SQL =>
  sql`select l.objid::int from pg_locks l where l.locktype = 'advisory' and l.classid = ${SPACES[kind]}
    and l.objsubid = 2 and l.granted and l.database = (select oid from pg_database where datname = current_database())`;

/** The processes that render and live: the numbers of their locks, and the builds that they draw by. */
export async function livingWorkers(db: Pick<Database, 'execute'>): Promise<Map<number, string>> {
  const { rows } = await db.execute<{ lock: number; engine: string | null }>(
    sql`select living.objid as lock, w.engine from (${livingLocks('worker')}) as living
      left join render_workers w on w.lock = living.objid`,
  );
  return new Map(rows.map(({ lock, engine }) => [lock, engine ?? '']));
}

/** Forgets the builds of workers that are gone. */
export async function forgetDeadWorkers(db: Pick<Database, 'execute'>): Promise<void> {
  await db.execute(
    sql`delete from render_workers where lock not in (${livingLocks('worker')}) and made_at < now() - interval '1 minute'`,
  );
}
