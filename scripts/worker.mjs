import { constants, setPriority } from 'node:os';
import { parseArgs } from 'node:util';
import { startCluster } from './lib/cluster.mjs';
import { dataFolder } from './lib/folders.mjs';
import { loadServer } from './lib/load.mjs';
import { ensurePostgres, SetUpError } from './lib/packages.mjs';
import { setUp } from './lib/set-up.mjs';

/** Renders for whatever server shares this PostgreSQL: `DATABASE_URL`, or the one of this machine's data folder. */
async function main() {
  // Whoever edits on this machine comes first: threads that are begun after this have it too (setpriority(2)).
  setPriority(constants.priority.PRIORITY_BELOW_NORMAL);
  const { values } = parseArgs({ options: { threads: { type: 'string' } } });
  await setUp(async () => {
    if (!process.env.DATABASE_URL) ensurePostgres();
    const { buildCommands } = await import('./build.mjs');
    await buildCommands();
  });
  const url = process.env.DATABASE_URL ?? (await startCluster(dataFolder())).url;
  const { startWorker } = await loadServer('worker');
  const worker = await startWorker(url, dataFolder(), values.threads ? Number(values.threads) : undefined);
  console.log(`Rendering on ${worker.threads} threads for whoever hands off. Ctrl+C ends it.`);
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
    process.on(signal, async () => {
      await worker.close();
      console.log(`${worker.framesDone()} frames rendered`);
      process.exit(0);
    });
}

main().catch((error) => {
  console.error(error instanceof SetUpError ? error.message : error);
  process.exit(1);
});
