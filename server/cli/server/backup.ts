import { execFile } from 'node:child_process';
import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { copyFile, cp, mkdir, readdir, readFile, rm, stat } from 'node:fs/promises';
import { basename, join, relative } from 'node:path';
import { promisify } from 'node:util';
import { firstFault } from '@keen-ridge/core/scene';
import { z } from 'zod';
import { atOneMoment, isEmptyDatabase, moveFinished } from '../../db/backup.ts';
import { KNOWN_MIGRATIONS, openDatabase } from '../../db/connection/database.ts';
import type { Database } from '../../db/connection/queryable.ts';
import { handoffFolder, pathOfHandoff } from '../../handoff/handoff-path.ts';
import { settle, syncPath, writeSynced } from '../../storage/durable.ts';
import { told } from '../told.ts';
import { UsageFault } from '../usage-fault.ts';
import { checkRestored } from './check-restored.ts';
import type { ServerPlace } from './place.ts';

const run = promisify(execFile);
/** What pg_dump and pg_restore say before they are cut off. */
const MOST_SAID_BYTES = 2 ** 24;

const MANIFEST = 'backup.json';
const DUMP = 'database.dump';
const FILES = 'hand-offs';
const FORMAT = 'keen-ridge-backup';
const VERSION = 1;

const sha256 = z.string().regex(/^[0-9a-f]{64}$/);
const manifestSchema = z.strictObject({
  format: z.literal(FORMAT),
  version: z.literal(VERSION),
  madeAt: z.iso.datetime(),
  /** Migrations that the database had. */
  migrations: z.int(),
  /** Rows by table, in the very snapshot that was dumped. */
  rows: z.record(z.string(), z.int()),
  /** SHA-256 of every other file of the backup, by its path. */
  files: z.record(z.string(), sha256),
});
type BackupManifest = z.infer<typeof manifestSchema>;

async function hashOfFile(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(path)) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

async function filesBelow(folder: string): Promise<string[]> {
  const found = await readdir(folder, { recursive: true, withFileTypes: true });
  return found.filter((one) => one.isFile()).map((one) => relative(folder, join(one.parentPath, one.name)));
}

async function postgres(place: ServerPlace, binary: string, args: readonly string[]): Promise<void> {
  const { username, password, hostname, port, pathname } = new URL(place.databaseUrl);
  const env = {
    ...process.env,
    PGHOST: hostname,
    PGPORT: port || '5432',
    PGUSER: decodeURIComponent(username),
    PGPASSWORD: decodeURIComponent(password),
    PGDATABASE: decodeURIComponent(pathname.slice(1)),
  };
  try {
    await run(join(place.postgresBinaries, binary), [...args], { env, maxBuffer: MOST_SAID_BYTES });
  } catch (error) {
    const said = error instanceof Error && 'stderr' in error ? String(error.stderr).trim() : String(error);
    throw new UsageFault(`${binary}: ${said.split('\n')[0] ?? said}`);
  }
}

/**
 * Everything of a server as one folder, made while people work: the database as it was at one moment (a snapshot of
 * PostgreSQL), and the files of its finished hand-offs. It has its name only when it is whole.
 */
export async function backup(place: ServerPlace, out: string, said: string): Promise<string> {
  const there = await stat(out).catch(() => null);
  if (there) throw new UsageFault(`${said}: there is something of that name already`);
  const part = `${out}.part`;
  const { db, close } = await openDatabase(place.databaseUrl);
  try {
    return await told(said, async () => {
      await rm(part, { recursive: true, force: true });
      await mkdir(join(part, FILES), { recursive: true });
      const { rows, migrations, missing, count } = await takeAll(db, place, part);
      const files: Record<string, string> = {};
      for (const file of (await filesBelow(part)).sort()) {
        files[file] = await hashOfFile(join(part, file));
        await syncPath(join(part, file));
      }
      const madeAt = new Date().toISOString();
      const manifest: BackupManifest = { format: FORMAT, version: VERSION, madeAt, migrations, rows, files };
      await writeSynced(join(part, MANIFEST), `${JSON.stringify(manifest, null, 2)}\n`);
      await settle(part, out);
      const lacking = missing > 0 ? ` ${missing} were no longer on the disk of this machine.` : '';
      return `${said}: ${rows.shots} shots of ${rows.productions} productions, ${rows.art} pieces of art, ${count} files of hand-offs.${lacking}`;
    });
  } catch (error) {
    await rm(part, { recursive: true, force: true });
    throw error;
  } finally {
    await close();
  }
}

