import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { readArt } from './db/art.ts';
import { openDatabase } from './db/connection/database.ts';
import { JobQueue } from './db/connection/job-queue.ts';
import { LifeLock } from './db/connection/life-lock.ts';
import { ChunkWorker } from './farm/chunk-worker.ts';
import { engineName } from './farm/engine.ts';
import { FrameRenderer } from './pictures/frame-renderer.ts';
import { ArtLevels } from './storage/art-levels.ts';
import { LevelsFiles } from './storage/levels-file.ts';
import { threadPool } from './threads/thread-pool.ts';

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
