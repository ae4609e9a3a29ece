import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { openDatabase } from './db/database.ts';
import { ChunkWorker } from './jobs/chunk-worker.ts';
import { engineName } from './jobs/engine.ts';
import { JobQueue } from './jobs/job-queue.ts';
import { LifeLock } from './jobs/life-lock.ts';
import { threadPool } from './jobs/thread-pool.ts';
import { FrameRenderer } from './services/frame-renderer.ts';
import { ArtLevels } from './storage/art-levels.ts';
import { readArt } from './storage/art-store.ts';
import { LevelsFiles } from './storage/levels-file.ts';

export interface RunningWorker {
  readonly threads: number;
  framesDone(): number;
  close(): Promise<void>;
}

/**
 * A process that only renders: it needs the database, and a folder for levels of art, which it shares with a server of
 * the same folder.
 */
export async function startWorker(
  databaseUrl: string,
  dataFolder: string,
  threads = availableParallelism(),
): Promise<RunningWorker> {
  const { db, close } = await openDatabase(databaseUrl);
  const levels = new ArtLevels(
    new LevelsFiles(join(dataFolder, 'levels')),
    async (artId) => (await readArt(db, artId))?.png ?? null,
  );
  const renderer = new FrameRenderer(
    () => threadPool(threads),
    threads,
    (id) => levels.source(id),
  );
  const engine = await engineName();
  const queue = await JobQueue.open(databaseUrl, engine);
  const lock = new LifeLock(databaseUrl, 'worker', { engine });
  const worker = new ChunkWorker({ db, queue, lock, renderer, engine });
  return {
    threads: renderer.threads,
    framesDone: () => worker.framesDone,
    close: async () => {
      const closing = worker.close();
      await lock.close();
      await closing;
      await renderer.close();
      await queue.close();
      await close();
    },
  };
}
