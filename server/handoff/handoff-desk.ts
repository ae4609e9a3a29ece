import { mkdirSync } from 'node:fs';
import { access, rm, stat } from 'node:fs/promises';
import type { HandoffList, HandoffRequest, HandoffState } from '@keen-ridge/core/contract';
import { fileStem, HANDOFF_FORMATS, type HandoffItem, outputName } from '@keen-ridge/core/export';
import { isDatabaseGone, type Patience, whenBack } from '../db/connection/database-gone.ts';
import type { JobQueue } from '../db/connection/job-queue.ts';
import { type LifeLock, livingWorkers } from '../db/connection/life-lock.ts';
import type { Database } from '../db/connection/queryable.ts';
import { touchFrames } from '../db/frames.ts';
import {
  activeHandoffs,
  addHandoff,
  chunkProgress,
  chunksWithoutJob,
  claimHandoffs,
  deleteHandoff,
  freeLeftChunks,
  isHandoff,
  moveHandoff,
  readHandoff,
  renameHandoff,
  renewClaims,
  type StoredHandoff,
  sayProgress,
  setChunks,
} from '../db/handoffs.ts';
import { readSetUp } from '../db/shots.ts';
import { itemsOf, keysOf, pictureOf, planOfItem } from '../farm/planned-pictures.ts';
import { logFault } from '../faults/cause.ts';
import { notFound, ProblemError } from '../faults/problems.ts';
import { outputReason } from '../film/film-writer.ts';
import { type FrameRenderer, scaledSize } from '../pictures/frame-renderer.ts';
import { settle } from '../storage/durable.ts';
import { chunksOf } from './chunks-of.ts';
import { FrameWait } from './frame-wait.ts';
import { handoffFolder, pathOfHandoff } from './handoff-path.ts';
import { handoffToMake } from './handoff-to-make.ts';
import { listHandoffs } from './listed-handoffs.ts';
import { pruneHandoffs } from './old-handoffs.ts';
import { withSoundFile } from './sound-file.ts';
import { type OutputToWrite, writeOutput } from './write-output.ts';

/** Hand-offs whose files are written at once; the others wait their turn, though their frames may come already. */
const WRITTEN_AT_ONCE = 2;
const LOOK_EVERY_MS = 400;
/** Jobs that were lost are rare: they are looked for once in so many looks. */
const LOST_EVERY = 5;
const PROGRESS_EVERY_MS = 250;
/** How often old hand-offs and kept frames are looked through. */
const PRUNE_EVERY_MS = 60_000;

export interface HandoffDeskParts {
  readonly db: Database;
  readonly queue: JobQueue;
  /** Its sign of life, under which it claims hand-offs: two servers never write the same one. */
  readonly lock: LifeLock;
  /** The build by which its frames are drawn and named. */
  readonly engine: string;
  readonly dataFolder: string;
  /** Where this process renders itself; null where others do it. */
  readonly renderer: FrameRenderer | null;
  /** Stops what the worker of this process renders for a hand-off. */
  readonly stopHere: (handoffId: string) => void;
}

/**
 * Takes hand-offs, cuts them into chunks for the queue, and writes their files as the frames come, whoever renders them.
 * All that counts lies in the database: what a killed server has left, another or the next one takes up.
 */
export class HandoffDesk {
  private readonly parts: HandoffDeskParts;
  private readonly folder: string;
  private readonly written = new Map<string, { abort: AbortController; ended: Promise<void> }>();
  private readonly arrivals = new Map<string, Set<() => void>>();
  private readonly closing = new AbortController();
  private watch: Promise<void> | null = null;
  private looks = 0;
  private prunedAt = Number.NEGATIVE_INFINITY;
  /** The lock under which the hand-offs in `written` are claimed. */
  private claim = 0;
  private wake: () => void = () => {};

  constructor(parts: HandoffDeskParts) {
    this.parts = parts;
    this.folder = handoffFolder(parts.dataFolder);
    mkdirSync(this.folder, { recursive: true });
  }

  /** Takes up what an earlier server left, then looks after the queue until it is closed. */
  async start(): Promise<void> {
    this.watch ??= this.look();
  }

  async ask(shotId: string, wanted: HandoffRequest): Promise<string> {
    const shot = await readSetUp(this.parts.db, shotId);
    const { total, ...asked } = handoffToMake(shot, wanted);
    const id = await addHandoff(this.parts.db, { shotId, ...asked, progress: { state: 'queued', total } });
    this.wake();
    return id;
  }

  list(shotId: string): Promise<HandoffList> {
    return listHandoffs(this.parts, shotId);
  }

  async cancel(id: string): Promise<void> {
    // Not read: what is in it may be just what has to be ended.
    if (!(await isHandoff(this.parts.db, id))) throw notFound('This hand-off');
    await sayProgress(this.parts.db, id, { state: 'cancelled' });
    this.stop(id);
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
    const path = this.path(handoff);
    const isHere = await access(path).then(
      () => true,
      () => false,
    );
    if (!isHere)
      throw new ProblemError(
        'not-ready',
        `Its file lies on the machine that wrote it, or was deleted: ${path}.`,
      );
    return { path, fileName: handoff.progress.fileName };
  }

