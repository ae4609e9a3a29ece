import { randomUUID } from 'node:crypto';
import { request } from 'node:http';
import { LARGEST_UPLOAD_BYTES } from '@keen-ridge/core/contract';
import { LARGEST_ARCHIVE_BYTES } from '@keen-ridge/core/contract/archive';
import { presentListSchema } from '@keen-ridge/core/contract/people';
import { LARGEST_SOUND_BYTES } from '@keen-ridge/core/contract/sound';
import { createdSchema } from '@keen-ridge/core/contract/wall';
import { addCard } from '@keen-ridge/core/edits/art';
import { differenceBetween } from '@keen-ridge/core/history';
import { LIMITS, planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { isPassword } from '../people/passwords.ts';
import { ARTIST, callsOf, edit, problem } from '../testing/calls.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';

let app: TestApp;
let production: string;
beforeAll(async () => {
  app = await startTestApp({ renders: false });
  production = createdSchema.parse((await call('POST', '/api/productions', { name: 'P' })).json).id;
});
afterAll(() => app.close());
const { call, newShot, shotAt, send } = callsOf(() => app.url);

const codeOf = (answer: { readonly status: number; readonly json: unknown }): string =>
  answer.status < 300 ? 'taken' : problem(answer).code;

describe('a shot', () => {
  const made = async (of: object) => {
    const shot = {
      name: 'S',
      widthPx: 320,
      heightPx: 180,
      rate: { num: 24, den: 1 },
      lengthFrames: 10,
      ...of,
    };
    return codeOf(await call('POST', `/api/productions/${production}/shots`, shot));
  };

  it.each([
    ['widthPx', LIMITS.framePx.max],
    ['heightPx', LIMITS.framePx.max],
    ['lengthFrames', LIMITS.lengthFrames.max],
  ])('has %s at most %i', async (field, most) => {
    expect(await made({ [field]: most })).toBe('taken');
    expect(await made({ [field]: most + 1 })).toBe('bad-request');
  });

  it('has 500 planes, and no more', async () => {
    const id = await newShot();
    const { scene, revision } = await shotAt(id);
    const stops = [
      { at: 0, colour: '#102040', opacity: 1 },
      { at: 1, colour: '#f0d0a0', opacity: 1 },
    ];
    const paint = { kind: 'linear', angleDeg: 90, space: 'srgb', stops } as const;
    const withCard = (of: Scene, i: number) =>
      addCard(of, { id: planeIdSchema.parse(`p${i}`), name: `P${i}`, paint, depthSpx: i });
    let full = scene;
    for (let i = 0; i < LIMITS.planes.max; i++) full = withCard(full, i);
    expect(codeOf(await send(id, revision, edit(scene, full)))).toBe('taken');
    const after = await shotAt(id);
    expect(Object.keys(after.scene.planes)).toHaveLength(LIMITS.planes.max);
    const over = await send(id, after.revision, edit(full, withCard(full, LIMITS.planes.max)));
    expect(over.status).toBeGreaterThanOrEqual(400);
    expect(over.status).toBeLessThan(500);
    expect((await shotAt(id)).revision).toBe(after.revision);
  });

  it('has 20 000 keys on a channel, and no more', async () => {
    const id = await newShot();
    const { scene, revision } = await shotAt(id);
    const keyed = (count: number): Scene => {
      const keys = Object.fromEntries(
        Array.from({ length: count }, (_, i) => [`${i + 1}`, { value: i % 7, ease: { kind: 'linear' } }]),
      );
      return { ...scene, camera: { ...scene.camera, panX: { ...scene.camera.panX, keys } } } as Scene;
    };
    const full = keyed(LIMITS.keys.max);
    const over = await send(id, revision, edit(scene, keyed(LIMITS.keys.max + 1)));
    expect(over.status).toBeGreaterThanOrEqual(400);
    expect(over.status).toBeLessThan(500);
    expect(codeOf(await send(id, revision, edit(scene, full)))).toBe('taken');
    expect(differenceBetween((await shotAt(id)).scene, full)).toEqual([]);
  });
});

describe('art', () => {
  const strip = (widthPx: number) =>
    sharp({ create: { width: widthPx, height: 1, channels: 4, background: '#123456' } })
      .png()
      .toBuffer();
  const sent = async (bytes: Buffer) => {
    const response = await fetch(`${app.url}/api/art?name=strip.png`, {
      method: 'POST',
      body: Buffer.from(bytes),
    });
    return codeOf({ status: response.status, json: await response.json() });
  };

  it('has a side of 65 536 px, and no longer one', async () => {
    expect(await sent(await strip(LIMITS.artPx.max))).toBe('taken');
    expect(await sent(await strip(LIMITS.artPx.max + 1))).toBe('unreadable-art');
  });

  it('is refused by the pixels that its head promises, before any is read', async () => {
    const png = await strip(8);
    // 20 000 × 20 000 px, more than the 384 million of one image.
    png.writeUInt32BE(20_000, 16);
    png.writeUInt32BE(20_000, 20);
    expect(await sent(png)).toBe('unreadable-art');
  });

  it('made elsewhere has as many bytes as its sides say, and not one more', async () => {
    const pixels = async (bytes: number) => {
      const response = await fetch(`${app.url}/api/art/pixels?widthPx=4&heightPx=4`, {
        method: 'POST',
        body: Buffer.alloc(bytes, 200),
      });
      return codeOf({ status: response.status, json: await response.json() });
    };
    expect(await pixels(64)).toBe('taken');
    expect(await pixels(65)).toBe('too-large');
  });
});

describe('a file that says how large it is', () => {
  /**
   * What the server says to the head alone: nothing of the file is sent. Null where it has said nothing for `patienceMs`,
   * since it waits for the file.
   */
  const toHead = (path: string, bytes: number, patienceMs = 60_000): Promise<number | null> =>
    new Promise((resolve, reject) => {
      const { port } = new URL(app.url);
      const asked = request(
        { host: '127.0.0.1', port, path, method: 'POST', headers: { 'Content-Length': bytes } },
        (response) => {
          response.resume();
          resolve(response.statusCode ?? 0);
          asked.destroy();
        },
      );
      asked.on('error', (error: NodeJS.ErrnoException) =>
        error.code === 'ECONNRESET' ? resolve(null) : reject(error),
      );
      asked.flushHeaders();
      const over = setTimeout(() => {
        asked.destroy();
        resolve(null);
      }, patienceMs);
      asked.on('close', () => clearTimeout(over));
    });

  it.each([
    ['art', '/api/art?name=a.png', LARGEST_UPLOAD_BYTES],
    ['a sound', '/api/sounds?name=a.wav', LARGEST_SOUND_BYTES],
    ['an archive', '/api/archives?name=a.zip', LARGEST_ARCHIVE_BYTES],
  ])('%s is refused past its limit before it is sent, and waited for at it', async (_, path, most) => {
    expect(await toHead(path, most + 1)).toBe(413);
    expect(await toHead(path, most, 1000)).toBeNull();
  });

  it('a package too', async () => {
    const path = `/api/productions/${production}/packages?name=a.zip`;
    expect(await toHead(path, LARGEST_UPLOAD_BYTES + 1)).toBe(413);
    expect(await toHead(path, LARGEST_UPLOAD_BYTES, 1000)).toBeNull();
  });
});

describe('what is asked at once', () => {
  it('is a body of JSON 64 deep, and no deeper', async () => {
    const nested = async (depth: number) => {
      const response = await fetch(`${app.url}/api/productions`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: `${'['.repeat(depth)}${']'.repeat(depth)}`,
      });
      return problem({ json: await response.json() }).detail;
    };
    expect(await nested(64)).not.toMatch(/nested/);
    expect(await nested(65)).toMatch(/nested more than 64 deep/);
  });

  it('is a change of a thousand shots, and no more', async () => {
    const change = { kind: 'size', widthPx: 640, heightPx: 360 };
    const asked = (count: number) =>
      call('POST', '/api/shots/change', {
        shotIds: Array.from({ length: count }, () => randomUUID()),
        author: ARTIST,
        change,
      });
    // None of them is there, which is another answer than that there are too many.
    expect(codeOf(await asked(1000))).not.toBe('bad-request');
    expect(codeOf(await asked(1001))).toBe('bad-request');
  });

  it('is two hundred windows of one shot that are told of', async () => {
    const id = await newShot();
    for (let i = 0; i <= 200; i++)
      await call('POST', `/api/shots/${id}/present`, { window: randomUUID(), author: ARTIST, plane: null });
    const abort = new AbortController();
    const heard = await fetch(`${app.url}/api/shots/${id}/events?after=1`, { signal: abort.signal });
    let text = '';
    const reader = heard.body!.pipeThrough(new TextDecoderStream()).getReader();
    const told = () => {
      const last = [...text.matchAll(/event: present\ndata: (.*)\n/g)].at(-1)?.[1];
      return last === undefined ? [] : presentListSchema.parse(JSON.parse(last));
    };
    while (told().length < 200) text += (await reader.read()).value ?? '';
    abort.abort();
    expect(told()).toHaveLength(200);
  });

  it('is eight passwords that are checked', async () => {
    const all = await Promise.allSettled(Array.from({ length: 24 }, () => isPassword(null, 'not the word')));
    const refused = all.flatMap((one) => (one.status === 'rejected' ? [one.reason] : []));
    expect(refused).toHaveLength(16);
    for (const error of refused) expect(error).toMatchObject({ problem: { code: 'too-often', status: 429 } });
    // Once they are checked there is room again.
    expect(await isPassword(null, 'not the word')).toBe(false);
  });
});
