import { type ChildProcess, execFileSync, spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { request } from 'node:https';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createdSchema } from '@keen-ridge/core/contract/wall';
import { setShotLength } from '@keen-ridge/core/edits/shot';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { readShot } from '../db/shots.ts';
import { edit } from '../testing/calls.ts';
import { PASSWORD, signedIn } from '../testing/people.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';

const NAME = 'keen.example';
let app: TestApp;
let nginx: ChildProcess;
let port: number;
const folder = mkdtempSync(join(tmpdir(), 'keen-proxy-'));

const freePort = () =>
  new Promise<number>((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port: free } = probe.address() as { port: number };
      probe.close(() => resolve(free));
    });
  });

/** The file of the documents, with the ports and files of this test. */
function confOf(appPort: string): string {
  const site = readFileSync(new URL('../../docs/nginx.conf', import.meta.url), 'utf8')
    .replace('listen 443 ssl', `listen 127.0.0.1:${port} ssl`)
    .replace('/etc/ssl/certs/keen.example.pem', join(folder, 'cert.pem'))
    .replace('/etc/ssl/private/keen.example.key', join(folder, 'key.pem'))
    .replace('127.0.0.1:4180', `127.0.0.1:${appPort}`);
  const temp = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map(
    (kind) => `${kind}_temp_path ${join(folder, 'tmp', kind)};`,
  );
  return `daemon off; pid ${join(folder, 'pid')}; error_log ${join(folder, 'error.log')};
    events {} http { access_log off; ${temp.join(' ')} ${site} }`;
}

beforeAll(async () => {
  app = await startTestApp({ renders: false, settings: { signIn: true, proxy: true, names: [NAME] } });
  await signedIn(app, 'Ada', { isAdministrator: true });
  port = await freePort();
  mkdirSync(join(folder, 'tmp'));
  const certificate = ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2', '-subj', `/CN=${NAME}`];
  const files = ['-keyout', join(folder, 'key.pem'), '-out', join(folder, 'cert.pem')];
  execFileSync('openssl', [...certificate, ...files], { stdio: 'ignore' });
  writeFileSync(join(folder, 'nginx.conf'), confOf(new URL(app.url).port));
  nginx = spawn('/usr/sbin/nginx', ['-p', folder, '-c', join(folder, 'nginx.conf')], { stdio: 'ignore' });
  await vi.waitFor(async () => expect((await ask('GET', '/api/health')).status).toBe(200), 20_000);
});
afterAll(async () => {
  nginx.kill();
  await app.close();
  rmSync(folder, { recursive: true, force: true });
});

interface Answer {
  readonly status: number;
  readonly body: string;
  readonly cookie: string;
}

/** As a browser asks that knows the server by its name. */
function ask(
  method: string,
  path: string,
  {
    cookie = '',
    body,
    onPart,
  }: { cookie?: string; body?: string | Buffer; onPart?: (part: string) => boolean } = {},
): Promise<Answer> {
  const headers = {
    Host: NAME,
    Origin: `https://${NAME}`,
    ...(cookie === '' ? {} : { Cookie: cookie }),
    ...(typeof body === 'string' ? { 'Content-Type': 'application/json' } : {}),
  };
  return new Promise((resolve, reject) => {
    const asked = request(
      // A certificate of this test's own making.
      { host: '127.0.0.1', port, servername: NAME, path, method, headers, rejectUnauthorized: false },
      (response) => {
        let said = '';
        const done = () =>
          resolve({
            status: response.statusCode ?? 0,
            body: said,
            cookie: response.headers['set-cookie']?.[0] ?? '',
          });
        response.setEncoding('utf8');
        response.on('data', (part: string) => {
          said += part;
          if (!onPart?.(part)) return;
          done();
          asked.destroy();
        });
        response.on('end', done);
        response.on('error', () => undefined);
      },
    );
    asked.on('error', reject);
    asked.end(body);
  });
}

describe('behind nginx, as the documents say', () => {
  it('one signs in with a cookie for secure pages alone, hears edits as they are made, and sends large files', async () => {
    const signedOut = await ask('GET', '/api/wall');
    expect(signedOut.status).toBe(401);
    const body = JSON.stringify({ name: 'Ada', password: PASSWORD });
    const { status, cookie: set } = await ask('POST', '/api/me/sign-in', { body });
    expect([status, set]).toEqual([200, expect.stringMatching(/^__Host-keen-ridge=.*; Secure/)]);
    const cookie = set.split(';')[0]!;
    // The plain name of the cookie is another one: it is not taken for it.
    expect((await ask('GET', '/api/wall', { cookie: cookie.replace('__Host-', '') })).status).toBe(401);

    const made = await ask('POST', '/api/productions', { cookie, body: '{"name":"P"}' });
    const production = createdSchema.parse(JSON.parse(made.body)).id;
    const shot = { name: 'S', widthPx: 320, heightPx: 180, rate: { num: 24, den: 1 }, lengthFrames: 10 };
    const asked = { cookie, body: JSON.stringify(shot) };
    const { id } = createdSchema.parse(
      JSON.parse((await ask('POST', `/api/productions/${production}/shots`, asked)).body),
    );
    const heard = ask('GET', `/api/shots/${id}/events?after=1`, {
      cookie,
      onPart: (part) => part.includes('event: revision'),
    });
    const { scene } = await readShot(app.db, id, '');
    const op = edit(scene, setShotLength(scene, 33));
    const edited = { opId: crypto.randomUUID(), revision: 1, author: { id: '', name: '' }, op };
    expect((await ask('POST', `/api/shots/${id}/ops`, { cookie, body: JSON.stringify(edited) })).status).toBe(
      200,
    );
    // A proxy that holds it back until its buffer is full or the stream ends lets this wait in vain.
    expect((await heard).body).toMatch(/"value":33/);

    // 64 MiB of nothing in particular reach the program, which says what is wrong with them.
    const large = await ask('POST', '/api/art?name=large.png', {
      cookie,
      body: Buffer.alloc(64 * 2 ** 20, 7),
    });
    expect([large.status, large.body]).toEqual([422, expect.stringContaining('large.png')]);
    const page = await ask('GET', '/', { cookie });
    expect(page.body).toMatch(/<title>Keen Ridge/);
  });
});
