import type { Person, Role } from '@keen-ridge/core/contract/people';
import { and, eq, isNull, lt, type SQL, sql } from 'drizzle-orm';
import type { Database, Queryable } from '../connection/queryable.ts';
import { members, people, sessions } from '../schema.ts';

/** A session that nobody used for so long is over, days. */
export const SESSION_DAYS = 14;

const IS_FRESH = sql`${sessions.usedAt} > now() - make_interval(days => ${SESSION_DAYS})`;

/** `token`: SHA-256 of what the browser shows. */
export async function addSession(db: Queryable, token: string, personId: string): Promise<void> {
  await db.insert(sessions).values({ token, personId });
  await db.delete(sessions).where(lt(sessions.usedAt, sql`now() - make_interval(days => ${SESSION_DAYS})`));
}

export async function endSession(db: Queryable, token: string): Promise<void> {
  await db.delete(sessions).where(eq(sessions.token, token));
}

/** Who shows a token, and what they are in the production that something belongs to. */
export interface Asking {
  readonly person: Person;
  /** Null where nothing was asked about, or there is no such thing. */
  readonly productionId: string | null;
  /** As a member; administrators need none. */
  readonly role: Role | null;
}

/**
 * Whose session it is, with their role in the production of `about`; null where it is over, or never was. One statement:
 * every request begins with it.
 */
export async function whoAsks(db: Database, token: string, about: SQL | null): Promise<Asking | null> {
  const owner = db
    .$with('owner')
    .as(
      db
        .select({ productionId: sql<string | null>`${about ?? sql`null::uuid`}`.as('of_production') })
        .from(sql`(select) nothing`),
    );
  const [found] = await db
    .with(owner)
    .select({
      id: people.id,
      name: people.name,
      isAdministrator: people.isAdministrator,
      isStale: sql<boolean>`${sessions.usedAt} < now() - interval '1 hour'`,
      productionId: owner.productionId,
      role: members.role,
    })
    .from(sessions)
    .innerJoin(people, eq(people.id, sessions.personId))
    .innerJoin(owner, sql`true`)
    .leftJoin(
      members,
      and(eq(members.personId, people.id), sql`${members.productionId} = ${owner.productionId}`),
    )
    .where(and(eq(sessions.token, token), IS_FRESH, isNull(people.deletedAt)));
  if (!found) return null;
  const { id, name, isAdministrator, isStale, productionId, role } = found;
  // Once an hour is often enough for a span of days, and spares a write with every request.
  if (isStale) await db.update(sessions).set({ usedAt: sql`now()` }).where(eq(sessions.token, token));
  return { person: { id, name, isAdministrator }, productionId, role };
}

/** Whose session it is; null where it is over, or never was. */
export const personOfSession = async (db: Database, token: string): Promise<Person | null> =>
  (await whoAsks(db, token, null))?.person ?? null;
