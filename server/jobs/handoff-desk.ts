import { mkdirSync } from 'node:fs';
import { rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { HandoffList, HandoffRequest, HandoffState } from '@keen-ridge/core/contract';
import { handoffSchema } from '@keen-ridge/core/contract';
import {
  fileStem,
  firstNumber,
  framesWanted,
  HANDOFF_FORMATS,
  type HandoffItem,
} from '@keen-ridge/core/export';
import type { Database } from '../db/database.ts';
import { isDatabaseGone, whenBack } from '../db/database-gone.ts';
import { filmToolPresent, outputFault } from '../film/film-writer.ts';
import { type FrameRenderer, scaledSize } from '../services/frame-renderer.ts';
import { notFound, ProblemError } from '../services/problems.ts';
import { readShot } from '../services/shots.ts';
import { pruneFrames, readFrame, touchFrames } from '../storage/frame-store.ts';
import {
  activeHandoffs,
  addHandoff,
  type Chunk,
  chunkProgress,
  chunksWithoutJob,
  dropChunks,
  dropOldHandoffs,
  freeLeftChunks,
  listedHandoffs,
  moveHandoff,
  progressOf,
  readHandoff,
  type StoredHandoff,
  sayProgress,
  setChunks,
} from './handoff-store.ts';
import type { JobQueue } from './job-queue.ts';
import { itemsOf, keysOf, pictureOf, planOfItem } from './planned-pictures.ts';
import { livingWorkers } from './worker-lock.ts';
import { type OutputWork, writeOutput } from './write-output.ts';

/** Hand-offs whose files are written at once; the others wait their turn, though their frames may come already. */
const WRITTEN_AT_ONCE = 2;
const LOOK_EVERY_MS = 400;
/** Jobs that were lost are rare: they are looked for once in so many looks. */
const LOST_EVERY = 5;
const PROGRESS_EVERY_MS = 250;
/** Output px of a chunk: about a second of work. */
const CHUNK_PX = 8 * 1920 * 1080;
const MOST_IN_CHUNK = 64;
/** Ended hand-offs that are kept for each shot, with their files. */
const KEPT_PER_SHOT = 30;
/** Times that frames which went missing are asked for again. */
const REPLANS = 5;

export interface HandoffDeskParts {
  readonly db: Database;
  readonly queue: JobQueue;
  readonly dataFolder: string;
  /** Where this process renders itself; null where others do it. */
  readonly renderer: FrameRenderer | null;
  /** Stops what the worker of this process renders for a hand-off. */
  readonly stopHere: (handoffId: string) => void;
}

/**
 * Takes hand-offs, cuts them into chunks for the queue, and writes their files as the frames come, whoever renders them.
 * All that counts lies in the database: a killed server takes it up again.
 */
export class HandoffDesk {
  private readonly parts: HandoffDeskParts;
  private readonly folder: string;
  private readonly written = new Map<string, { abort: AbortController; ended: Promise<void> }>();
  private readonly arrivals = new Map<string, Set<() => void>>();
  private readonly closing = new AbortController();
  private watch: Promise<void> | null = null;
  private looks = 0;
  private wake: () => void = () => {};

  constructor(parts: HandoffDeskParts) {
    this.parts = parts;
    this.folder = join(parts.dataFolder, 'handoffs');
    mkdirSync(this.folder, { recursive: true });
  }

  /** Takes up what an earlier server left, then looks after the queue until it is closed. */
  async start(): Promise<void> {
    this.watch ??= this.look();
  }

  async ask(shotId: string, request: HandoffRequest): Promise<string> {
    const shot = await readShot(this.parts.db, shotId);
    const format = HANDOFF_FORMATS[request.kind];
    if (request.lastFrame > shot.scene.lengthFrames) {
      throw new ProblemError(
        'bad-request',
        `The shot ends at frame ${shot.scene.lengthFrames}; frame ${request.lastFrame} was asked for.`,
      );
    }
    const { widthPx, heightPx } = scaledSize(shot.scene, request.scale);
    if (Math.max(widthPx, heightPx) > format.mostPx) {
      throw new ProblemError(
        'bad-request',
        `${request.kind} holds ${format.mostPx} px to a side at most; this would be ${widthPx} × ${heightPx}.`,
      );
    }
    if (format.made === 'film' && !filmToolPresent()) {
      throw new ProblemError(
        'film-tool-missing',
        'Films need ffmpeg: sudo apt-get install ffmpeg, then try again.',
      );
    }
    const asked = { scene: shot.scene, shotName: shot.name, request };
    const total = itemsOf(asked).length;
    if (total === 0)
      throw new ProblemError('bad-request', 'No plane is shown, so there is none to hand off.');
    const id = await addHandoff(this.parts.db, { shotId, ...asked, progress: { state: 'queued', total } });
    this.wake();
    return id;
  }

  async list(shotId: string): Promise<HandoffList> {
    const rows = await listedHandoffs(this.parts.db, shotId);
    return {
      handoffs: rows.map(({ madeAt, ...row }) => handoffSchema.parse({ ...row, at: madeAt.toISOString() })),
      filmReady: filmToolPresent(),
      workers: (await livingWorkers(this.parts.db)).size,
    };
  }

  async cancel(id: string): Promise<void> {
    await readHandoff(this.parts.db, id);
    await sayProgress(this.parts.db, id, { state: 'cancelled' });
    await this.drop(id);
  }

  /** Puts it before or behind its neighbour in the queue. */
  async move(id: string, way: 'sooner' | 'later'): Promise<void> {
    if (!(await moveHandoff(this.parts.db, id, way)))
      throw new ProblemError('bad-request', `Nothing waits ${way === 'sooner' ? 'before' : 'behind'} it.`);
    this.wake();
  }

  /** The finished file, with the name it should be saved under. */
  async file(id: string): Promise<{ path: string; fileName: string }> {
    const handoff = await readHandoff(this.parts.db, id);
    if (handoff.progress.state !== 'done')
      throw new ProblemError('not-ready', 'This hand-off is not finished.');
    if (handoff.progress.folder !== null)
      throw new ProblemError('not-ready', `Its frames lie in ${handoff.progress.folder}.`);
    return { path: this.path(handoff), fileName: handoff.progress.fileName };
  }

  /** A frame was rendered: whoever waits for it looks at once. */
  arrived(key: string): void {
    for (const told of this.arrivals.get(key) ?? []) told();
  }

  async close(): Promise<void> {
    this.closing.abort(new Error('The server was closed'));
    this.wake();
    for (const { abort } of this.written.values()) abort.abort(this.closing.signal.reason);
    await Promise.all([this.watch, ...[...this.written.values()].map(({ ended }) => ended)]);
  }

  private path = ({ id, request }: Pick<StoredHandoff, 'id' | 'request'>): string =>
    join(this.folder, request.target === 'folder' ? id : `${id}.${HANDOFF_FORMATS[request.kind].extension}`);

  /** Starts those whose turn it is, ends those that were ended elsewhere, and frees what dead workers left. */
  private async look(): Promise<void> {
    const { db } = this.parts;
    let pruned = false;
    while (!this.closing.signal.aborted) {
      try {
        const active = await activeHandoffs(db);
        const ids = new Set(active.map(({ id }) => id));
        for (const [id, { abort }] of this.written)
          if (!ids.has(id)) abort.abort(new Error('The hand-off was ended'));
        for (const { id } of active.slice(0, WRITTEN_AT_ONCE)) if (!this.written.has(id)) this.begin(id);
        if (active.length > 0) await this.freeLeft(active);
        else if (!pruned) await this.prune();
        pruned = active.length === 0;
      } catch (error) {
        if (!isDatabaseGone(error)) console.error(error);
      }
      await this.pause(LOOK_EVERY_MS);
    }
  }

  private pause(ms: number): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, ms);
      this.wake = () => {
        clearTimeout(timer);
        resolve();
      };
      if (this.closing.signal.aborted) this.wake();
    });
  }

  private async freeLeft(active: readonly { id: string; queueNumber: number }[]): Promise<void> {
    const { db, queue } = this.parts;
    const freed = await freeLeftChunks(db, await livingWorkers(db));
    this.looks += 1;
    const lost = this.looks % LOST_EVERY === 0 ? await chunksWithoutJob(db) : [];
    const left = [...freed, ...lost];
    for (const { id, queueNumber } of active) {
      const chunks = [...new Set(left.filter(({ handoffId }) => handoffId === id).map((chunk) => chunk.id))];
      if (chunks.length > 0) await queue.put(id, chunks, queueNumber, { left: true });
    }
  }

  /** Files and rows of old hand-offs, and frames that were not used for long, are given up. */
  private async prune(): Promise<void> {
    const dropped = await dropOldHandoffs(this.parts.db, KEPT_PER_SHOT);
    const endings = new Set(Object.values(HANDOFF_FORMATS).map(({ extension }) => `.${extension}`));
    for (const { id } of dropped)
      for (const ending of ['', ...endings])
        await rm(join(this.folder, `${id}${ending}`), { recursive: true, force: true });
    await pruneFrames(this.parts.db);
  }

  private begin(id: string): void {
    const abort = new AbortController();
    const ended = this.write(id, abort.signal)
      .catch((error: unknown) => console.error(error))
      .finally(() => {
        this.written.delete(id);
        this.wake();
      });
    this.written.set(id, { abort, ended });
  }

  private async write(id: string, signal: AbortSignal): Promise<void> {
    const { db } = this.parts;
    const handoff = await whenBack(() => readHandoff(db, id));
    const path = this.path(handoff);
    const part = `${path}.part`;
    try {
      const done = await this.writePart(handoff, part, signal);
      await rm(path, { recursive: true, force: true });
      await rename(part, path);
      const isFolder = handoff.request.target === 'folder';
      const bytes = isFolder ? 0 : (await stat(path)).size;
      if (bytes === 0 && !isFolder) throw new Error('The file came out empty');
      await whenBack(() => sayProgress(db, id, { ...done, bytes, folder: isFolder ? path : null }));
    } catch (error) {
      await rm(part, { recursive: true, force: true });
      // Closing leaves it as it was, for the next server; ending is said by whoever ended it.
      if (this.closing.signal.aborted || signal.aborted) return;
      console.error(error);
      const fault = outputFault(error);
      const reason = fault instanceof Error ? fault.message : String(fault);
      await whenBack(() => sayProgress(db, id, { state: 'failed', reason }));
    }
    await whenBack(() => this.drop(id));
  }

  private async writePart(
    handoff: StoredHandoff,
    path: string,
    signal: AbortSignal,
  ): Promise<Extract<HandoffState, { state: 'done' }>> {
    const { db } = this.parts;
    const { id, request } = handoff;
    const startedAt = new Date();
    const items = itemsOf(handoff);
    const total = items.length;
    const say = (progress: HandoffState) => whenBack(() => sayProgress(db, id, progress));
    await say({ state: 'running', done: 0, total, rendered: 0, secondsLeft: null });
    const direct = await this.rendersHere(request);
    const keys = direct ? [] : await keysOf(handoff, items, signal);
    const planned = direct ? { reused: 0 } : await whenBack(() => this.plan(handoff, keys));
    let saying = Promise.resolve();
    let saidAt = 0;
    const onPicture = (done: number) => {
      if (Date.now() - saidAt < PROGRESS_EVERY_MS) return;
      saidAt = Date.now();
      saying = saying.then(async () => {
        const rendered = Math.max(
          done,
          planned.reused + (await whenBack(() => chunkProgress(db, id))).rendered,
        );
        const secondsLeft = ((Date.now() - startedAt.getTime()) / 1000 / done) * (total - done);
        await say({ state: 'running', done, total, rendered: Math.min(total, rendered), secondsLeft });
      });
      saying.catch((error: unknown) => console.error(error));
    };
    const waiting = new FrameWait(this.parts.db, this.arrivals, () => this.plan(handoff, keys));
    const pngOf = (index: number) => waiting.png(id, keys[index] as string, signal);
    const output = { asked: handoff, items, pngOf, path, startedAt, signal, onPicture };
    await (direct ? this.writeHere(direct, output) : writeOutput(output));
    await saying;
    const stem = fileStem(handoff.shotName);
    const first = firstNumber(request);
    const frames = framesWanted(request).length;
    const ending = HANDOFF_FORMATS[request.kind].extension;
    const last = HANDOFF_FORMATS[request.kind].made === 'sheet' ? request.lastFrame : first + frames - 1;
    const seconds = (Date.now() - startedAt.getTime()) / 1000;
    const fileName = `${stem}_${first}-${last}.${ending}`;
    return { state: 'done', total, fileName, bytes: 0, seconds, reused: planned.reused, folder: null };
  }

  /**
   * The renderer that makes the frames of a film straight into its encoder: where nobody else renders, that is far quicker
   * than packing, storing and unpacking every frame. Null where frames go by way of the queue.
   */
  private async rendersHere(request: HandoffRequest): Promise<FrameRenderer | null> {
    const { db, renderer } = this.parts;
    if (!renderer || HANDOFF_FORMATS[request.kind].made !== 'film') return null;
    return (await whenBack(() => livingWorkers(db))).size <= 1 ? renderer : null;
  }

  private writeHere(renderer: FrameRenderer, output: OutputWork): Promise<void> {
    const { asked, items, signal } = output;
    const rgbaOf = async (index: number): Promise<Uint8Array> => {
      const item = items[index] as HandoffItem;
      const rendered = await renderer.renderPicture(planOfItem(asked.scene, item), pictureOf(asked, item), {
        signal,
      });
      return rendered.data as Uint8Array;
    };
    const ahead = renderer.threads + 2;
    return renderer.withArt(asked.scene, () => writeOutput({ ...output, rgbaOf, ahead }));
  }

  /** Puts the frames that are not there yet into the queue. Returns how many pictures are there already. */
  private async plan(handoff: StoredHandoff, keys: readonly string[]): Promise<{ reused: number }> {
    const { db, queue } = this.parts;
    const there = await touchFrames(db, [...new Set(keys)]);
    const first = new Map<string, number>();
    keys.forEach((key, item) => {
      if (!there.has(key) && !first.has(key)) first.set(key, item);
    });
    const missing = [...first].map(([key, item]) => ({ key, item }));
    const { widthPx, heightPx } = scaledSize(handoff.scene, handoff.request.scale);
    const size = Math.max(1, Math.min(MOST_IN_CHUNK, Math.round(CHUNK_PX / (widthPx * heightPx))));
    const chunks: Chunk['frames'][] = [];
    for (let i = 0; i < missing.length; i += size) chunks.push(missing.slice(i, i + size));
    const ids = await setChunks(db, handoff.id, chunks);
    if (ids.length > 0) await queue.put(handoff.id, ids, handoff.queueNumber);
    return { reused: keys.filter((key) => there.has(key)).length };
  }

  private async drop(id: string): Promise<void> {
    this.written.get(id)?.abort.abort(new Error('The hand-off was ended'));
    this.parts.stopHere(id);
    await dropChunks(this.parts.db, id);
    this.wake();
  }
}

