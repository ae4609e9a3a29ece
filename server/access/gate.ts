import { isEnough, type Person, type Role } from '@keen-ridge/core/contract/people';
import express, { type NextFunction, type Request, type Response, type Router } from 'express';
import { z } from 'zod';
import type { Database } from '../db/connection/queryable.ts';
import { whoAsks } from '../db/people/sessions.ts';
import { type Owned, productionOf, productionsOfShots, roleIn } from '../db/people/whose.ts';
import { logFault } from '../faults/cause.ts';
import { notFound, ProblemError } from '../faults/problems.ts';
import { tokenOf } from '../people/session-cookie.ts';
import { personOf, setPerson, setRole } from './asking.ts';
import { type AddressNeed, type BodyNeed, NEEDS, type Need } from './needs.ts';

/** How soon somebody who was signed out, or lost a role, hears no more of a shot, ms. */
const LOOK_AGAIN_MS = 10_000;

const signedOut = () => new ProblemError('signed-out', 'Sign in to go on.');

/** A role that is not enough is told; where there is none the thing is not there: not even that it is is told. */
function needRole(role: Role | null, needed: Role, what: Owned): void {
  if (role === null) throw notFound(`This ${what}`);
  if (!isEnough(role, needed))
    throw new ProblemError(
      'not-allowed',
      needed === 'run'
        ? 'Only who runs the production may do this.'
        : 'You may look at this production, but not change it. Ask who runs it.',
    );
}

async function roleOf(db: Database, person: Person, productionId: string): Promise<Role | null> {
  return person.isAdministrator ? 'run' : roleIn(db, person.id, productionId);
}

/** What a request says of who asks for what. */
interface Asked {
  readonly token: string | null;
  readonly params: unknown;
}

async function check(
  db: Database,
  need: Need,
  { token, params }: Asked,
): Promise<{ person: Person; role: Role | null } | null> {
  if (need.kind === 'nobody') return null;
  if (token === null) throw signedOut();
  const about =
    need.kind === 'role' ? productionOf(need.of, z.object({ id: z.uuid() }).parse(params).id) : null;
  const asking = await whoAsks(db, token, about);
  if (!asking) throw signedOut();
  const { person } = asking;
  if (need.kind === 'administrator' && !person.isAdministrator)
    throw new ProblemError('not-allowed', 'Only an administrator may do this.');
  if (need.kind !== 'role') return { person, role: null };
  const role = asking.productionId !== null && person.isAdministrator ? 'run' : asking.role;
  needRole(role, need.role, need.of);
  return { person, role };
}

/** A stream lives long: it ends once whoever hears it may not any more. */
function lookAgain(db: Database, need: Need, asked: Asked, response: Response): void {
  const timer = setInterval(() => {
    check(db, need, asked).catch((error: unknown) => {
      if (!(error instanceof ProblemError)) logFault('Whether a stream may go on could not be read', error);
      else response.destroy();
    });
  }, LOOK_AGAIN_MS);
  response.on('close', () => clearInterval(timer));
}

const shotIdsSchema = z.object({ shotIds: z.array(z.uuid()).max(1000) });
const productionIdSchema = z.object({ productionId: z.uuid() });

async function checkBody(
  db: Database,
  { kind, role }: BodyNeed,
  person: Person,
  body: unknown,
): Promise<void> {
  const wanted =
    kind === 'production'
      ? [productionIdSchema.parse(body).productionId]
      : await productionsOfShots(db, shotIdsSchema.parse(body).shotIds);
  for (const productionId of wanted)
    needRole(await roleOf(db, person, productionId), role, kind === 'shots' ? 'shot' : 'production');
}

/** The address of a request as NEEDS has it, without the ids in it. */
const patterns = new WeakMap<Request, string>();
export const patternOf = (request: Request): string | undefined => patterns.get(request);

export interface Gate {
  /** By the address, before a body is read. */
  readonly byAddress: Router;
  /** By what the body names. */
  readonly byBody: Router;
}

/**
 * Lets through what NEEDS allows to whoever asks, and nothing that it does not name. On a server that knows nobody
 * (`signIn` false) everybody who reaches it may do everything.
 */
export function gate(db: Database, signIn: boolean): Gate {
  const [byAddress, byBody] = [express.Router(), express.Router()];
  const atAddress =
    ({ need, path }: AddressNeed) =>
    async (request: Request, response: Response, next: NextFunction) => {
      patterns.set(request, path);
      if (signIn) {
        const asked = { token: tokenOf(request), params: { ...request.params } };
        const known = await check(db, need, asked);
        if (known) setPerson(response, known.person);
        if (known?.role) setRole(response, known.role);
        if (path.endsWith('/events')) lookAgain(db, need, asked, response);
      }
      next();
    };
  for (const address of NEEDS) {
    byAddress[address.method](address.path, atAddress(address));
    const { inBody } = address;
    if (inBody)
      byBody[address.method](address.path, async (request, response, next) => {
        const person = personOf(response);
        if (person) await checkBody(db, inBody, person, request.body);
        next();
      });
  }
  byAddress.use((request, _response, next) => {
    if (!patterns.has(request)) throw notFound(`The address ${request.method} ${request.originalUrl}`);
    next();
  });
  return { byAddress, byBody };
}
