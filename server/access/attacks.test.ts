import { existsSync, readdirSync } from 'node:fs';
import { request } from 'node:http';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { solidPng } from '../testing/art.ts';
import { CLIMBING } from '../testing/mutations/mutate.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';

let app: TestApp;
const STALLED_MS = 1500;
beforeAll(async () => {
  app = await startTestApp({ renders: false, settings: { names: ['keen.example'] }, stalledMs: STALLED_MS });
});
afterAll(() => app.close());

interface Raw {
  readonly status: number;
  readonly body: string;
  readonly headers: Record<string, unknown>;
}

/** A request as no browser would send it: its path goes out as it stands. */
const raw = (path: string, headers: Record<string, string> = {}, method = 'GET', body = ''): Promise<Raw> =>
  new Promise((resolve, reject) => {
    const { port } = new URL(app.url);
    const asked = request({ host: '127.0.0.1', port, path, method, headers }, (response) => {
      let said = '';
      response.setEncoding('utf8');
      response.on('data', (part) => {
        said += part;
      });
      response.on('end', () =>
        resolve({ status: response.statusCode ?? 0, body: said, headers: response.headers }),
      );
    });
    asked.on('error', reject);
    asked.end(body);
  });

const port = () => new URL(app.url).port;

describe('names that are not this server’s', () => {
  const hosts = [
    'evil.example',
    'evil.example:80',
    '127.0.0.1.evil.example',
    'localhost.evil.example',
    'evil.example.localhost',
    '127.0.0.2',
    '0.0.0.0',
    '[::]',
    '[::ffff:127.0.0.1]',
    '2130706433',
    '0x7f000001',
    '017700000001',
    'user@127.0.0.1',
    '127.0.0.1, evil.example',
    '127.0.0.1/evil',
    '127.0.0.1#',
    '169.254.169.254',
    'keen.example.evil',
    'xkeen.example',
    ' 127.0.0.1:1:2',
  ];
  it.each(hosts)('are refused: Host %j', async (host) => {
    for (const path of ['/api/wall', '/', '/metrics'])
      expect((await raw(path, { Host: host })).status).toBe(403);
  });

  it('are refused where there is none, or two', async () => {
    const say = (text: string) =>
      new Promise<string>((resolve, reject) => {
        const socket = connect(Number(port()), '127.0.0.1', () => socket.write(text));
        let said = '';
        socket.on('data', (part) => {
          said += part;
        });
        socket.on('end', () => resolve(said));
        socket.on('error', reject);
      });
    expect(await say('GET /api/wall HTTP/1.1\r\nConnection: close\r\n\r\n')).toMatch(/^HTTP\/1.1 400/);
    expect(await say('GET /api/wall HTTP/1.0\r\n\r\n')).toMatch(/^HTTP\/1.\d 403/);
    const two = `GET /api/wall HTTP/1.1\r\nHost: 127.0.0.1:${port()}\r\nHost: evil.example\r\nConnection: close\r\n\r\n`;
    expect(await say(two)).toMatch(/^HTTP\/1.1 403/);
    // What is put behind another request is not answered as one of its own.
    const smuggled = `POST /api/productions HTTP/1.1\r\nHost: 127.0.0.1:${port()}\r\nContent-Length: 4\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\nGET /api/wall HTTP/1.1\r\nHost: evil.example\r\n\r\n`;
    expect(await say(smuggled)).toMatch(/^HTTP\/1.1 400/);
  });

  it.each(['127.0.0.1', 'localhost', '[::1]', 'keen.example', 'KEEN.example'])(
    'are its own: %s',
    async (host) => {
      expect((await raw('/api/wall', { Host: `${host}:${port()}` })).status).toBe(200);
    },
  );

  it.each([
    'http://evil.example',
    'https://127.0.0.1',
    'http://127.0.0.1.evil.example',
    'null',
    'file://',
    'http://127.0.0.1:1',
    'chrome-extension://abcdef',
    'http://user@127.0.0.1',
    '',
    'http://localhost',
  ])('are refused as the page that asks: Origin %j', async (origin) => {
    const headers = { Host: `127.0.0.1:${port()}`, Origin: origin, 'Content-Type': 'application/json' };
    expect((await raw('/api/productions', headers, 'POST', '{"name":"Forged"}')).status).toBe(403);
  });

  it('are refused as pages of another site, whatever they send along', async () => {
    const headers = { Host: `127.0.0.1:${port()}`, 'Sec-Fetch-Site': 'cross-site' };
    for (const method of ['POST', 'PUT', 'PATCH', 'DELETE'])
      expect((await raw('/api/productions', headers, method)).status).toBe(403);
    // A form of another page can send text only: it is no JSON here.
    const form = { Host: `127.0.0.1:${port()}`, 'Content-Type': 'text/plain' };
    expect((await raw('/api/productions', form, 'POST', '{"name":"Forged"}')).status).toBe(400);
  });
});

