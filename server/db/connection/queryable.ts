import type { NodePgDatabase } from 'drizzle-orm/node-postgres';
import type * as schema from '../schema.ts';

export type Database = NodePgDatabase<typeof schema>;

/** A database or a transaction in it: whatever queries can run on. */
export type Queryable = Pick<Database, 'select' | 'insert' | 'update' | 'delete' | 'execute'>;
