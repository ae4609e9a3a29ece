import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { openDatabase } from '../../db/connection/database.ts';
import { UsageFault } from '../usage-fault.ts';
import { backup, restore } from './backup.ts';
import { type AskPassword, user } from './people.ts';
import type { ServerPlace } from './place.ts';

/** Words of keen that are about a server and need its database. */
export const SERVER_VERBS = ['user', 'backup', 'restore'] as const;

export const SERVER_HELP = `
  About the server of this machine's data folder (KEEN_RIDGE_DATA), or of DATABASE_URL:
  user add NAME [--administrator] | password NAME | administrator NAME | remove NAME | list
       who may sign in; passwords are asked for, or read from a line of standard input
  backup --out DIR
       the database as it is at one moment, and the files of its hand-offs, while people work
  restore DIR
       a backup into an empty data folder, and looks whether all of it is there`;

interface From {
  /** The folder that paths are relative to. */
  readonly folder: string;
  readonly ask: AskPassword;
}

function parsed(args: readonly string[]) {
  try {
    return parseArgs({
      args: [...args],
      allowPositionals: true,
      options: { administrator: { type: 'boolean' }, out: { type: 'string' } },
    });
  } catch (error) {
    if (!(error instanceof TypeError)) throw error;
    throw new UsageFault(error.message.split('. ')[0] ?? error.message);
  }
}

/** What a word about the server prints. Throws UsageFault for what the caller must mend. */
export async function serverWord(
  args: readonly string[],
  place: ServerPlace,
  { folder, ask }: From,
): Promise<string> {
  const { values, positionals } = parsed(args);
  const [verb, ...rest] = positionals;
  if (verb === 'user') {
    const { db, close } = await openDatabase(place.databaseUrl);
    try {
      return await user(db, rest, { administrator: values.administrator ?? false, ask });
    } finally {
      await close();
    }
  }
  if (verb === 'backup') {
    if (values.out === undefined || rest.length > 0)
      throw new UsageFault('backup: name a folder with --out DIR');
    return backup(place, resolve(folder, values.out), values.out);
  }
  const [from] = rest;
  if (from === undefined || rest.length > 1) throw new UsageFault('restore: name the folder of one backup');
  return restore(place, resolve(folder, from), from);
}
