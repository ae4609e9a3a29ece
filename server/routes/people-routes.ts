import {
  changePasswordSchema,
  changePersonSchema,
  memberRoleSchema,
  newMemberSchema,
  newPersonSchema,
  type Person,
  signInSchema,
} from '@keen-ridge/core/contract/people';
import { type Request, Router } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import { z } from 'zod';
import { personOf } from '../access/asking.ts';
import type { Database } from '../db/connection/queryable.ts';
import {
  addPerson,
  changeMember,
  changePerson,
  findPerson,
  keyOf,
  readMembers,
  readPeople,
  readPerson,
  removePerson,
  setMember,
} from '../db/people/people.ts';
import { addSession, endSession, personOfSession } from '../db/people/sessions.ts';
import { notFound, ProblemError } from '../faults/problems.ts';
import { hashOf, isPassword } from '../people/passwords.ts';
import { giveToken, takeTokenBack, tokenOf } from '../people/session-cookie.ts';
import { TRIES, TRIES_WINDOW_MS } from '../people/tries.ts';
import { idParam } from './wall-routes.ts';

const memberParam = idParam.extend({ personId: z.uuid() });
const told = ({ id, name, isAdministrator }: Person): Person => ({ id, name, isAdministrator });

const tooOften = () => {
  throw new ProblemError('too-often', 'Too many tries. Wait a quarter of an hour, or ask an administrator.');
};

const addressOf = (request: Request): string => ipKeyGenerator(request.ip ?? '');
const nameIn = (request: Request): string => keyOf(signInSchema.parse(request.body).name);

/** So many tries that failed within a quarter of an hour are let through for one key. */
const triesBy = (limit: number, keyGenerator: (request: Request) => string) =>
  rateLimit({
    windowMs: TRIES_WINDOW_MS,
    limit,
    keyGenerator,
    skipSuccessfulRequests: true,
    legacyHeaders: false,
    handler: tooOften,
  });

/** Few for one name from one address; more for one from anywhere, so that nobody can be locked out by a stranger soon. */
const triesToSignIn = () => [
  triesBy(TRIES.ofAddress, addressOf),
  triesBy(TRIES.ofNameAtAddress, (request) => `${addressOf(request)} ${nameIn(request)}`),
  triesBy(TRIES.ofName, nameIn),
];

/** Who one is, who there is, and who may do what. `signIn`: whether this server knows anybody. */
export function peopleRoutes(db: Database, signIn: boolean): Router {
  const routes = Router();
  routes.get('/me', async (request, response) => {
    const token = signIn ? tokenOf(request) : null;
    const person = token === null ? null : await personOfSession(db, token);
    response.json({ signIn, person });
  });
  // Nobody is known, and nobody can be made known: the first administrator is made by the command line alone.
  if (!signIn) return routes;
  routes.post('/me/sign-in', ...triesToSignIn(), async (request, response) => {
    const { name, password } = signInSchema.parse(request.body);
    const found = await findPerson(db, name);
    if (!(await isPassword(found?.password ?? null, password)) || !found)
      throw new ProblemError('not-known', 'There is nobody of this name and password.');
    // A session begins anew at every sign-in: one that was put into the browser before is worth nothing.
    const before = tokenOf(request);
    if (before !== null) await endSession(db, before);
    await addSession(db, giveToken(request, response), found.id);
    response.json({ signIn, person: told(found) });
  });
  routes.post('/me/sign-out', async (request, response) => {
    const token = tokenOf(request);
    if (token !== null) await endSession(db, token);
    takeTokenBack(request, response);
    response.status(204).end();
  });
  routes.put('/me/password', triesBy(TRIES.ofAddress, addressOf), async (request, response) => {
    const person = personOf(response);
    if (!person) throw notFound('Your password');
    const { old, password } = changePasswordSchema.parse(request.body);
    const { password: hashed } = await readPerson(db, person.id);
    if (!(await isPassword(hashed, old)))
      throw new ProblemError('bad-request', 'The old password is another one.');
    await changePerson(db, person.id, { password: await hashOf(password) }, tokenOf(request) ?? '');
    response.status(204).end();
  });
  routes.get('/people', async (_request, response) => {
    response.json({ people: await readPeople(db) });
  });
  routes.post('/people', async (request, response) => {
    const { password, ...person } = newPersonSchema.parse(request.body);
    response.status(201).json(await addPerson(db, { ...person, password: await hashOf(password) }));
  });
  routes.patch('/people/:id', async (request, response) => {
    const { password, ...change } = changePersonSchema.parse(request.body);
    const hashed = password === undefined ? {} : { password: await hashOf(password) };
    await changePerson(db, idParam.parse(request.params).id, { ...change, ...hashed });
    response.status(204).end();
  });
  routes.delete('/people/:id', async (request, response) => {
    await removePerson(db, idParam.parse(request.params).id);
    response.status(204).end();
  });
  routes.get('/productions/:id/members', async (request, response) => {
    response.json({ members: await readMembers(db, idParam.parse(request.params).id) });
  });
  routes.post('/productions/:id/members', async (request, response) => {
    const { name, role } = newMemberSchema.parse(request.body);
    const person = await findPerson(db, name);
    if (!person) throw notFound(`“${name}”`);
    await setMember(db, idParam.parse(request.params).id, person.id, role);
    response.status(201).json({ id: person.id, name: person.name, role });
  });
  routes.put('/productions/:id/members/:personId', async (request, response) => {
    const { id, personId } = memberParam.parse(request.params);
    await changeMember(db, id, personId, memberRoleSchema.parse(request.body).role);
    response.status(204).end();
  });
  routes.delete('/productions/:id/members/:personId', async (request, response) => {
    const { id, personId } = memberParam.parse(request.params);
    await changeMember(db, id, personId, null);
    response.status(204).end();
  });
  return routes;
}
