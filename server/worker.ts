import { openDatabase } from './db/database.ts';
import { ChunkWorker } from './jobs/chunk-worker.ts';
import { JobQueue } from './jobs/job-queue.ts';
import { threadPool } from './jobs/thread-pool.ts';
import { WorkerLock } from './jobs/worker-lock.ts';
import { FrameRenderer } from './services/frame-renderer.ts';
import { storedPixels } from './storage/stored-pixels.ts';

export interface RunningWorker {
  readonly threads: number;
  framesDone(): number;
  close(): Promise<void>;
}

/** A process that only renders: it needs the database and nothing else of the server. */
export async function startWorker(databaseUrl: string, threads?: number): Promise<RunningWorker> {
  const { db, close } = await openDatabase(databaseUrl);
  const renderer = new FrameRenderer(await threadPool(threads), storedPixels(db));
  const queue = await JobQueue.open(databaseUrl);
  const lock = new WorkerLock(databaseUrl);
  const worker = new ChunkWorker({ db, queue, lock, renderer });
  return {
    threads: renderer.threads,
    framesDone: () => worker.framesDone,
    close: async () => {
      const closing = worker.close();
      await lock.close();
      await closing;
      renderer.close();
      await queue.close();
      await close();
    },
  };
}
