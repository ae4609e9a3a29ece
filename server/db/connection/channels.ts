import { sql } from 'drizzle-orm';
import type { Queryable } from './queryable.ts';

/** What every server of a database is told at once, by PostgreSQL's NOTIFY: a new revision of a shot, who is in it. */
export const CHANNELS = { revision: 'keen_ridge_revision', presence: 'keen_ridge_presence' } as const;
export type Channel = keyof typeof CHANNELS;

/** At most 8000 bytes. */
export async function sayTo(db: Queryable, channel: Channel, text: string): Promise<void> {
  await db.execute(sql`select pg_notify(${CHANNELS[channel]}, ${text})`);
}