describe('paths that climb', () => {
  const ups = ['..', '%2e%2e', '%2E.', '..%2f', '..%5c', '%2e%2e%2f', '%c0%ae%c0%ae', '....', '..;', '.%00.'];
  const paths = ups.flatMap((up) => [
    `/${`${up}/`.repeat(8)}etc/passwd`,
    `/assets/${`${up}/`.repeat(8)}etc/passwd`,
    `/api/handoffs/${`${up}/`.repeat(8)}etc/passwd/file`,
  ]);
  it.each([
    ...paths,
    '/assets//etc/passwd',
    '/%00',
    '/assets/%',
    '//evil.example/%2f..',
    '/\\..\\..\\etc\\passwd',
  ])('lead nowhere: %s', async (path) => {
    const { status, body, headers } = await raw(path);
    expect(body).not.toMatch(/root:.*:0:0/);
    expect([200, 301, 400, 403, 404]).toContain(status);
    // Where one is sent on, one stays here.
    if (status === 301) expect(headers.location).toMatch(/^\/(?![/\\])/);
    // Where there is an answer it is the page itself, which says that there is no such thing.
    if (status === 200) expect(body).toMatch(/<title>Keen Ridge/);
  });

  it('say nothing of the machine: neither folders nor places in the code', async () => {
    for (const path of [
      '/assets/%',
      '/api/handoffs/x/file',
      '/api/shots/%ff',
      '/api/art/..%2f..%2fx/pixels',
    ]) {
      const { body } = await raw(path);
      expect(body).not.toMatch(/node_modules|\.ts:|at \w+ \(|\/(work|home|tmp|usr)\//);
    }
  });
});

describe('what a body may be', () => {
  const post = (path: string, body: string | Buffer<ArrayBuffer>, type = 'application/json') =>
    fetch(`${app.url}/api${path}`, { method: 'POST', body, headers: { 'Content-Type': type } });

  it('is bounded to the byte, and past it refused in words', async () => {
    const at = (bytes: number) => `{"name":"x","y":"${'y'.repeat(bytes - '{"name":"x","y":""}'.length)}"}`;
    const limit = 12 * 2 ** 20;
    // An unknown field: it was read to the end.
    expect((await (await post('/productions', at(limit))).json()).code).toBe('bad-request');
    const past = await post('/productions', at(limit + 1));
    expect([past.status, (await past.json()).code]).toEqual([413, 'too-large']);
  });

  it('does not reach prototypes, whatever it calls its fields', async () => {
    for (const name of ['__proto__', 'constructor', 'prototype'])
      expect((await post('/productions', `{"name":"x","${name}":{"isAdministrator":true}}`)).status).toBe(
        400,
      );
    expect(({} as { isAdministrator?: boolean }).isAdministrator).toBeUndefined();
  });

  it('is cut where nothing comes any more, and holds nobody up', async () => {
    const sockets = Array.from({ length: 20 }, () => {
      const socket = connect(Number(port()), '127.0.0.1');
      socket.on('error', () => undefined);
      socket.write(
        `POST /api/art?name=a.png HTTP/1.1\r\nHost: 127.0.0.1:${port()}\r\nContent-Length: 100000\r\n\r\nPNG?`,
      );
      return new Promise<void>((resolve) => socket.on('close', () => resolve()));
    });
    const png = await solidPng(9, 9, { r: 1, g: 2, b: 3, alpha: 1 });
    expect((await post('/art?name=b.png', Buffer.from(png), 'application/octet-stream')).status).toBe(200);
    await Promise.all(sockets);
    await expect.poll(() => readdirSync(join(app.folder, 'staging'))).toEqual([]);
  });

  it('that comes slowly but comes is taken', async () => {
    const png = Buffer.from(await solidPng(40, 40, { r: 9, g: 2, b: 3, alpha: 1 }));
    const step = Math.ceil(png.length / 6);
    const slow = new ReadableStream({
      async pull(controller) {
        for (let at = 0; at < png.length; at += step) {
          controller.enqueue(png.subarray(at, at + step));
          await new Promise((resolve) => setTimeout(resolve, STALLED_MS / 3));
        }
        controller.close();
      },
    });
    const sent = { method: 'POST', body: slow, duplex: 'half' } as RequestInit;
    expect((await fetch(`${app.url}/api/art?name=slow.png`, sent)).status).toBe(200);
  });
});

describe('names of files', () => {
  it.each(CLIMBING.map((name) => [name.slice(0, 40), name] as const))(
    'put nothing anywhere: %j',
    async (_, name) => {
      const png = await solidPng(5, 5, { r: 3, g: 2, b: 1, alpha: 1 });
      const around = () => readdirSync(tmpdir()).filter((one) => /^(out|keen-climbed|nul|con)/.test(one));
      const before = around();
      const response = await fetch(`${app.url}/api/art?name=${encodeURIComponent(name)}`, {
        method: 'POST',
        body: Buffer.from(png),
      });
      const text = await response.text();
      expect([200, 400, 422]).toContain(response.status);
      // What is kept of it as a name has no way up and nothing that turns text round.
      if (response.ok) expect(text).not.toMatch(/\u202e|\\u0000/);
      expect(around()).toEqual(before);
      expect(readdirSync(join(app.folder, 'staging'))).toEqual([]);
      expect(existsSync(join(app.folder, 'out.png'))).toBe(false);
    },
  );
});

describe('what every answer says of itself', () => {
  it('keeps pages from being framed, sniffed, or told on', async () => {
    for (const path of ['/', '/api/wall', '/assets/nothing.js']) {
      const { headers } = await raw(path);
      expect(headers['content-security-policy']).toMatch(/default-src 'self'.*frame-ancestors 'none'/);
      expect(headers['content-security-policy']).not.toMatch(/'unsafe-(inline|eval|hashes)'/);
      expect(headers['x-content-type-options']).toBe('nosniff');
      expect(headers['referrer-policy']).toBe('no-referrer');
      expect(headers['x-powered-by']).toBeUndefined();
      expect(headers['x-request-id']).toMatch(/^[\w-]{8,64}$/);
    }
    // A name for a request is taken from another server only where it can stand in a log.
    expect((await raw('/api/wall', { 'X-Request-Id': 'from-the-proxy-1' })).headers['x-request-id']).toBe(
      'from-the-proxy-1',
    );
    expect((await raw('/api/wall', { 'X-Request-Id': 'a b"}' })).headers['x-request-id']).not.toMatch(/[ "]/);
  });

  it('measures itself as OpenMetrics text, without ids in its series', async () => {
    await raw(`/api/shots/${crypto.randomUUID()}`);
    const { status, body, headers } = await raw('/metrics');
    expect([status, headers['content-type']]).toEqual([
      200,
      expect.stringContaining('application/openmetrics-text'),
    ]);
    expect(body).toMatch(
      /keen_ridge_request_seconds_count\{method="GET",path="\/shots\/:id",status="404"\} \d/,
    );
    expect(body.trimEnd()).toMatch(/# EOF$/);
    expect(body).not.toMatch(/[0-9a-f]{8}-[0-9a-f]{4}/);
  });
});
