import type { Database } from '../db/database.ts';
import type { FrameRenderer } from '../services/frame-renderer.ts';
import { ChunkWorker } from './chunk-worker.ts';
import { HandoffDesk } from './handoff-desk.ts';
import { JobQueue } from './job-queue.ts';
import { WorkerLock } from './worker-lock.ts';

export interface RenderService {
  readonly desk: HandoffDesk;
  close(): Promise<void>;
}

/** The desk of a server, and unless it is told not to, a worker beside it. */
export async function openRenderService(
  db: Database,
  databaseUrl: string,
  dataFolder: string,
  renderer: FrameRenderer,
  { renders = true }: { readonly renders?: boolean } = {},
): Promise<RenderService> {
  const queue = await JobQueue.open(databaseUrl);
  const lock = new WorkerLock(databaseUrl);
  const desk: HandoffDesk = new HandoffDesk({
    db,
    queue,
    dataFolder,
    renderer: renders ? renderer : null,
    stopHere: (id) => worker?.stop(id),
  });
  const worker = renders ? new ChunkWorker({ db, queue, lock, renderer }, (key) => desk.arrived(key)) : null;
  return {
    desk,
    close: async () => {
      // Unlocked first, so that the worker does not wait for a lock while it is asked to end.
      const closing = worker?.close();
      await lock.close();
      await Promise.all([closing, desk.close()]);
      await queue.close();
    },
  };
}
