import type { Person, Role } from '@keen-ridge/core/contract/people';
import type { Author } from '@keen-ridge/core/history';
import type { Response } from 'express';

/** Who asks; null where the server knows nobody. Kept with the answer, for as long as it is made. */
const asking = new WeakMap<Response, Person>();

export const setPerson = (response: Response, person: Person): void => {
  asking.set(response, person);
};

export const personOf = (response: Response): Person | null => asking.get(response) ?? null;

/** The role by which an address of a production was let through. */
const roles = new WeakMap<Response, Role>();

export const setRole = (response: Response, role: Role): void => {
  roles.set(response, role);
};

/** What whoever asks may do there: everything, where the server knows nobody. */
export const roleOfAsking = (response: Response): Role => roles.get(response) ?? 'run';

/** In whose name something is done: of whoever is signed in, whatever a window says of itself. */
export function authorOf(response: Response, said: Author): Author {
  const person = personOf(response);
  return person ? { id: person.id, name: person.name.slice(0, 80) } : said;
}
