import { randomUUID } from 'node:crypto';
import { shotSchema } from '@keen-ridge/core/contract';
import { ROLES, type Role } from '@keen-ridge/core/contract/people';
import { binSchema, createdSchema, wallSchema } from '@keen-ridge/core/contract/wall';
import { setShotLength } from '@keen-ridge/core/edits/shot';
import type { Scene } from '@keen-ridge/core/scene';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { changeMember, changePerson, removePerson } from '../db/people/people.ts';
import { handoffs, keptLooks, people, sessions, sets, shelfPieces, takes } from '../db/schema.ts';
import { hashOf } from '../people/passwords.ts';
import { TRIES } from '../people/tries.ts';
import { edit, problem } from '../testing/calls.ts';
import { asking, PASSWORD, type SignedIn, signedIn, signIn } from '../testing/people.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';
import { type AddressNeed, NEEDS } from './needs.ts';

let app: TestApp;
let admin: SignedIn;
let stranger: SignedIn;
let by: Record<Role, SignedIn>;
let productionId: string;
beforeAll(async () => {
  app = await startTestApp({ renders: false, settings: { signIn: true, names: ['keen.example'] } });
  admin = await signedIn(app, 'Ada', { isAdministrator: true });
  productionId = await newProduction(admin);
  stranger = await signedIn(app, 'Stranger');
  const one = (role: Role) => signedIn(app, `Who may ${role}`, { roles: { [productionId]: role } });
  by = { look: await one('look'), work: await one('work'), run: await one('run') };
});
afterAll(() => app.close());

const ask = (who: SignedIn | null, method: string, path: string, body?: unknown) =>
  asking(app, who)(method, path, body);

const newProduction = async (who: SignedIn): Promise<string> =>
  createdSchema.parse((await ask(who, 'POST', '/api/productions', { name: 'P' })).json).id;

async function newShot(who: SignedIn, production: string): Promise<string> {
  const shot = { name: 'S', widthPx: 320, heightPx: 180, rate: { num: 24, den: 1 }, lengthFrames: 10 };
  return createdSchema.parse((await ask(who, 'POST', `/api/productions/${production}/shots`, shot)).json).id;
}

const shotFor = async (who: SignedIn, id: string) =>
  shotSchema.parse((await ask(who, 'GET', `/api/shots/${id}`)).json);

/** One of everything that belongs to a production, straight in the database. */
async function oneOfEach(production: string): Promise<Record<string, string>> {
  const shot = await newShot(admin, production);
  const { scene } = await shotFor(admin, shot);
  const id = async (rows: Promise<{ id: string }[]>) => (await rows)[0]!.id;
  const progress = { state: 'cancelled' } as never;
  return {
    production,
    shot,
    take: await id(
      app.db.insert(takes).values({ shotId: shot, number: 1, name: 'T', note: '', scene }).returning(),
    ),
    handoff: await id(
      app.db
        .insert(handoffs)
        .values({ shotId: shot, scene, shotName: 'S', request: {} as never, progress })
        .returning(),
    ),
    set: await id(
      app.db
        .insert(sets)
        .values({ id: randomUUID() as never, productionId: production, name: 'Set', planes: [] })
        .returning(),
    ),
    'shelf piece': await id(
      app.db
        .insert(shelfPieces)
        .values({
          productionId: production,
          name: 'P',
          content: { kind: 'set', planes: [] } as never,
          from: '',
        })
        .returning(),
    ),
    look: await id(
      app.db
        .insert(keptLooks)
        .values({ productionId: production, name: 'L', look: {} as never })
        .returning(),
    ),
  };
}

/** An address with what it names filled in; bodies say nothing, so that what is let through does nothing. */
function addressOf({ method, path, need }: AddressNeed, things: Record<string, string>) {
  const id = need.kind === 'role' ? things[need.of]! : randomUUID();
  const whole = path
    .replace(':id', id)
    .replace(':artId', 'a'.repeat(64))
    .replace(':revision', '1')
    .replace(':personId', randomUUID())
    .replace(/:level|:index/, '0');
  const body = method === 'get' || method === 'delete' ? undefined : {};
  return [method.toUpperCase(), `/api${whole}`, body] as const;
}

