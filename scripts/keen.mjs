import { createInterface } from 'node:readline/promises';
import { Writable } from 'node:stream';
import { startCluster } from './lib/cluster.mjs';
import { dataFolder } from './lib/folders.mjs';
import { loadServer } from './lib/load.mjs';
import { ensurePostgres, postgresBinaries, SetUpError } from './lib/packages.mjs';
import { setUp } from './lib/set-up.mjs';

const args = process.argv.slice(2);
// npm runs scripts in the repository; paths mean what they mean where the caller stands.
const folder = process.env.INIT_CWD ?? process.cwd();

/** A line that is typed, and not shown; from a pipe, its first line. */
async function ask(words) {
  const shown = process.stdin.isTTY;
  if (shown) process.stderr.write(words);
  const nowhere = new Writable({ write: (_chunk, _encoding, done) => done() });
  const lines = createInterface({ input: process.stdin, output: nowhere, terminal: shown });
  try {
    for await (const line of lines) return line;
    return '';
  } finally {
    lines.close();
    if (shown) process.stderr.write('\n');
  }
}

await setUp(async () => {
  const { buildCommands } = await import('./build.mjs');
  await buildCommands();
});
const { exitStatus, main } = await loadServer('cli/keen');
const { SERVER_VERBS, serverWord } = await loadServer('cli/server/server-words');

/** A word about the server: its database is started where it does not run, and ends as it was. */
async function aboutServer() {
  const own = !process.env.DATABASE_URL;
  ensurePostgres();
  const data = dataFolder();
  const cluster = own ? await startCluster(data) : null;
  const place = {
    databaseUrl: cluster?.url ?? process.env.DATABASE_URL,
    dataFolder: data,
    postgresBinaries: postgresBinaries(),
  };
  try {
    return await exitStatus(() => serverWord(args, place, { folder, ask }));
  } finally {
    if (cluster && !cluster.wasRunning) cluster.stop();
  }
}

try {
  process.exitCode = SERVER_VERBS.includes(args[0]) ? await aboutServer() : await main(args, folder);
} catch (error) {
  if (!(error instanceof SetUpError) && error.name !== 'DatabaseNewer') throw error;
  console.error(error.message);
  process.exitCode = 1;
}