const WAIT_MS = 150;

/** Waits for frames, told of those that are rendered here and looking for those that are rendered elsewhere. */
class FrameWait {
  private readonly db: Database;
  private readonly arrivals: Map<string, Set<() => void>>;
  private readonly replan: () => Promise<unknown>;
  private replans = 0;

  constructor(db: Database, arrivals: Map<string, Set<() => void>>, replan: () => Promise<unknown>) {
    this.db = db;
    this.arrivals = arrivals;
    this.replan = replan;
  }

  async png(handoffId: string, key: string, signal: AbortSignal): Promise<Uint8Array> {
    for (let looks = 1; ; looks++) {
      signal.throwIfAborted();
      const png = await whenBack(() => readFrame(this.db, key));
      if (png) return png;
      if (looks % 20 === 0) await this.check(handoffId, key);
      await this.arrival(key, signal);
    }
  }

  private async check(handoffId: string, key: string): Promise<void> {
    const progress = await whenBack(() => progressOf(this.db, handoffId));
    if (!progress) throw notFound('This hand-off');
    if (progress.state === 'failed') throw new Error(progress.reason);
    const { open } = await whenBack(() => chunkProgress(this.db, handoffId));
    if (open > 0 || (await whenBack(() => readFrame(this.db, key)))) return;
    this.replans += 1;
    if (this.replans > REPLANS) throw new Error('A frame was rendered and went missing, again and again');
    // All chunks are done and it is still not there: it was given up meanwhile, or its job was lost.
    await whenBack(this.replan);
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
