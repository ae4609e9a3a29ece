import type { Person } from '@keen-ridge/core/contract/people';
import type { Queryable } from '../db/connection/queryable.ts';
import { setMember } from '../db/people/people.ts';
import { rolesOf } from '../db/people/whose.ts';

/** Whether somebody may look at a production: all of them, where the server knows nobody. */
export async function seenBy(
  db: Queryable,
  person: Person | null,
): Promise<(productionId: string) => boolean> {
  if (!person || person.isAdministrator) return () => true;
  const roles = await rolesOf(db, person.id);
  return (productionId) => roles.has(productionId);
}

/** Who makes a production runs it. */
export async function makerRuns(db: Queryable, person: Person | null, productionId: string): Promise<void> {
  if (person) await setMember(db, productionId, person.id, 'run');
}