  /** Under another name from now on; its ending stays. */
  async rename(id: string, name: string): Promise<void> {
    const { progress, request } = await readHandoff(this.parts.db, id);
    if (progress.state !== 'done') throw new ProblemError('not-ready', 'This hand-off is not finished.');
    const { extension } = HANDOFF_FORMATS[request.kind];
    const stem = fileStem(name.replace(new RegExp(`\\.${extension}$`, 'i'), ''));
    await renameHandoff(this.parts.db, id, { ...progress, fileName: `${stem}.${extension}` });
  }

  /** Takes an ended hand-off off the list, and its file from the disk; a folder that was written stays. */
  async remove(id: string): Promise<void> {
    const handoff = await readHandoff(this.parts.db, id);
    if (!(await deleteHandoff(this.parts.db, id)))
      throw new ProblemError('not-ready', 'It is still being made: cancel it first.');
    if (handoff.request.target !== 'folder') await rm(this.path(handoff), { force: true });
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

  private path = (handoff: Parameters<typeof pathOfHandoff>[0]): string =>
    pathOfHandoff(handoff, this.folder);

  /** Claims those whose turn it is, ends those that were ended elsewhere, and frees what dead workers left. */
  private async look(): Promise<void> {
    const { db, lock } = this.parts;
    while (!this.closing.signal.aborted) {
      try {
        await this.keepClaims(await lock.held());
        if (this.closing.signal.aborted) return;
        const active = await activeHandoffs(db);
        const ids = new Set(active.map(({ id }) => id));
        for (const [id, { abort }] of this.written)
          if (!ids.has(id)) abort.abort(new Error('The hand-off was ended'));
        const room = WRITTEN_AT_ONCE - this.written.size;
        if (room > 0 && active.length > 0) for (const id of await this.claimed(room)) this.begin(id);
        await this.freeLeft(active.filter(({ id }) => this.written.has(id)));
        if (performance.now() - this.prunedAt > PRUNE_EVERY_MS) {
          await pruneHandoffs(db, this.folder, this.written);
          this.prunedAt = performance.now();
        }
      } catch (error) {
        if (!isDatabaseGone(error)) logFault('The desk of hand-offs met a fault', error);
      }
      await this.pause(LOOK_EVERY_MS);
    }
  }

  private claimed(most: number): Promise<string[]> {
    const claim = { lock: this.claim, folder: this.folder };
    return claimHandoffs(this.parts.db, claim, [...this.written.keys()], most);
  }

  /** A lost connection took the lock with it: what no other desk has claimed meanwhile stays ours under the new one. */
  private async keepClaims(lock: number): Promise<void> {
    if (lock === this.claim) return;
    const kept = new Set(await renewClaims(this.parts.db, [...this.written.keys()], this.claim, lock));
    this.claim = lock;
    for (const [id, { abort }] of this.written)
      if (!kept.has(id)) abort.abort(new ClaimLost('Another server has taken the hand-off over'));
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

  private async freeLeft(own: readonly { id: string; queueNumber: number }[]): Promise<void> {
    if (own.length === 0) return;
    const { db, queue } = this.parts;
    const freed = await freeLeftChunks(
      db,
      own.map(({ id }) => id),
      await livingWorkers(db),
    );
    this.looks += 1;
    const lost = this.looks % LOST_EVERY === 0 ? await chunksWithoutJob(db) : [];
    const orphaned = [...freed, ...lost];
    for (const { id, queueNumber } of own) {
      const chunks = [
        ...new Set(orphaned.filter(({ handoffId }) => handoffId === id).map((chunk) => chunk.id)),
      ];
      if (chunks.length > 0) await queue.put(id, chunks, queueNumber, { orphaned: true });
    }
  }

  private begin(id: string): void {
    const abort = new AbortController();
    const ended = this.write(id, abort.signal)
      .catch((error: unknown) => {
        if (!this.closing.signal.aborted) logFault(`Hand-off ${id}`, error);
      })
      .finally(() => {
        this.written.delete(id);
        this.wake();
      });
    this.written.set(id, { abort, ended });
  }

  private async write(id: string, signal: AbortSignal): Promise<void> {
    let part: string | null = null;
    try {
      const handoff = await this.patiently(() => readHandoff(this.parts.db, id));
      const path = this.path(handoff);
      part = `${path}.part`;
      if (handoff.request.target === 'folder') await rm(part, { recursive: true, force: true });
      const done = await this.writePart(handoff, part, signal);
      await rm(path, { recursive: true, force: true });
      await settle(part, path);
      const isFolder = handoff.request.target === 'folder';
      const bytes = isFolder ? 0 : (await stat(path)).size;
      if (bytes === 0 && !isFolder) throw new Error('The file came out empty');
      await this.say(id, { ...done, bytes, folder: isFolder ? path : null });
    } catch (error) {
      if (part !== null) await rm(part, { recursive: true, force: true });
      // Closing, and a claim that another desk has now, leave it as it is; ending is said by whoever ended it.
      if (this.closing.signal.aborted) return;
      if (error instanceof ClaimLost || signal.reason instanceof ClaimLost) return;
      if (!signal.aborted) {
        logFault(`Hand-off ${id} failed`, error);
        await this.say(id, { state: 'failed', reason: outputReason(error) }, UNTIL_SAID);
      }
    }
    this.stop(id);
  }

  /** Waits for a database that is away, but not for longer than the server runs. */
  private patiently<T>(work: () => Promise<T>, patience: Patience = {}): Promise<T> {
    return whenBack(work, { ...patience, signal: this.closing.signal });
  }

  /** Writes how far it is. Rejects with ClaimLost where it is not ours to say any more, or was ended. */
  private async say(id: string, progress: HandoffState, patience: Patience = {}): Promise<void> {
    const isSaid = await this.patiently(() => sayProgress(this.parts.db, id, progress, this.claim), patience);
    if (!isSaid) throw new ClaimLost('The hand-off was ended or taken over');
  }

  private async writePart(
    handoff: StoredHandoff,
    path: string,
    signal: AbortSignal,
  ): Promise<Extract<HandoffState, { state: 'done' }>> {
    const { db } = this.parts;
    const { id, request } = handoff;
    const startedAt = new Date();
    const began = performance.now();
    const items = itemsOf(handoff);
    const total = items.length;
    await this.say(id, { state: 'running', done: 0, total, rendered: 0, secondsLeft: null });
    const direct = await this.rendersHere(request);
    const keys = direct ? [] : await keysOf(handoff, items, signal);
    const planned = direct ? { reused: 0 } : await this.patiently(() => this.plan(handoff, keys));
    let saying = Promise.resolve();
    let saidAt = Number.NEGATIVE_INFINITY;
    const onPicture = (done: number) => {
      if (performance.now() - saidAt < PROGRESS_EVERY_MS) return;
      saidAt = performance.now();
      saying = saying.then(async () => {
        const chunks = await this.patiently(() => chunkProgress(db, id));
        const rendered = Math.max(done, planned.reused + chunks.rendered);
        const secondsLeft = ((performance.now() - began) / 1000 / done) * (total - done);
        await this.say(id, {
          state: 'running',
          done,
          total,
          rendered: Math.min(total, rendered),
          secondsLeft,
        });
      });
      // Told of where it is waited for; until then it is not an unhandled one.
      saying.catch(() => {});
    };
    const waiting = new FrameWait(
      this.parts.db,
      this.arrivals,
      () => this.plan(handoff, keys),
      this.closing.signal,
    );
    const pngOf = (index: number) => waiting.png(id, keys[index] as string, signal);
    await withSoundFile(db, handoff, path, (soundPath) => {
      const output = { asked: handoff, items, pngOf, path, soundPath, startedAt, signal, onPicture };
      return direct ? this.writeHere(direct, output) : writeOutput(output);
    });
    await saying;
    const seconds = (performance.now() - began) / 1000;
    const fileName = outputName(handoff.shotName, request);
    return { state: 'done', total, fileName, bytes: 0, seconds, reused: planned.reused, folder: null };
  }

  /**
   * The renderer that makes the frames of a film straight into its encoder: where nobody else renders, that is far quicker
   * than packing, storing and unpacking every frame. Null where frames go by way of the queue.
   */
  private async rendersHere(request: HandoffRequest): Promise<FrameRenderer | null> {
    const { db, renderer } = this.parts;
    if (!renderer || HANDOFF_FORMATS[request.kind].made !== 'film') return null;
    return (await this.patiently(() => livingWorkers(db))).size <= 1 ? renderer : null;
  }

  private writeHere(renderer: FrameRenderer, output: OutputToWrite): Promise<void> {
    const { asked, items, signal } = output;
    const rgbaOf = async (index: number): Promise<Uint8Array> => {
      const item = items[index] as HandoffItem;
      const rendered = await renderer.renderPicture(planOfItem(asked, item), pictureOf(asked, item), {
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
    const chunks = chunksOf(missing, scaledSize(handoff.scene, handoff.request.scale));
    const { engine } = this.parts;
    const ids = await setChunks(db, handoff.id, { chunks, engine, deskLock: this.claim });
    if (!ids) throw new ClaimLost('The hand-off was ended or taken over');
    if (ids.length > 0) await queue.put(handoff.id, ids, handoff.queueNumber);
    return { reused: keys.filter((key) => there.has(key)).length };
  }

  /** What is under way here for a hand-off that has ended stops at once. */
  private stop(id: string): void {
    this.written.get(id)?.abort.abort(new Error('The hand-off was ended'));
    this.parts.stopHere(id);
    this.wake();
  }
}

/** Another desk writes the hand-off now, or it was ended: this one leaves everything as it is. */
class ClaimLost extends Error {
  override readonly name = 'ClaimLost';
}

/** A failure is said in the end, however long the database is away or the disk is full. */
const UNTIL_SAID: Patience = { forMs: Number.POSITIVE_INFINITY, forRoom: true };
