import { JobQueue } from '../db/connection/job-queue.ts';
import { LifeLock } from '../db/connection/life-lock.ts';
import type { Database } from '../db/connection/queryable.ts';
import { ChunkWorker } from '../farm/chunk-worker.ts';
import { engineName } from '../farm/engine.ts';
import type { FrameRenderer } from '../pictures/frame-renderer.ts';
import { HandoffDesk } from './handoff-desk.ts';

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
  const engine = await engineName();
  const queue = await JobQueue.open(databaseUrl, engine);
  const lock = new LifeLock(databaseUrl, 'worker', { engine });
  const deskLock = new LifeLock(databaseUrl, 'desk');
  const desk: HandoffDesk = new HandoffDesk({
    db,
    queue,
    lock: deskLock,
    engine,
    dataFolder,
    renderer: renders ? renderer : null,
    stopHere: (id) => worker?.stop(id),
  });
  const worker = renders
    ? new ChunkWorker({ db, queue, lock, renderer, engine }, (key) => desk.arrived(key))
    : null;
  return {
    desk,
    close: async () => {
      // Unlocked first, so that the worker does not wait for a lock while it is asked to end.
      const closing = worker?.close();
      await Promise.all([lock.close(), deskLock.close()]);
      await Promise.all([closing, desk.close()]);
      await queue.close();
    },
  };
}
