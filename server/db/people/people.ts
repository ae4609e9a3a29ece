import type { Member, Person, Role } from '@keen-ridge/core/contract/people';
import { and, asc, count, eq, isNull, sql } from 'drizzle-orm';
import { notFound, ProblemError } from '../../faults/problems.ts';
import type { Database, Queryable } from '../connection/queryable.ts';
import { members, people, sessions } from '../schema.ts';
import { needProduction } from '../wall.ts';

/** Names are told apart without regard to capitals and to how their letters are put together. */
export const keyOf = (name: string): string => name.trim().normalize('NFKC').toLowerCase();

const isThere = isNull(people.deletedAt);
const PERSON = { id: people.id, name: people.name, isAdministrator: people.isAdministrator };

/** A person by name, with the hash of their password; null where there is none. */
export async function findPerson(
  db: Queryable,
  name: string,
): Promise<(Person & { readonly password: string }) | null> {
  const [found] = await db
    .select({ ...PERSON, password: people.password })
    .from(people)
    .where(and(eq(people.key, keyOf(name)), isThere));
  return found ?? null;
}

export async function readPerson(db: Queryable, id: string): Promise<Person & { readonly password: string }> {
  const [found] = await db
    .select({ ...PERSON, password: people.password })
    .from(people)
    .where(and(eq(people.id, id), isThere));
  if (!found) throw notFound('This person');
  return found;
}

export const readPeople = (db: Database): Promise<Person[]> =>
  db.select(PERSON).from(people).where(isThere).orderBy(asc(people.key));

/** Rejects with ProblemError where the name is taken. */
export async function addPerson(
  db: Database,
  person: { readonly name: string; readonly password: string; readonly isAdministrator: boolean },
): Promise<Person> {
  const [made] = await db
    .insert(people)
    .values({ ...person, name: person.name.trim(), key: keyOf(person.name) })
    .onConflictDoNothing()
    .returning(PERSON);
  if (!made) throw new ProblemError('bad-request', `There is somebody called “${person.name}” already.`);
  return made;
}

/** One administrator at least is left: without one nobody could be let in. */
async function needAnother(tx: Queryable, id: string): Promise<void> {
  // Two who give it up at the same time take turns.
  await tx.select({ id: people.id }).from(people).where(eq(people.isAdministrator, true)).for('update');
  const [left] = await tx
    .select({ others: count() })
    .from(people)
    .where(and(eq(people.isAdministrator, true), isThere, sql`${people.id} <> ${id}`));
  if ((left?.others ?? 0) === 0)
    throw new ProblemError('bad-request', 'They are the last administrator: make another one first.');
}

/** A new password ends all sessions of theirs but `exceptToken`. */
export const changePerson = (
  db: Database,
  id: string,
  change: { readonly password?: string | undefined; readonly isAdministrator?: boolean | undefined },
  exceptToken = '',
): Promise<void> =>
  db.transaction(async (tx) => {
    if (change.isAdministrator === false) await needAnother(tx, id);
    const set = Object.fromEntries(Object.entries(change).filter(([, value]) => value !== undefined));
    if (Object.keys(set).length === 0) return;
    const changed = await tx
      .update(people)
      .set(set)
      .where(and(eq(people.id, id), isThere))
      .returning(PERSON);
    if (changed.length === 0) throw notFound('This person');
    if (change.password !== undefined)
      await tx
        .delete(sessions)
        .where(and(eq(sessions.personId, id), sql`${sessions.token} <> ${exceptToken}`));
  });

/** Puts a person away: they are signed out everywhere and have no role any more; what they did keeps their name. */
export const removePerson = (db: Database, id: string): Promise<void> =>
  db.transaction(async (tx) => {
    const { isAdministrator } = await readPerson(tx, id);
    if (isAdministrator) await needAnother(tx, id);
    await tx.update(people).set({ deletedAt: sql`now()`, isAdministrator: false }).where(eq(people.id, id));
    await tx.delete(sessions).where(eq(sessions.personId, id));
    await tx.delete(members).where(eq(members.personId, id));
  });

export const readMembers = (db: Database, productionId: string): Promise<Member[]> =>
  db
    .select({ id: people.id, name: people.name, role: members.role })
    .from(members)
    .innerJoin(people, eq(people.id, members.personId))
    .where(and(eq(members.productionId, productionId), isThere))
    .orderBy(asc(people.key));

export async function setMember(
  db: Queryable,
  productionId: string,
  personId: string,
  role: Role,
): Promise<void> {
  await needProduction(db, productionId);
  await db
    .insert(members)
    .values({ productionId, personId, role })
    .onConflictDoUpdate({ target: [members.productionId, members.personId], set: { role } });
}

export async function changeMember(
  db: Queryable,
  productionId: string,
  personId: string,
  role: Role | null,
): Promise<void> {
  const mine = and(eq(members.productionId, productionId), eq(members.personId, personId));
  const changed =
    role === null
      ? await db.delete(members).where(mine).returning({ id: members.personId })
      : await db.update(members).set({ role }).where(mine).returning({ id: members.personId });
  if (changed.length === 0) throw notFound('This person');
}