async function takeAll(db: Database, place: ServerPlace, part: string) {
  return atOneMoment(db, async ({ snapshot, rows, migrations, finished }) => {
    const dump = ['--format=custom', '--no-owner', `--snapshot=${snapshot}`, `--file=${join(part, DUMP)}`];
    // Pictures that are kept to be used again are drawn again: they would double what is carried.
    await postgres(place, 'pg_dump', [...dump, '--exclude-table-data=rendered_frames']);
    let [missing, count] = [0, 0];
    for (const handoff of finished) {
      const path = pathOfHandoff(handoff, handoffFolder(place.dataFolder));
      const copied = await copyOf(path, join(part, FILES, basename(path)));
      if (copied) count += 1;
      else missing += 1;
    }
    const carried: Record<string, number> = { ...rows, rendered_frames: 0 };
    return { rows: carried, migrations, missing, count };
  });
}

/** Whether there was something to copy: what is too old may be deleted meanwhile. */
async function copyOf(from: string, to: string): Promise<boolean> {
  try {
    if ((await stat(from)).isDirectory()) await cp(from, to, { recursive: true });
    else await copyFile(from, to);
    return true;
  } catch (error) {
    if (error instanceof Error && 'code' in error && error.code === 'ENOENT') return false;
    throw error;
  }
}

async function readManifest(folder: string, said: string): Promise<BackupManifest> {
  const text = await readFile(join(folder, MANIFEST), 'utf8').catch(() => {
    throw new UsageFault(`${said}: it has no ${MANIFEST}, so it is no backup, or not a whole one`);
  });
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new UsageFault(`${said}: ${MANIFEST} is no JSON`);
  }
  const read = manifestSchema.safeParse(json);
  if (!read.success) throw new UsageFault(`${said}: ${MANIFEST}: ${firstFault(read.error)}`);
  return read.data;
}

/**
 * A backup into a place where nothing is yet. Every file is looked at before anything is done, and the whole is checked
 * after: rows as many as there were, every set-up readable, every piece of art what its name says.
 */
export async function restore(place: ServerPlace, from: string, said: string): Promise<string> {
  const manifest = await readManifest(from, said);
  if (manifest.migrations > KNOWN_MIGRATIONS)
    throw new UsageFault(`${said}: it was made by a newer version of Keen Ridge; restore it with that one`);
  for (const [file, hash] of Object.entries(manifest.files)) {
    const path = join(from, file);
    if (relative(from, path).startsWith('..')) throw new UsageFault(`${said}: ${file} lies outside of it`);
    const now = await hashOfFile(path).catch(() => null);
    if (now !== hash) throw new UsageFault(`${said}: ${file} ${now === null ? 'is missing' : 'is damaged'}`);
  }
  await told(said, async () => {
    if (!(await isEmptyDatabase(place.databaseUrl)))
      throw new UsageFault(
        `restore: there is something in the database already; name an empty folder with KEEN_RIDGE_DATA`,
      );
    await postgres(place, 'pg_restore', [
      '--single-transaction',
      '--exit-on-error',
      '--no-owner',
      `--dbname=${new URL(place.databaseUrl).pathname.slice(1)}`,
      join(from, DUMP),
    ]);
    await cp(join(from, FILES), handoffFolder(place.dataFolder), { recursive: true });
  });
  const { db, close } = await openDatabase(place.databaseUrl);
  try {
    await moveFinished(db, handoffFolder(place.dataFolder));
    return await checkRestored(db, manifest.rows, said);
  } finally {
    await close();
  }
}
