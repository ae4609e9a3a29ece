import { newPersonSchema, PASSWORD_LENGTH, personSchema } from '@keen-ridge/core/contract/people';
import { firstFault } from '@keen-ridge/core/scene';
import type { Database } from '../../db/connection/queryable.ts';
import { addPerson, changePerson, findPerson, readPeople, removePerson } from '../../db/people/people.ts';
import { ProblemError } from '../../faults/problems.ts';
import { hashOf } from '../../people/passwords.ts';
import { UsageFault } from '../usage-fault.ts';

/** Asks whoever calls for a password; `again` where it is asked twice. */
export type AskPassword = (words: string) => Promise<string>;

async function newPassword(name: string, ask: AskPassword): Promise<string> {
  return ask(`Password for ${name} (${PASSWORD_LENGTH.min} characters or more): `);
}

/** `keen user add|password|administrator|remove|list`: who may sign in, for whoever has the machine. */
export async function user(
  db: Database,
  [act, name, ...rest]: readonly string[],
  { administrator, ask }: { readonly administrator: boolean; readonly ask: AskPassword },
): Promise<string> {
  if (rest.length > 0)
    throw new UsageFault(`user: “${rest[0]}” is one word too many; put a name of two words in quotes`);
  if (act === 'list') {
    const there = await readPeople(db);
    if (there.length === 0) return 'Nobody yet: keen user add NAME --administrator makes the first.';
    return there.map((one) => (one.isAdministrator ? `${one.name} (administrator)` : one.name)).join('\n');
  }
  if (name === undefined)
    throw new UsageFault('user: say add, password, administrator or remove, and a name; or list');
  try {
    return await told(db, act, name, { administrator, ask });
  } catch (error) {
    if (error instanceof ProblemError) throw new UsageFault(`user: ${error.message}`);
    throw error;
  }
}

async function told(
  db: Database,
  act: string | undefined,
  name: string,
  { administrator, ask }: { readonly administrator: boolean; readonly ask: AskPassword },
): Promise<string> {
  const found = async () => {
    const one = await findPerson(db, name);
    if (!one) throw new UsageFault(`user: there is nobody called “${name}”`);
    return personSchema.parse({ id: one.id, name: one.name, isAdministrator: one.isAdministrator });
  };
  switch (act) {
    case 'add': {
      const password = await newPassword(name, ask);
      const asked = newPersonSchema.safeParse({ name, password, isAdministrator: administrator });
      if (!asked.success) throw new UsageFault(`user: ${firstFault(asked.error)}`);
      const made = await addPerson(db, { ...asked.data, password: await hashOf(password) });
      return `${made.name} may sign in${made.isAdministrator ? ', and is an administrator' : ''}.`;
    }
    case 'password': {
      const one = await found();
      const password = await newPassword(one.name, ask);
      const asked = newPersonSchema.shape.password.safeParse(password);
      if (!asked.success) throw new UsageFault(`user: password ${firstFault(asked.error)}`);
      await changePerson(db, one.id, { password: await hashOf(password) });
      return `${one.name} has a new password, and is signed out everywhere.`;
    }
    case 'administrator': {
      const one = await found();
      await changePerson(db, one.id, { isAdministrator: true });
      return `${one.name} is an administrator.`;
    }
    case 'remove': {
      const one = await found();
      await removePerson(db, one.id);
      return `${one.name} may not sign in any more. What they did keeps their name.`;
    }
    default:
      throw new UsageFault(
        `user: “${act}” is not known; there are add, password, administrator, remove and list`,
      );
  }
}
