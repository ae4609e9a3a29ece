import type { HandoffItem } from '@keen-ridge/core/export';
import { LRUCache } from 'lru-cache';
import { isDatabaseGone, pause, whenBack } from '../db/connection/database-gone.ts';
import type { ChunkJob, JobQueue } from '../db/connection/job-queue.ts';
import type { LifeLock } from '../db/connection/life-lock.ts';
import type { Database } from '../db/connection/queryable.ts';
import { hasFrame, keepFrame } from '../db/frames.ts';
import { type Chunk, progressOf, readHandoff, sayChunk, sayProgress, takeChunk } from '../db/handoffs.ts';
import { isDiskFull, logFault } from '../faults/cause.ts';
import { outputReason } from '../film/film-writer.ts';
import { type Drawn, pngOfFrame } from '../pictures/encode-frame.ts';
import { ArtMissing, type FrameRenderer } from '../pictures/frame-renderer.ts';
import { inOrder } from './in-order.ts';
import { itemsOf, type PicturesAsked, pictureOf, planOfItem } from './planned-pictures.ts';

const IDLE_MS = 150;
const AWAY_MS = 500;
/** Chunks under way at once, so that the encoders of one run beside the kernel of the next. */
const AT_ONCE = 2;
/** Frames under way beside those that are being rendered. */
const AHEAD = 2;
/** How often a chunk is begun, by whoever, before what stops it counts as a fault of the hand-off. */
const MOST_ATTEMPTS = 4;

export interface ChunkWorkerParts {
  readonly db: Database;
  readonly queue: JobQueue;
  readonly lock: LifeLock;
  readonly renderer: FrameRenderer;
  /** The build that it draws by: only chunks for it are taken. */
  readonly engine: string;
}

/** Renders chunks of any hand-off, in any process that reaches the database, until it is closed. */
export class ChunkWorker {
  private readonly parts: ChunkWorkerParts;
  private readonly loops: Promise<void>[];
  private readonly onFrame: (key: string) => void;
  /** Hand-offs with chunks under way here, and how many. */
  private readonly running = new Map<string, { abort: AbortController; chunks: number }>();
  private readonly known = new LRUCache<string, { asked: PicturesAsked; items: HandoffItem[] }>({
    max: AT_ONCE * 2,
  });
  private readonly closing = new AbortController();
  /** Frames that this worker has rendered. */
  framesDone = 0;

  constructor(parts: ChunkWorkerParts, onFrame: (key: string) => void = () => {}) {
    this.parts = parts;
    this.onFrame = onFrame;
    this.loops = Array.from({ length: AT_ONCE }, () => this.loop());
  }

  /** Stops the frames of one hand-off at once, if any are under way here. */
  stop(handoffId: string): void {
    this.running.get(handoffId)?.abort.abort(new Error('The hand-off was ended'));
  }

  async close(): Promise<void> {
    this.closing.abort(new Error('The worker was closed'));
    for (const { abort } of this.running.values()) abort.abort(this.closing.signal.reason);
    await Promise.all(this.loops);
  }

  private async loop(): Promise<void> {
    const { queue, lock } = this.parts;
    const { signal } = this.closing;
    let job: ChunkJob | null = null;
    // What closing, a fault or a database that went away has cut short: another process may take it at once.
    const giveBack = async (): Promise<void> => {
      if (job) await queue.giveBack(job);
      job = null;
    };
    while (!signal.aborted) {
      try {
        const workerLock = await lock.held();
        await giveBack();
        if (signal.aborted) return;
        job = await queue.take();
        if (!job) {
          await pause(IDLE_MS, signal);
          continue;
        }
        const isOver = await this.render(job.chunkId, workerLock);
        if (isOver && !signal.aborted) {
          await queue.done(job);
          job = null;
          continue;
        }
        if (!isOver) await pause(AWAY_MS, signal);
        await giveBack();
      } catch (error) {
        if (signal.aborted) return;
        if (!isDatabaseGone(error)) logFault('A worker met a fault', error);
        await pause(AWAY_MS, signal);
      }
    }
  }

  /** False: the chunk goes round again, to this process or another. */
  private async render(chunkId: string, workerLock: number): Promise<boolean> {
    const { db, engine } = this.parts;
    const chunk = await takeChunk(db, chunkId, { workerLock, engine });
    if (!chunk || !(await this.isWanted(chunk.handoffId))) return true;
    const under = this.running.get(chunk.handoffId) ?? { abort: new AbortController(), chunks: 0 };
    this.running.set(chunk.handoffId, under);
    under.chunks += 1;
    const { abort } = under;
    try {
      await this.renderFrames(chunk, abort.signal);
      return true;
    } catch (error) {
      // A database that is away is waited for by the loop; what the artist or this worker ended is no fault.
      if (isDatabaseGone(error)) throw error;
      if (abort.signal.aborted) return true;
      logFault('A chunk could not be rendered', error);
      if (!mayNeverWork(error) && chunk.attempts < MOST_ATTEMPTS) return false;
      const reason = outputReason(error);
      await whenBack(() => sayProgress(db, chunk.handoffId, { state: 'failed', reason }), {
        forMs: Number.POSITIVE_INFINITY,
        forRoom: true,
        signal: this.closing.signal,
      });
      return true;
    } finally {
      under.chunks -= 1;
      if (under.chunks === 0) this.running.delete(chunk.handoffId);
    }
  }

  private async isWanted(handoffId: string): Promise<boolean> {
    const state = (await progressOf(this.parts.db, handoffId))?.state;
    return state === 'queued' || state === 'running';
  }

  private async renderFrames(chunk: Chunk, signal: AbortSignal): Promise<void> {
    const { db, renderer } = this.parts;
    const { asked, items } = await this.askedFor(chunk.handoffId);
    let done = 0;
    const produce = async ({ item: index, key }: Chunk['frames'][number]): Promise<Uint8Array | null> => {
      if (await hasFrame(db, key)) return null;
      const item = items[index];
      if (!item) throw new Error(`The hand-off has no picture ${index}`);
      const picture = pictureOf(asked, item);
      const pack = (drawn: Drawn): Promise<Uint8Array> => {
        signal.throwIfAborted();
        return pngOfFrame(drawn, picture.ground !== 'clear');
      };
      return renderer.usePicture(planOfItem(asked, item), picture, pack, signal);
    };
    const keep = async (png: Uint8Array | null, { key }: Chunk['frames'][number]) => {
      if (png) {
        await keepFrame(db, key, png);
        this.framesDone += 1;
      }
      this.onFrame(key);
      done += 1;
      await sayChunk(db, chunk.id, done, done === chunk.frames.length);
      if (!(await this.isWanted(chunk.handoffId))) throw this.ended(chunk.handoffId);
    };
    await renderer.withArt(asked.scene, () =>
      inOrder(chunk.frames, renderer.threads + AHEAD, produce, keep, signal),
    );
  }

  /** Another process, or the server, ended it: what is under way here stops too. */
  private ended(handoffId: string): Error {
    const error = new Error('The hand-off was ended');
    this.running.get(handoffId)?.abort.abort(error);
    return error;
  }

  private async askedFor(handoffId: string): Promise<{ asked: PicturesAsked; items: HandoffItem[] }> {
    const known = this.known.get(handoffId);
    if (known) return known;
    const asked = await readHandoff(this.parts.db, handoffId);
    const read = { asked, items: itemsOf(asked) };
    this.known.set(handoffId, read);
    return read;
  }
}

/** Trying again changes nothing as long as nobody has brought the art back or made room. */
const mayNeverWork = (error: unknown): boolean => error instanceof ArtMissing || isDiskFull(error);
