import type { Person, Role } from '@keen-ridge/core/contract/people';
import { addPerson, setMember } from '../db/people/people.ts';
import { hashOf } from '../people/passwords.ts';
import type { TestApp } from './test-app.ts';

export const PASSWORD = 'a long word for tests';

/** What a browser of theirs shows with every request. */
export interface SignedIn extends Person {
  readonly cookie: string;
}

/** What signing in answers, and the cookie that it gives. */
export async function signIn(
  url: string,
  name: string,
  password: string,
  headers: Record<string, string> = {},
) {
  const response = await fetch(`${url}/api/me/sign-in`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', ...headers },
    body: JSON.stringify({ name, password }),
  });
  const set = response.headers.get('set-cookie') ?? '';
  return { status: response.status, json: await response.json(), set, cookie: set.split(';')[0] ?? '' };
}

/** A person of the test's server, with roles in productions, who is signed in. */
export async function signedIn(
  app: TestApp,
  name: string,
  {
    isAdministrator = false,
    roles = {},
  }: { readonly isAdministrator?: boolean; readonly roles?: Readonly<Record<string, Role>> } = {},
): Promise<SignedIn> {
  const person = await addPerson(app.db, { name, password: await hashOf(PASSWORD), isAdministrator });
  for (const [productionId, role] of Object.entries(roles))
    await setMember(app.db, productionId, person.id, role);
  const { cookie } = await signIn(app.url, name, PASSWORD);
  return { ...person, cookie };
}

/** Asks as somebody, or as nobody. */
export const asking =
  (app: TestApp, who: SignedIn | null) => async (method: string, path: string, body?: unknown) => {
    const response = await fetch(app.url + path, {
      method,
      headers: {
        ...(who ? { Cookie: who.cookie } : {}),
        ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    const text = await response.text();
    const isJson = response.headers.get('content-type')?.includes('json');
    return { status: response.status, json: isJson && text !== '' ? JSON.parse(text) : null };
  };
