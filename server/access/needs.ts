import type { Role } from '@keen-ridge/core/contract/people';
import type { Owned } from '../db/people/whose.ts';

/** What whoever asks for an address must be. */
export type Need =
  /** Answered to everybody: it says nothing about the work. */
  | { readonly kind: 'nobody' }
  /** Somebody who is signed in. What is named by its content (art, sounds) is known to whoever can name it. */
  | { readonly kind: 'person' }
  | { readonly kind: 'administrator' }
  /** Somebody with a role in the production that `:id` is, or belongs to. */
  | { readonly kind: 'role'; readonly role: Role; readonly of: Owned };

/** What a body names beside the address: each production of theirs asks for a role too. */
export type BodyNeed =
  | { readonly kind: 'shots'; readonly role: Role }
  | { readonly kind: 'production'; readonly role: Role };

export type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';

export interface AddressNeed {
  readonly method: Method;
  readonly path: string;
  readonly need: Need;
  readonly inBody?: BodyNeed;
}

const nobody: Need = { kind: 'nobody' };
const person: Need = { kind: 'person' };
const administrator: Need = { kind: 'administrator' };
const may = (role: Role, of: Owned): Need => ({ kind: 'role', role, of });

/** Addresses with one need, as “GET /path”. */
const all = (need: Need, ...addresses: readonly string[]): AddressNeed[] =>
  addresses.map((address) => {
    const [method, path] = address.split(' ') as [string, string];
    return { method: method.toLowerCase() as Method, path, need };
  });

/** Every address of the server and what it asks for. One that is not here is not answered. */
export const NEEDS: readonly AddressNeed[] = [
  ...all(nobody, 'GET /health', 'GET /ready', 'GET /me', 'POST /me/sign-in'),
  ...all(person, 'POST /me/sign-out', 'PUT /me/password'),
  ...all(administrator, 'GET /people', 'POST /people', 'PATCH /people/:id', 'DELETE /people/:id'),
  // The wall and the bin show what one may look at; whoever makes a production runs it.
  ...all(person, 'GET /wall', 'GET /bin', 'POST /productions', 'POST /archives'),
  ...all(person, 'GET /eases', 'POST /eases', 'DELETE /eases/:id'),
  ...all(
    person,
    'POST /art',
    'POST /art/merge',
    'POST /art/likenesses',
    'POST /art/pixels',
    'POST /art/:artId/change',
    'GET /art/:artId/pixels',
    'GET /art/:artId/alpha',
    'GET /art/:artId/levels',
    'GET /art/:artId/levels/:level',
    'GET /art/:artId/thumbnail',
    'GET /art/:artId/preview',
    'POST /sounds',
    'GET /sounds/:id',
    'GET /sounds/:id/peaks',
  ),
  ...all(person, 'GET /offers'),
  ...all(administrator, 'DELETE /offers/:id'),
  { method: 'post', path: '/offers/:id/take', need: person, inBody: { kind: 'shots', role: 'work' } },
  { method: 'post', path: '/shots/change', need: person, inBody: { kind: 'shots', role: 'work' } },
  ...all(
    may('look', 'production'),
    'GET /productions/:id/reel',
    'GET /productions/:id/sets',
    'GET /productions/:id/shelf',
    'GET /productions/:id/looks',
    'GET /productions/:id/survey-limits',
    'GET /productions/:id/members',
  ),
  ...all(
    may('work', 'production'),
    'POST /productions/:id/shots',
    'PUT /productions/:id/order',
    'POST /productions/:id/packages',
    'GET /productions/:id/archive',
    'GET /productions/:id/export',
    'POST /productions/:id/sets',
    'POST /productions/:id/shelf',
    'POST /productions/:id/looks',
  ),
  ...all(
    may('run', 'production'),
    'PATCH /productions/:id',
    'DELETE /productions/:id',
    'POST /productions/:id/restore',
    'PUT /productions/:id/survey-limits',
    'POST /productions/:id/members',
    'PUT /productions/:id/members/:personId',
    'DELETE /productions/:id/members/:personId',
  ),
  ...all(
    may('look', 'shot'),
    'GET /shots/:id',
    'GET /shots/:id/revisions',
    'GET /shots/:id/history',
    'GET /shots/:id/events',
    'POST /shots/:id/present',
    'GET /shots/:id/picture',
    'GET /shots/:id/history/:revision/picture',
    'GET /shots/:id/handoffs',
    'GET /shots/:id/handoffs/events',
    'GET /shots/:id/still',
    'GET /shots/:id/survey/counts',
    'GET /shots/:id/survey/guides',
    'GET /shots/:id/survey/report.pdf',
    'GET /shots/:id/survey/paint-list.pdf',
    'GET /shots/:id/takes',
  ),
  ...all(
    may('work', 'shot'),
    'POST /shots/:id/ops',
    'POST /shots/:id/duplicate',
    'PATCH /shots/:id',
    'DELETE /shots/:id',
    'POST /shots/:id/restore',
    'POST /shots/:id/handoffs',
    'GET /shots/:id/package',
    'GET /shots/:id/export',
    'POST /shots/:id/takes',
  ),
  {
    method: 'put',
    path: '/shots/:id/production',
    need: may('work', 'shot'),
    inBody: { kind: 'production', role: 'work' },
  },
  ...all(
    may('look', 'handoff'),
    'GET /handoffs/:id/film',
    'GET /handoffs/:id/frames',
    'GET /handoffs/:id/frames/:index',
    'GET /handoffs/:id/file',
  ),
  ...all(
    may('work', 'handoff'),
    'POST /handoffs/:id/cancel',
    'POST /handoffs/:id/move',
    'POST /handoffs/:id/name',
    'DELETE /handoffs/:id',
  ),
  ...all(may('look', 'take'), 'GET /takes/:id'),
  ...all(may('work', 'take'), 'PATCH /takes/:id'),
  ...all(may('look', 'set'), 'GET /sets/:id/findings'),
  ...all(may('work', 'set'), 'PUT /sets/:id', 'PATCH /sets/:id', 'DELETE /sets/:id'),
  ...all(may('work', 'shelf piece'), 'DELETE /shelf/:id', 'POST /shelf/:id/restore'),
  ...all(may('work', 'look'), 'DELETE /looks/:id'),
];