/** Streams never end by themselves, and nobody is signed out of the other tests. */
const isLong = ({ path }: AddressNeed): boolean => path.endsWith('/events');
/** What the fixtures do not have: files of a hand-off, art, a step of the history, somebody of that id. */
const mayMiss = ({ path }: AddressNeed): boolean => /^\/handoffs|:personId|:revision/.test(path);
const named = NEEDS.map((address) => [`${address.method} ${address.path}`, address] as const);

describe('every address', () => {
  let things: Record<string, string>;
  beforeAll(async () => {
    things = await oneOfEach(productionId);
  });

  it.each(named)('%s is closed to nobody, unless it says nothing', async (_, address) => {
    const { status, json } = await ask(null, ...addressOf(address, things));
    if (address.need.kind === 'nobody') expect([200, 400, 503]).toContain(status);
    else expect([status, json?.code]).toEqual([401, 'signed-out']);
  });

  it.each(named.filter(([, { need }]) => need.kind === 'administrator'))(
    '%s is closed to who is no administrator',
    async (_, address) => {
      for (const who of [stranger, by.run])
        expect((await ask(who, ...addressOf(address, things))).status).toBe(403);
      if (address.method !== 'delete')
        expect((await ask(admin, ...addressOf(address, things))).status).not.toBe(403);
    },
  );

  it.each(named.filter(([, { need }]) => need.kind === 'role'))(
    '%s is not there for a stranger, and each role may what it may',
    async (_, address) => {
      const { need } = address;
      if (need.kind !== 'role') return;
      const whole = addressOf(address, things);
      const unknown = await ask(stranger, ...whole);
      expect([unknown.status, unknown.json.code]).toEqual([404, 'not-found']);
      for (const role of ROLES) {
        if (isLong(address)) continue;
        const enough = ROLES.indexOf(role) >= ROLES.indexOf(need.role);
        // What is deleted is gone for the next.
        const own = enough && address.method === 'delete' ? await oneOfEach(productionId) : things;
        if (own !== things && need.of === 'production') continue;
        const { status, json } = await ask(by[role], ...addressOf(address, own));
        const refusals = ['not-allowed', 'signed-out', ...(mayMiss(address) ? [] : ['not-found'])];
        if (enough) expect(refusals).not.toContain(json?.code);
        else expect([status, json.code]).toEqual([403, 'not-allowed']);
      }
    },
  );

  it('that is named nowhere is not answered, not even to an administrator', async () => {
    for (const path of ['/api/secrets', '/api/shots', '/api/people/all', '/api/../api/people/x/y'])
      expect((await ask(admin, 'GET', path)).status).toBe(404);
  });
});

describe('what belongs to others', () => {
  it('is neither on the wall nor in the bin, and cannot be reached by its id', async () => {
    const mine = await newProduction(stranger);
    const shot = await newShot(stranger, mine);
    const wall = async (who: SignedIn) =>
      wallSchema.parse((await ask(who, 'GET', '/api/wall')).json).productions.map(({ id }) => id);
    expect(await wall(stranger)).toEqual([mine]);
    expect(await wall(by.run)).toEqual([productionId]);
    expect(await wall(admin)).toEqual(expect.arrayContaining([mine, productionId]));
    expect((await ask(by.run, 'GET', `/api/shots/${shot}`)).status).toBe(404);
    const { scene } = await shotFor(stranger, shot);
    const op = edit(scene, setShotLength(scene, 20));
    const asked = { opId: randomUUID(), revision: 1, author: { id: 'x', name: 'X' }, op };
    expect((await ask(by.run, 'POST', `/api/shots/${shot}/ops`, asked)).status).toBe(404);
    expect((await ask(stranger, 'DELETE', `/api/shots/${shot}`)).status).toBe(204);
    const bin = async (who: SignedIn) =>
      binSchema.parse((await ask(who, 'GET', '/api/bin')).json).items.map(({ id }) => id);
    expect(await bin(stranger)).toEqual([shot]);
    expect(await bin(by.run)).not.toContain(shot);
  });

  it('cannot be changed by naming it in a body', async () => {
    const mine = await newProduction(stranger);
    const [own, others] = [await newShot(stranger, mine), await newShot(admin, productionId)];
    const change = { kind: 'length', lengthFrames: 5 };
    const author = { id: 'x', name: 'X' };
    const many = await ask(stranger, 'POST', '/api/shots/change', { shotIds: [own, others], author, change });
    expect(many.status).toBe(404);
    const moved = await ask(stranger, 'PUT', `/api/shots/${own}/production`, { productionId });
    expect(moved.status).toBe(404);
    expect((await shotFor(admin, others)).scene.lengthFrames).toBe(10);
    expect((await shotFor(stranger, own)).productionId).toBe(mine);
  });

  it('is done under one’s own name, whatever a window says', async () => {
    const shot = await newShot(by.work, productionId);
    const { scene } = await shotFor(by.work, shot);
    const send = (who: SignedIn, revision: number, op: unknown) =>
      ask(who, 'POST', `/api/shots/${shot}/ops`, {
        opId: randomUUID(),
        revision,
        author: { id: by.run.id, name: by.run.name },
        op,
      });
    const long: Scene = setShotLength(scene, 20);
    expect((await send(by.work, 1, edit(scene, long))).status).toBe(200);
    const history = (await ask(by.work, 'GET', `/api/shots/${shot}/history?newest=10`)).json;
    expect(history.revisions[0].entry.author).toEqual({ id: by.work.id, name: by.work.name });
    // What is said to be another’s cannot be undone by them: it is not theirs.
    const undo = { kind: 'undo', edit: history.revisions[0].entry.id };
    expect((await send(by.run, 2, undo)).json.code).toBe('nothing-to-undo');
    expect((await send(by.work, 2, undo)).status).toBe(200);
  });
});

