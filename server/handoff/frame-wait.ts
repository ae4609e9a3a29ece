import { whenBack } from '../db/connection/database-gone.ts';
import type { Database } from '../db/connection/queryable.ts';
import { readFrame } from '../db/frames.ts';
import { chunkProgress, progressOf } from '../db/handoffs.ts';
import { notFound } from '../faults/problems.ts';

const WAIT_MS = 150;

/** Times that frames which went missing are asked for again. */
const REPLANS = 5;

/** Waits for frames, told of those that are rendered here and looking for those that are rendered elsewhere. */
export class FrameWait {
  private readonly db: Database;
  private readonly arrivals: Map<string, Set<() => void>>;
  private readonly replan: () => Promise<unknown>;
  private readonly closing: AbortSignal;
  private replans = 0;

  constructor(
    db: Database,
    arrivals: Map<string, Set<() => void>>,
    replan: () => Promise<unknown>,
    closing: AbortSignal,
  ) {
    this.closing = closing;
    this.db = db;
    this.arrivals = arrivals;
    this.replan = replan;
  }

  async png(handoffId: string, key: string, signal: AbortSignal): Promise<Uint8Array> {
    for (let looks = 1; ; looks++) {
      signal.throwIfAborted();
      const png = await this.patiently(() => readFrame(this.db, key));
      if (png) return png;
      if (looks % 20 === 0) await this.check(handoffId, key);
      await this.arrival(key, signal);
    }
  }

  private async check(handoffId: string, key: string): Promise<void> {
    const progress = await this.patiently(() => progressOf(this.db, handoffId));
    if (!progress) throw notFound('This hand-off');
    if (progress.state === 'failed') throw new Error(progress.reason);
    const { open } = await this.patiently(() => chunkProgress(this.db, handoffId));
    if (open > 0 || (await this.patiently(() => readFrame(this.db, key)))) return;
    this.replans += 1;
    if (this.replans > REPLANS) throw new Error('A frame was rendered and went missing, again and again');
    // All chunks are done and it is still not there: it was given up meanwhile, or its job was lost.
    await this.patiently(this.replan);
  }

  private patiently<T>(work: () => Promise<T>): Promise<T> {
    return whenBack(work, { signal: this.closing });
  }

  private arrival(key: string, signal: AbortSignal): Promise<void> {
    return new Promise((resolve) => {
      const waiting = this.arrivals.get(key) ?? new Set();
      this.arrivals.set(key, waiting);
      const done = () => {
        clearTimeout(timer);
        signal.removeEventListener('abort', done);
        waiting.delete(done);
        if (waiting.size === 0) this.arrivals.delete(key);
        resolve();
      };
      const timer = setTimeout(done, WAIT_MS);
      signal.addEventListener('abort', done);
      waiting.add(done);
    });
  }
}
