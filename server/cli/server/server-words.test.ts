import { execFileSync } from 'node:child_process';
import { appendFileSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { importedArtSchema } from '@keen-ridge/core/art/landing';
import { setShotLength } from '@keen-ridge/core/edits/shot';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { isEmptyDatabase } from '../../db/backup.ts';
import { openDatabase } from '../../db/connection/database.ts';
import { handoffs } from '../../db/schema.ts';
import { readShot } from '../../db/shots.ts';
import { solidPng } from '../../testing/art.ts';
import { ARTIST, callsOf, edit } from '../../testing/calls.ts';
import { freshDatabase, startTestApp, type TestApp } from '../../testing/test-app.ts';
import { UsageFault } from '../usage-fault.ts';
import { serverWord } from './server-words.ts';

let app: TestApp;
const folder = mkdtempSync(join(tmpdir(), 'keen-backup-'));
beforeAll(async () => {
  app = await startTestApp({ renders: false });
});
afterAll(async () => {
  await app.close();
  rmSync(folder, { recursive: true, force: true });
});
const { newShot, shotAt, send } = callsOf(() => app.url);

/** Of the newest PostgreSQL of this machine, which the tests' own server is. */
const binaries = execFileSync('sh', ['-c', 'ls -d /usr/lib/postgresql/*/bin | sort -rV | head -n 1'], {
  encoding: 'utf8',
}).trim();

const placeOf = (databaseUrl: string, dataFolder: string) => ({
  databaseUrl,
  dataFolder,
  postgresBinaries: binaries,
});
const word = (args: readonly string[], typed: readonly string[] = []) => {
  const lines = [...typed];
  return serverWord(args, placeOf(app.databaseUrl, app.folder), {
    folder,
    ask: async () => lines.shift() ?? '',
  });
};

describe('keen user', () => {
  it('makes the first administrator, who is never there by default', async () => {
    expect(await word(['user', 'list'])).toMatch(/^Nobody yet/);
    expect(await word(['user', 'add', 'Ada', '--administrator'], ['a long word for tests'])).toMatch(
      /^Ada may sign in, and is an administrator/,
    );
    await word(['user', 'add', 'Bo Berg'], ['a long word for tests']);
    expect(await word(['user', 'list'])).toBe('Ada (administrator)\nBo Berg');
    expect(await word(['user', 'password', 'bo berg'], ['another long word, new'])).toMatch(/new password/);
    expect(await word(['user', 'administrator', 'Bo Berg'])).toMatch(/administrator/);
    expect(await word(['user', 'remove', 'Bo Berg'])).toMatch(/may not sign in/);
    expect(await word(['user', 'list'])).toBe('Ada (administrator)');
  });

  it.each([
    ['a short password', ['user', 'add', 'Cy'], ['short'], /at least 15 characters/],
    ['a name that is taken', ['user', 'add', 'ADA'], ['a long word for tests'], /already/],
    ['nobody of that name', ['user', 'password', 'Dee'], ['x'], /nobody called “Dee”/],
    ['the last administrator', ['user', 'remove', 'Ada'], [], /last administrator/],
    ['an unknown act', ['user', 'promote', 'Ada'], [], /“promote” is not known/],
    ['no name', ['user', 'add'], [], /and a name/],
    ['two words without quotes', ['user', 'add', 'Bo', 'Berg'], [], /in quotes/],
  ])('refuses %s', async (_what, args, typed, words) => {
    await expect(word(args, typed)).rejects.toThrow(words);
    await expect(word(args, typed)).rejects.toBeInstanceOf(UsageFault);
  });
});

describe('keen backup and restore', () => {
  it('carries everything of a server over while people work, and finds all of it there', async () => {
    const shot = await newShot();
    const { scene } = await shotAt(shot);
    const png = await solidPng(3, 2, { r: 10, g: 20, b: 30, alpha: 1 });
    const post = { method: 'POST', body: Buffer.from(png) };
    importedArtSchema.parse(await (await fetch(`${app.url}/api/art?name=a.png`, post)).json());
    const progress = { state: 'done', total: 1, bytes: 4, fileName: 'f.mp4', folder: null, seconds: 1 };
    const [done] = await app.db
      .insert(handoffs)
      .values({
        shotId: shot,
        scene,
        shotName: 'S',
        request: { kind: 'mp4', firstFrame: 1, lastFrame: 1 } as never,
        progress: progress as never,
      })
      .returning();
    mkdirSync(join(app.folder, 'handoffs'), { recursive: true });
    writeFileSync(join(app.folder, 'handoffs', `${done!.id}.mp4`), 'film');
    // Somebody goes on working all the while.
    let working = true;
    const worked = (async () => {
      for (let revision = 1; working; revision++) {
        const now = await shotAt(shot);
        await send(shot, now.revision, edit(now.scene, setShotLength(now.scene, 20 + revision)));
      }
    })();
    await new Promise((resolve) => setTimeout(resolve, 300));
    const told = await word(['backup', '--out', 'b']);
    working = false;
    await worked;
    expect(told).toMatch(/^b: 1 shots of 1 productions, 1 pieces of art, 1 files of hand-offs/);

    const other = await freshDatabase();
    const elsewhere = join(folder, 'elsewhere');
    const there = () =>
      serverWord(['restore', 'b'], placeOf(other.url, elsewhere), { folder, ask: async () => '' });
    expect(await there()).toMatch(/restored and checked: 2 set-ups, 1 pieces of art and sounds$/);
    expect(readFileSync(join(elsewhere, 'handoffs', `${done!.id}.mp4`), 'utf8')).toBe('film');
    const restored = await openDatabase(other.url);
    // As it was at one moment: its history leads to the scene that is there.
    const copy = await readShot(restored.db, shot, ARTIST.id);
    expect(copy.revision).toBeGreaterThan(1);
    expect(copy.scene.lengthFrames).toBeGreaterThan(20);
    expect(copy.undo).toHaveLength(copy.revision - 1);
    await restored.close();
    // Not over what is there.
    await expect(there()).rejects.toThrow(/something in the database already/);
    await other.drop();
  });

  it.each([
    [
      'a file that is damaged',
      (b: string) => appendFileSync(join(b, 'database.dump'), 'x'),
      /database.dump is damaged/,
    ],
    ['a file that is missing', (b: string) => rmSync(join(b, 'database.dump')), /database.dump is missing/],
    ['no list', (b: string) => rmSync(join(b, 'backup.json')), /no backup/],
    ['a list that is none', (b: string) => writeFileSync(join(b, 'backup.json'), '{'), /no JSON/],
    [
      'a version of tomorrow',
      (b: string) => {
        const list = join(b, 'backup.json');
        writeFileSync(list, JSON.stringify({ ...JSON.parse(readFileSync(list, 'utf8')), migrations: 999 }));
      },
      /made by a newer version/,
    ],
    ['a list of something else', (b: string) => writeFileSync(join(b, 'backup.json'), '{}'), /backup.json/],
  ])('refuses a backup with %s, and touches nothing', async (what, damage, words) => {
    const name = what.replaceAll(' ', '-');
    await word(['backup', '--out', name]);
    await expect(word(['backup', '--out', name])).rejects.toThrow(/already/);
    damage(join(folder, name));
    const other = await freshDatabase();
    const place = placeOf(other.url, join(folder, 'nowhere'));
    await expect(serverWord(['restore', name], place, { folder, ask: async () => '' })).rejects.toThrow(
      words,
    );
    expect(await isEmptyDatabase(other.url)).toBe(true);
    await other.drop();
  });

  it('says what is not as it was', async () => {
    await word(['backup', '--out', 'lies']);
    const list = join(folder, 'lies', 'backup.json');
    const read = JSON.parse(readFileSync(list, 'utf8'));
    writeFileSync(list, JSON.stringify({ ...read, rows: { ...read.rows, shots: 77 } }));
    const other = await freshDatabase();
    const place = placeOf(other.url, join(folder, 'lied'));
    await expect(serverWord(['restore', 'lies'], place, { folder, ask: async () => '' })).rejects.toThrow(
      /shots has 1 rows of 77/,
    );
    await other.drop();
  });
});

describe('a database of a newer version', () => {
  it('is refused and left as it is', async () => {
    const { url, drop } = await freshDatabase();
    const opened = await openDatabase(url);
    const later = Date.now() + 10 ** 11;
    await opened.db.execute(
      sql`insert into drizzle.__drizzle_migrations (hash, created_at) values ('later', ${later})`,
    );
    await opened.close();
    await expect(openDatabase(url)).rejects.toThrow(/newer version of Keen Ridge/);
    await drop();
  });
});
