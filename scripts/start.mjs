import { join } from 'node:path';
import { startCluster } from './lib/cluster.mjs';
import { dataFolder } from './lib/folders.mjs';
import { loadServer } from './lib/load.mjs';
import { holdLock } from './lib/lock.mjs';
import { ensureFfmpeg, ensurePostgres, SetUpError } from './lib/packages.mjs';
import { healthOf, readRunning, removeRunning, writeRunning } from './lib/running.mjs';
import { setUp } from './lib/set-up.mjs';

const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** How long a start waits for another one of the same folder that is under way. */
const WAIT_MS = Number(process.env.KEEN_RIDGE_START_WAIT_S ?? 300) * 1000;
/** After this the server is not waited for any longer: what it has acknowledged is stored. */
const CLOSE_MS = 2500;

/** The lock of the data folder, or null when another program that runs on it has been told of. */
async function takeFolder(folder) {
  const until = Date.now() + WAIT_MS;
  for (let tries = 0; ; tries++) {
    const lock = await holdLock(join(folder, 'running.lock'), { wait: false });
    if (lock) return lock;
    const running = readRunning(folder);
    const health = running && (await healthOf(running));
    if (health) {
      await wakeDatabase(folder, running, health);
      console.log(`Keen Ridge is already running at ${running.url}`);
      return null;
    }
    if (tries === 4) console.log(`Another start of ${folder} is under way; waiting for it …`);
    if (Date.now() > until) {
      const who = running?.pid ? ` (process ${running.pid})` : '';
      throw new SetUpError(
        `Another Keen Ridge${who} holds ${folder} but does not answer. End it, then start again.`,
      );
    }
    await pause(500);
  }
}

/** Starts the database of a program that lives on without it: it connects again by itself. */
async function wakeDatabase(folder, { databasePort }, { database }) {
  if (database !== 'away' || process.env.DATABASE_URL) return;
  console.log('Its database has stopped; starting it again …');
  await startCluster(folder, { port: databasePort });
}

async function main() {
  let stop = (code) => process.exit(code);
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));
  await setUp(async () => {
    if (!process.env.DATABASE_URL) ensurePostgres();
    ensureFfmpeg({ required: false });
    const { buildAll } = await import('./build.mjs');
    await buildAll();
  });
  const folder = dataFolder();
  const lock = await takeFolder(folder);
  if (!lock) return;
  removeRunning(folder);
  const cluster = process.env.DATABASE_URL
    ? { url: process.env.DATABASE_URL, port: null, stop: () => {} }
    : await startCluster(folder);
  stop = async (code) => {
    cluster.stop();
    process.exit(code);
  };
  const { startServer } = await loadServer('main');
  const server = await startServer({ databaseUrl: cluster.url, dataFolder: folder }).catch((error) => {
    cluster.stop();
    if (error.code === 'EADDRINUSE')
      throw new SetUpError(
        `Port ${error.port} is taken by another program. Name another one with PORT, or none.`,
      );
    if (['SettingsFault', 'DatabaseNewer'].includes(error.name)) throw new SetUpError(error.message);
    throw error;
  });
  const { url, instance } = server;
  writeRunning(folder, { url, instance, pid: process.pid, databasePort: cluster.port });
  console.log(`Keen Ridge is ready at ${url}`);
  let stopping = false;
  stop = async (code) => {
    if (stopping) return;
    stopping = true;
    removeRunning(folder);
    await Promise.race([server.close(), pause(CLOSE_MS)]);
    cluster.stop();
    process.exit(code);
  };
}

main().catch((error) => {
  console.error(error instanceof SetUpError ? error.message : error);
  process.exit(1);
});
