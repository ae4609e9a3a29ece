import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { startCluster } from './lib/cluster.mjs';
import { dataFolder } from './lib/folders.mjs';
import { ensureFfmpeg, ensureNpmPackages, ensurePostgres, SetUpError } from './lib/packages.mjs';

/** Address of a Keen Ridge that already runs on this data, or null. A lock left by a killed one does not answer. */
async function alreadyRunning(lock) {
  if (!existsSync(lock)) return null;
  const { url, instance } = JSON.parse(readFileSync(lock, 'utf8'));
  try {
    const answer = await fetch(new URL('/api/health', url), { signal: AbortSignal.timeout(2000) });
    return (await answer.json()).instance === instance ? url : null;
  } catch {
    // Nobody listens there any more: the lock is stale and this start takes over.
    return null;
  }
}

async function main() {
  ensureNpmPackages();
  const folder = dataFolder();
  const lock = join(folder, 'running.json');
  const running = await alreadyRunning(lock);
  if (running) {
    console.log(`Keen Ridge is already running at ${running}`);
    return;
  }
  if (!process.env.DATABASE_URL) ensurePostgres();
  ensureFfmpeg({ required: false });
  const { buildAll } = await import('./build.mjs');
  buildAll();
  const cluster = process.env.DATABASE_URL
    ? { url: process.env.DATABASE_URL, stop: () => {} }
    : await startCluster(folder);
  const { register } = await import('tsx/esm/api');
  register();
  const { startServer } = await import('../server/main.ts');
  const port = process.env.PORT ? Number(process.env.PORT) : undefined;
  const server = await startServer({ databaseUrl: cluster.url, dataFolder: folder, port }).catch((error) => {
    cluster.stop();
    throw error;
  });
  writeFileSync(lock, JSON.stringify({ url: server.url, instance: server.instance }));
  console.log(`Keen Ridge is ready at ${server.url}`);
  let stopping = false;
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    await server.close();
    cluster.stop();
    rmSync(lock, { force: true });
    process.exit(0);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, stop);
}

main().catch((error) => {
  console.error(error instanceof SetUpError ? error.message : error);
  process.exit(1);
});
