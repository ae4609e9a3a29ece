import { type ChildProcess, spawn } from 'node:child_process';
import { totalmem } from 'node:os';
import { fileURLToPath } from 'node:url';
import type { ArtFault } from '@keen-ridge/core/art';
import { fail, type Result } from '@keen-ridge/core/units';
import type { ArtTask, ArtTaskResult } from '../art/art-tasks.ts';
import { isOutOfMemory } from '../art/decode.ts';
import type { KeptImage } from '../art/keep-image.ts';
import { logFault } from '../faults/cause.ts';
import { ProblemError } from '../faults/problems.ts';
import { dropDeadParts } from '../storage/levels-parts.ts';

export interface ToArtProcess {
  readonly task: ArtTask;
  /** Where PNGs of images go, one file an image. */
  readonly folder: string;
}
export type FromArtProcess =
  | { readonly kind: 'image'; readonly image: KeptImage }
  | { readonly kind: 'progress'; readonly done: number; readonly total: number; readonly what: string }
  /** A drawing is about to be rendered: nothing is heard until it is done, however long it takes. */
  | { readonly kind: 'drawing' }
  | { readonly kind: 'done'; readonly result: Result<ArtTaskResult, ArtFault>; readonly bytes: number }
  | { readonly kind: 'failed'; readonly message: string };

export interface ArtTaskHooks {
  readonly onImage: (image: KeptImage) => void;
  readonly onProgress?: (done: number, total: number, what: string) => void;
  readonly signal?: AbortSignal | undefined;
}

export interface ArtLimits {
  /** A task is given up after so long. */
  readonly taskMs: number;
  /** Longest time without a sign: one image of the largest size takes about a minute. */
  readonly quietMs: number;
  /** Longest time for rendering one drawing. */
  readonly drawingMs: number;
  /** Memory of the process, beside its program. */
  readonly bytes: number;
}

export const ART_LIMITS: ArtLimits = {
  taskMs: 20 * 60_000,
  quietMs: 4 * 60_000,
  drawingMs: 60_000,
  bytes: Math.min(10 * 2 ** 30, Math.floor(totalmem() / 2)),
};

/** Tasks at once, each in a process of its own. */
const AT_ONCE = 2;
/** Tasks that may wait beside them; more are refused. */
const MOST_WAITING = 200;
/** A process that has grown over this is not used again: what it holds would never come back. */
const FAT_BYTES = 500 * 2 ** 20;
const LAST_WORDS = 2000;

const CLOSED = 'The processes for images are closed';

/**
 * Heavy work on images, files of strangers among it, in processes with limits of memory and time. One that is
 * cancelled, runs away or breaks down is killed, native work and all; the program that asked stays as it is.
 */
export class ArtProcesses {
  private readonly levelsFolder: string;
  private readonly limits: ArtLimits;
  private readonly idle: ChildProcess[] = [];
  private readonly busy = new Set<ChildProcess>();
  private readonly waiting: (() => void)[] = [];
  private running = 0;
  private closed = false;

  constructor(levelsFolder: string, limits: Partial<ArtLimits> = {}) {
    this.levelsFolder = levelsFolder;
    this.limits = { ...ART_LIMITS, ...limits };
  }

  /** Starts a process that stands ready: its modules take seconds to load, which must not be on the first import's time. */
  warm(): void {
    this.refill();
  }

  /** Process ids of those that stand ready. */
  get idleIds(): number[] {
    return this.idle.flatMap(({ pid }) => (pid === undefined ? [] : [pid]));
  }

  /** Rejects with the signal's reason, and with ProblemError `busy` where too many wait. */
  async run(asked: ToArtProcess, hooks: ArtTaskHooks): Promise<Result<ArtTaskResult, ArtFault>> {
    hooks.signal?.throwIfAborted();
    await this.turn(hooks.signal);
    try {
      return await this.runNow(asked, hooks);
    } finally {
      // Whoever waits longest takes the place over, so that nobody who comes just now gets in between.
      const next = this.waiting.shift();
      if (next) next();
      else this.running -= 1;
    }
  }

  /** Resolves when it is this task's turn: it counts as running then. */
  private async turn(signal: AbortSignal | undefined): Promise<void> {
    if (this.closed) throw new Error(CLOSED);
    if (this.running < AT_ONCE) {
      this.running += 1;
      return;
    }
    if (this.waiting.length >= MOST_WAITING)
      throw new ProblemError('busy', 'Too many files are being read already. Try again in a minute.');
    await new Promise<void>((resolve, reject) => {
      const go = () => {
        signal?.removeEventListener('abort', give);
        resolve();
      };
      const give = () => {
        this.waiting.splice(this.waiting.indexOf(go), 1);
        reject(signal?.reason);
      };
      this.waiting.push(go);
      signal?.addEventListener('abort', give, { once: true });
    });
    if (this.closed) throw new Error(CLOSED);
  }

