import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type ImportedArt, importedArtSchema } from '@keen-ridge/core/art/landing';
import {
  imageManifestSchema,
  importLineSchema,
  placedArtSchema,
  problemSchema,
  shelfSchema,
} from '@keen-ridge/core/contract';
import { createdSchema } from '@keen-ridge/core/contract/wall';
import { sql } from 'drizzle-orm';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { pause } from '../db/connection/database-gone.ts';
import { art } from '../db/schema.ts';
import { openRasterOf, solidPng } from '../testing/art.ts';
import { callsOf } from '../testing/calls.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';

let app: TestApp;
beforeAll(async () => {
  app = await startTestApp();
});
afterAll(() => app.close());

const { call, newShot, shotAt } = callsOf(() => app.url);

describe('art', () => {
  const layerOf = (art: ImportedArt) => {
    const node = art.paintings[0]?.nodes[0];
    if (node?.kind !== 'layer') throw new Error('No layer was read');
    return node;
  };

  it('is stored once and comes back as pixels', async () => {
    const png = await solidPng(3, 2, { r: 10, g: 20, b: 30, alpha: 0.5 });
    const post = () =>
      fetch(`${app.url}/api/art?name=a.png`, {
        method: 'POST',
        body: Buffer.from(png),
        headers: { 'Content-Type': 'application/octet-stream' },
      });
    const read = async () => importedArtSchema.parse(await (await post()).json());
    const [first, second] = [await read(), await read()];
    expect(first).toEqual(second);
    const pixels = await fetch(`${app.url}/api/art/${layerOf(first).art.id}/pixels`);
    expect([...new Uint8Array(await pixels.arrayBuffer())].slice(0, 4)).toEqual([10, 20, 30, 128]);
    expect((await call('GET', `/api/art/${'0'.repeat(64)}/pixels`)).status).toBe(404);
    expect((await call('GET', '/api/art/nonsense/pixels')).status).toBe(400);
  });

  const upload = (name: string, body: Uint8Array, init: RequestInit = {}) =>
    fetch(`${app.url}/api/art?name=${encodeURIComponent(name)}`, {
      method: 'POST',
      body: Buffer.from(body),
      ...init,
    });
  const storedCount = async () => (await app.db.select({ id: art.id }).from(art)).length;

  it('tells its progress line by line, and its levels come in chunks', async () => {
    const png = await solidPng(600, 40, { r: 90, g: 20, b: 30 });
    const file = openRasterOf(
      [1, 2, 3].map((i) => ({ name: `L${i}`, png, x: i, y: 0 })),
      640,
      40,
    );
    const answer = await upload('three.ora', file, { headers: { Accept: 'application/x-ndjson' } });
    const lines = (await answer.text())
      .trim()
      .split('\n')
      .map((line) => importLineSchema.parse(JSON.parse(line)));
    const progress = lines.flatMap((line) => (line.kind === 'progress' ? [line.done] : []));
    expect(progress.length).toBeGreaterThanOrEqual(3);
    expect(progress).toEqual([...progress].sort((p, q) => p - q));
    const last = lines.at(-1);
    if (last?.kind !== 'done') throw new Error(JSON.stringify(last));
    const { id } = layerOf(last.art).art;
    const manifest = imageManifestSchema.parse(await (await fetch(`${app.url}/api/art/${id}/levels`)).json());
    expect(manifest.levels[1]).toMatchObject({ widthPx: 300, heightPx: 20 });
    expect((await fetch(`${app.url}/api/art/${id}/levels/0?c0=0&r0=0&c1=1&r1=0`)).status).toBe(200);
    expect((await fetch(`${app.url}/api/art/${id}/levels/0?c0=0&r0=0&c1=2&r1=0`)).status).toBe(404);
    expect((await fetch(`${app.url}/api/art/${id}/levels/0?c0=x`)).status).toBe(400);
  });

  it('that fails or whose cable is pulled leaves nothing behind, and the server goes on', async () => {
    const before = await storedCount();
    const good = await solidPng(30, 30, { r: 1, g: 99, b: 200 });
    const half = openRasterOf(
      [
        { name: 'Good', png: good, x: 0, y: 0 },
        { name: 'Bad', png: new Uint8Array([1]), x: 0, y: 0 },
      ],
      30,
      30,
    );
    expect((await upload('half.ora', half)).status).toBe(422);
    const large = await sharp({ create: { width: 4000, height: 3000, channels: 4, background: '#123456' } })
      .png({ compressionLevel: 0 })
      .toBuffer();
    const abort = new AbortController();
    const cut = upload('large.png', new Uint8Array(large), { signal: abort.signal }).catch(
      (error: Error) => error.name,
    );
    setTimeout(() => abort.abort(), 60);
    expect(await cut).toBe('AbortError');
    expect((await upload('ok.png', await solidPng(2, 2, { r: 1, g: 1, b: 1 }))).status).toBe(200);
    expect(await storedCount()).toBe(before + 1);
  });

  it('is stored whole or not at all where the database gives up in the middle', async () => {
    const before = await storedCount();
    await app.db.execute(
      sql.raw(`create sequence stored; create function third_fails() returns trigger language plpgsql as $$
        begin if nextval('stored') = 3 then raise exception 'a fault at the third image'; end if; return new; end $$;
      create trigger third_fails before insert on art for each row execute function third_fails()`),
    );
    const pngs = await Promise.all([1, 2, 3, 4].map((i) => solidPng(31, 30 + i, { r: i, g: 77, b: 3 })));
    const four = openRasterOf(
      pngs.map((png, i) => ({ name: `L${i}`, png, x: 0, y: 0 })),
      40,
      40,
    );
    vi.spyOn(console, 'error').mockImplementation(() => {});
    expect((await upload('four.ora', four)).status).toBe(500);
    await app.db.execute(
      sql.raw(`create or replace function third_fails() returns trigger language plpgsql as $$
        begin raise exception 'could not extend file: No space left on device' using errcode = '53100'; end $$`),
    );
    const full = await upload('four.ora', four);
    expect([full.status, problemSchema.parse(await full.json()).detail]).toEqual([
      503,
      'The disk is full. Make room, then try again.',
    ]);
    vi.restoreAllMocks();
    await app.db.execute(sql.raw('drop trigger third_fails on art'));
    expect(await storedCount()).toBe(before);
    expect((await upload('four.ora', four)).status).toBe(200);
    expect(await storedCount()).toBe(before + 4);
    expect(readdirSync(join(app.folder, 'staging'))).toEqual([]);
  });

  it('holds nobody up while it is read: pages and small files come while slow drawings wait', {
    timeout: 180_000,
  }, async () => {
    const slow = Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" width="6000" height="6000"><filter id="f"><feTurbulence baseFrequency="0.1" numOctaves="100000"/></filter><rect width="6000" height="6000" filter="url(#f)"/></svg>',
    );
    const abort = new AbortController();
    const waiting = Array.from({ length: 12 }, (_, i) =>
      upload(`slow-${i}.svg`, slow, { signal: abort.signal }).catch((error: Error) => error.name),
    );
    // All of these are answered while not one of the drawings is: they hold neither connections nor threads.
    await pause(1500);
    const id = await newShot();
    for (let i = 0; i < 20; i++) expect((await call('GET', '/api/wall')).status).toBe(200);
    expect((await shotAt(id)).revision).toBe(1);
    abort.abort();
    expect(await Promise.all(waiting)).toEqual(Array.from({ length: 12 }, () => 'AbortError'));
    expect((await upload('ok.png', await solidPng(3, 9, { r: 5, g: 5, b: 5 }))).status).toBe(200);
    await expect.poll(() => readdirSync(join(app.folder, 'staging'))).toEqual([]);
  });

  it('takes names as they can be kept', async () => {
    const name = `${'a'.repeat(199)}🏮.png`;
    const png = await solidPng(6, 6, { r: 3, g: 3, b: 9 });
    const { paintings } = importedArtSchema.parse(await (await upload(name, png)).json());
    expect(paintings[0]?.nodes[0]?.name).toBe('a'.repeat(199));
    const layered = openRasterOf([{ name: `x${'🏮'.repeat(120)}`, png, x: 0, y: 0 }], 6, 6);
    const layers = importedArtSchema.parse(await (await upload('l.ora', layered)).json());
    expect(layers.paintings[0]?.nodes[0]?.name).toBe(`x${'🏮'.repeat(99)}`);
  });

  it('is refused where it is packed, or larger than a file may be', async () => {
    const packed = await upload('a.png', new Uint8Array([1]), { headers: { 'Content-Encoding': 'gzip' } });
    expect([packed.status, problemSchema.parse(await packed.json()).code]).toEqual([415, 'bad-request']);
    const long = await fetch(`${app.url}/api/art/pixels?widthPx=2&heightPx=2`, {
      method: 'POST',
      body: Buffer.alloc(17),
    });
    expect(long.status).toBe(413);
  });

  it('whose levels were cut short is shown all the same', async () => {
    const png = await solidPng(700, 500, { r: 8, g: 90, b: 9 });
    const { art: ref } = layerOf(importedArtSchema.parse(await (await upload('l.png', png)).json()));
    const file = join(app.folder, 'levels', `${ref.id}.levels`);
    const whole = readFileSync(file);
    const chunk = () => fetch(`${app.url}/api/art/${ref.id}/levels/0?c0=0&r0=0&c1=1&r1=0`);
    const first = Buffer.from(await (await chunk()).arrayBuffer());
    for (const left of [Buffer.alloc(0), whole.subarray(0, 40)]) {
      writeFileSync(file, left);
      const again = await chunk();
      expect([again.status, Buffer.from(await again.arrayBuffer()).equals(first)]).toEqual([200, true]);
      expect(readFileSync(file).equals(whole)).toBe(true);
    }
  });

  it('can be merged, recoloured and stored from pixels', async () => {
    const first = layerOf(
      importedArtSchema.parse(
        await (await upload('a.png', await solidPng(4, 4, { r: 200, g: 0, b: 0 }))).json(),
      ),
    );
    const post = (path: string, body: unknown) =>
      fetch(`${app.url}${path}`, {
        method: 'POST',
        body: JSON.stringify(body),
        headers: { 'Content-Type': 'application/json' },
      });
    const layers = [0, 3].map((xPx) => ({ artId: first.art.id, xPx, yPx: -xPx, opacity: 1 }));
    const merged = placedArtSchema.parse(await (await post('/api/art/merge', { layers })).json());
    expect([merged.xPx, merged.yPx, merged.art.widthPx, merged.art.heightPx]).toEqual([0, -3, 7, 7]);
    const grey = placedArtSchema.parse(
      await (
        await post(`/api/art/${first.art.id}/change`, {
          kind: 'recolour',
          hueDeg: 0,
          saturation: 0,
          brightness: 1,
        })
      ).json(),
    );
    const pixels = new Uint8Array(
      await (await fetch(`${app.url}/api/art/${grey.art.id}/pixels`)).arrayBuffer(),
    );
    expect(Math.abs((pixels[0] as number) - (pixels[2] as number))).toBeLessThanOrEqual(2);
    const own = Uint8Array.from({ length: 3 * 2 * 4 }, (_, i) => i * 9);
    const stored = await fetch(`${app.url}/api/art/pixels?widthPx=3&heightPx=2`, {
      method: 'POST',
      body: own,
    });
    const { art: made } = placedArtSchema.parse(await stored.json());
    const back = await (await fetch(`${app.url}/api/art/${made.id}/pixels`)).arrayBuffer();
    expect([...new Uint8Array(back)]).toEqual([...own]);
    expect(
      (await fetch(`${app.url}/api/art/pixels?widthPx=3&heightPx=3`, { method: 'POST', body: own })).status,
    ).toBe(422);
  });

  it('is kept on the shelf of its production, and taken off and put back', async () => {
    const { art: ref } = layerOf(
      importedArtSchema.parse(
        await (await upload('s.png', await solidPng(5, 5, { r: 7, g: 7, b: 7 }))).json(),
      ),
    );
    const { id } = createdSchema.parse((await call('POST', '/api/productions', { name: 'Shelved' })).json);
    const shelf = async () =>
      shelfSchema.parse((await call('GET', `/api/productions/${id}/shelf`)).json).pieces;
    const piece = { name: 'Rock', content: { kind: 'still', art: ref, made: null }, from: '010' };
    const made = createdSchema.parse((await call('POST', `/api/productions/${id}/shelf`, piece)).json);
    expect(await shelf()).toEqual([{ id: made.id, ...piece }]);
    await call('DELETE', `/api/shelf/${made.id}`);
    expect(await shelf()).toEqual([]);
    await call('POST', `/api/shelf/${made.id}/restore`);
    expect(await shelf()).toHaveLength(1);
    const unknown = { ...piece, content: { ...piece.content, art: { ...ref, id: 'a'.repeat(64) } } };
    expect((await call('POST', `/api/productions/${id}/shelf`, unknown)).status).toBe(404);
  });

  it('is refused in a sentence when it cannot be read', async () => {
    const answer = await fetch(`${app.url}/api/art?name=notes.txt`, { method: 'POST', body: 'hello' });
    const said = problemSchema.parse(await answer.json());
    expect([answer.status, said.code]).toEqual([422, 'unreadable-art']);
    expect(said.detail).toContain('“notes.txt” cannot be read');
  });
});