describe('signing in', () => {
  it('gives a cookie that no script reads and no other site sends, and one that was there before is worth nothing', async () => {
    const planted = { Cookie: `keen-ridge=${'x'.repeat(43)}` };
    const { set, cookie } = await signIn(app.url, 'stranger ', PASSWORD, planted);
    expect(set).toMatch(/; HttpOnly/);
    expect(set).toMatch(/; SameSite=Strict/);
    expect(set).toMatch(/; Path=\//);
    expect(cookie).not.toBe(planted.Cookie);
    const me = async (shown: string) =>
      (await (await fetch(`${app.url}/api/me`, { headers: { Cookie: shown } })).json()).person?.name ?? null;
    expect([await me(cookie), await me(planted.Cookie)]).toEqual(['Stranger', null]);
    // Signing in again ends the session that was there: each is of one sign-in.
    const again = await signIn(app.url, 'Stranger', PASSWORD, { Cookie: cookie });
    expect([await me(cookie), await me(again.cookie)]).toEqual([null, 'Stranger']);
    // The table holds nothing that a browser could show.
    const rows = await app.db.select().from(sessions);
    expect(rows.some(({ token }) => again.cookie.includes(token))).toBe(false);
    const kept = await app.db.select().from(people);
    for (const { password } of kept) expect(password).toMatch(/^\$argon2id\$/);
  });

  it('ends with signing out, a new password, or being put away: what a browser shows then is worth nothing', async () => {
    const one = await signedIn(app, 'Leaving');
    const other = await signIn(app.url, 'Leaving', PASSWORD);
    const who = (cookie: string) => ({ ...one, cookie });
    const here = async (cookie: string) => (await ask(who(cookie), 'GET', '/api/wall')).status;
    expect([await here(one.cookie), await here(other.cookie)]).toEqual([200, 200]);
    expect((await ask(one, 'POST', '/api/me/sign-out', {})).status).toBe(204);
    expect([await here(one.cookie), await here(other.cookie)]).toEqual([401, 200]);
    const third = await signIn(app.url, 'Leaving', PASSWORD);
    const words = { old: PASSWORD, password: 'another long word, quite new' };
    expect((await ask(who(third.cookie), 'PUT', '/api/me/password', { ...words, old: 'wrong' })).status).toBe(
      400,
    );
    expect((await ask(who(third.cookie), 'PUT', '/api/me/password', words)).status).toBe(204);
    expect([await here(other.cookie), await here(third.cookie)]).toEqual([401, 200]);
    expect((await signIn(app.url, 'Leaving', PASSWORD)).status).toBe(401);
    await changePerson(app.db, one.id, { password: await hashOf(PASSWORD) });
    expect(await here(third.cookie)).toBe(401);
    const last = await signIn(app.url, 'Leaving', PASSWORD);
    await removePerson(app.db, one.id);
    expect([await here(last.cookie), (await signIn(app.url, 'Leaving', PASSWORD)).status]).toEqual([
      401, 401,
    ]);
    // The name is free again.
    expect((await signedIn(app, 'leaving')).id).not.toBe(one.id);
  });

  it('says the same of a wrong name and a wrong password, and is refused after some tries', async () => {
    const [name, password] = [
      await signIn(app.url, 'Nobody', PASSWORD),
      await signIn(app.url, 'Ada', 'wrong'),
    ];
    expect(name.json).toEqual(password.json);
    const guessed = await signedIn(app, 'Guessed');
    for (let i = 0; i < TRIES.ofNameAtAddress; i++)
      expect((await signIn(app.url, 'Guessed', `guess ${i}`)).status).toBe(401);
    expect((await signIn(app.url, 'guessed', PASSWORD)).json.code).toBe('too-often');
    // Others of the same address sign in, and who is signed in stays so.
    expect((await signIn(app.url, 'Ada', PASSWORD)).status).toBe(200);
    expect((await ask(guessed, 'GET', '/api/wall')).status).toBe(200);
  });

  it('is of no use to pages of other sites', async () => {
    const send = (headers: Record<string, string>) =>
      fetch(`${app.url}/api/productions`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', Cookie: admin.cookie, ...headers },
        body: JSON.stringify({ name: 'Forged' }),
      }).then(({ status }) => status);
    const own = new URL(app.url).origin;
    expect(await send({ Origin: own })).toBe(201);
    for (const origin of [
      'http://evil.example',
      'null',
      own.replace('http:', 'https:'),
      `${own}.evil.example`,
    ])
      expect(await send({ Origin: origin })).toBe(403);
    expect(await send({ 'Sec-Fetch-Site': 'cross-site' })).toBe(403);
  });

  it('keeps one administrator', async () => {
    expect(problem({ json: (await ask(admin, 'DELETE', `/api/people/${admin.id}`)).json }).detail).toMatch(
      /last/,
    );
    const change = { isAdministrator: false };
    expect((await ask(admin, 'PATCH', `/api/people/${admin.id}`, change)).status).toBe(400);
    const name = 'Second';
    const made = (
      await ask(admin, 'POST', '/api/people', { name, password: PASSWORD, isAdministrator: true })
    ).json;
    expect((await ask(admin, 'POST', '/api/people', { name: 'SECOND', password: PASSWORD })).status).toBe(
      400,
    );
    expect((await ask(admin, 'POST', '/api/people', { name: 'Short', password: 'short' })).status).toBe(400);
    expect((await ask(admin, 'DELETE', `/api/people/${made.id}`)).status).toBe(204);
  });

  it('is not asked for by a server that knows nobody', async () => {
    const open = await startTestApp({ renders: false });
    expect(await (await fetch(`${open.url}/api/me`)).json()).toEqual({ signIn: false, person: null });
    expect((await signIn(open.url, 'Ada', PASSWORD)).status).toBe(404);
    expect((await fetch(`${open.url}/api/wall`)).status).toBe(200);
    // Nor can anybody be made known there who could sign in later.
    const made = await fetch(`${open.url}/api/people`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ name: 'Eve', password: PASSWORD, isAdministrator: true }),
    });
    expect([made.status, await open.db.select().from(people)]).toEqual([404, []]);
    await open.close();
  });
});

describe('a stream', () => {
  it('ends soon after whoever hears it may not look any more', async () => {
    const shot = await newShot(admin, productionId);
    const leaving = await signedIn(app, 'Listener', { roles: { [productionId]: 'look' } });
    const headers = { Cookie: leaving.cookie };
    const heard = await fetch(`${app.url}/api/shots/${shot}/events?after=1`, { headers });
    expect(heard.status).toBe(200);
    const ended = heard.text().then(
      () => true,
      () => true,
    );
    await changeMember(app.db, productionId, leaving.id, null);
    expect(await ended).toBe(true);
    expect((await fetch(`${app.url}/api/shots/${shot}/events?after=1`, { headers })).status).toBe(404);
  });
});