  private runNow(
    asked: ToArtProcess,
    { onImage, onProgress, signal }: ArtTaskHooks,
  ): Promise<Result<ArtTaskResult, ArtFault>> {
    const child = this.idle.pop() ?? this.start();
    this.busy.add(child);
    return new Promise((resolve, reject) => {
      const { taskMs, quietMs, drawingMs } = this.limits;
      let words = '';
      let isDrawing = false;
      const end = (andThen: () => void) => {
        clearTimeout(limit);
        clearTimeout(quiet);
        signal?.removeEventListener('abort', abort);
        child.removeAllListeners('message');
        child.removeAllListeners('exit');
        child.stderr?.removeAllListeners('data');
        child.stderr?.resume();
        this.busy.delete(child);
        andThen();
      };
      const drop = (andThen: () => void) =>
        end(() => {
          this.kill(child);
          this.refill();
          andThen();
        });
      const giveUp = (fault: ArtFault) => drop(() => resolve(fail(fault)));
      const abort = () => drop(() => reject(signal?.reason));
      const tooLong = (ms: number) =>
        giveUp({
          code: 'too-heavy',
          detail: `${isDrawing ? 'drawing' : 'reading'} it took more than ${Math.round(ms / 1000)} s`,
        });
      const limit = setTimeout(() => tooLong(taskMs), taskMs);
      let quiet = setTimeout(() => tooLong(quietMs), quietMs);
      const heard = (ms: number) => {
        clearTimeout(quiet);
        quiet = setTimeout(() => tooLong(ms), ms);
      };
      signal?.addEventListener('abort', abort, { once: true });
      child.stderr?.on('data', (text) => {
        words = `${words}${String(text)}`.slice(-LAST_WORDS);
      });
      child.on('exit', () => giveUp(this.brokenDown(words)));
      child.on('message', (message: FromArtProcess) => {
        isDrawing = message.kind === 'drawing';
        heard(isDrawing ? drawingMs : quietMs);
        switch (message.kind) {
          case 'image':
            return onImage(message.image);
          case 'progress':
            return onProgress?.(message.done, message.total, message.what);
          case 'drawing':
            return;
          case 'done':
            return end(() => {
              this.putBack(child, message.bytes);
              resolve(message.result);
            });
          case 'failed':
            return isOutOfMemory(message.message)
              ? giveUp(this.brokenDown(message.message))
              : drop(() => reject(new Error(message.message)));
        }
      });
      child.send(asked, (error) => {
        if (error) giveUp(this.brokenDown(error.message));
      });
    });
  }

  private brokenDown(words: string): ArtFault {
    const gib = Math.max(0.1, this.limits.bytes / 2 ** 30).toFixed(1);
    return isOutOfMemory(words)
      ? { code: 'too-heavy', detail: `it needs more than the ${gib} GiB that one file may take` }
      : { code: 'too-heavy', detail: `its decoder broke down over it, or needed more than ${gib} GiB` };
  }

  private putBack(child: ChildProcess, bytes: number): void {
    if (bytes > FAT_BYTES) {
      this.kill(child);
      this.refill();
    } else if (this.closed) this.kill(child);
    else this.idle.push(child);
  }

  /** One process always stands ready. */
  private refill(): void {
    if (!this.closed && this.idle.length === 0) this.idle.push(this.start());
  }

  private start(): ChildProcess {
    const entry = fileURLToPath(new URL('./art-process-entry.mjs', import.meta.url));
    const kib = Math.floor(this.limits.bytes / 1024);
    // The limit of the system itself (setrlimit, RLIMIT_DATA): native decoders cannot get past it either.
    const limited = `ulimit -d ${kib} 2>/dev/null; exec "$0" "$@"`;
    const child = spawn('/bin/sh', ['-c', limited, process.execPath, entry, this.levelsFolder], {
      stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
      serialization: 'advanced',
      // Its own group: Ctrl+C reaches it through its parent, which ends it when it is done with it.
      detached: true,
    });
    child.unref();
    child.channel?.unref();
    if (child.stderr && 'unref' in child.stderr && typeof child.stderr.unref === 'function')
      child.stderr.unref();
    child.stderr?.resume();
    // Whatever ends it while nobody waits for it, the next task starts another.
    child.on('error', () => this.forget(child));
    child.on('close', () => {
      this.forget(child);
      this.clearUp(child);
    });
    return child;
  }

  private forget(child: ChildProcess): void {
    const at = this.idle.indexOf(child);
    if (at >= 0) this.idle.splice(at, 1);
  }

  /** What it was writing when it ended, nobody else will. */
  private clearUp({ pid }: ChildProcess): void {
    if (pid === undefined) return;
    try {
      dropDeadParts(this.levelsFolder, pid);
    } catch (error) {
      logFault('What a process for images left half-written could not be taken away', error);
    }
  }

  private kill(child: ChildProcess): void {
    this.forget(child);
    child.kill('SIGKILL');
  }

  /** Ends every process; tasks under way and waiting ones reject. */
  close(): void {
    this.closed = true;
    for (const child of [...this.idle, ...this.busy]) this.kill(child);
    for (const go of this.waiting.splice(0)) go();
  }
}
