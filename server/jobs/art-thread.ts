import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import type { ArtFault } from '@keen-ridge/core/art';
import type { Result } from '@keen-ridge/core/units';
import type { ArtTask, ArtTaskResult } from '../art/art-tasks.ts';
import type { KeptImage } from '../art/keep-image.ts';

export type FromArtWorker =
  | { readonly kind: 'image'; readonly image: KeptImage; readonly png: Uint8Array }
  | { readonly kind: 'progress'; readonly done: number; readonly total: number; readonly what: string }
  | { readonly kind: 'done'; readonly result: Result<ArtTaskResult, ArtFault> }
  | { readonly kind: 'failed'; readonly message: string };

export interface ArtTaskHooks {
  readonly onImage: (image: KeptImage, png: Uint8Array) => void;
  readonly onProgress?: (done: number, total: number, what: string) => void;
  readonly signal?: AbortSignal;
}

/** Past this a task is given up: no honest file takes so long. */
const LONGEST_TASK_MS = 10 * 60_000;

/**
 * One thread for heavy work on images, one task at a time. A task that is cancelled, that runs away or that brings the
 * thread down ends with its thread; the next task gets a fresh one.
 */
export class ArtThread {
  private readonly levelsFolder: string;
  private worker: Worker | null = null;
  private closed = false;
  private last: Promise<unknown> = Promise.resolve();

  constructor(levelsFolder: string) {
    this.levelsFolder = levelsFolder;
    // Its modules take seconds to load: they must not be on the first import's time.
    this.start();
  }

  run(task: ArtTask, hooks: ArtTaskHooks): Promise<Result<ArtTaskResult, ArtFault>> {
    const turn = this.last.then(() => this.runNow(task, hooks));
    this.last = turn.catch(() => {});
    return turn;
  }

  private runNow(task: ArtTask, hooks: ArtTaskHooks): Promise<Result<ArtTaskResult, ArtFault>> {
    const { onImage, onProgress, signal } = hooks;
    signal?.throwIfAborted();
    const worker = this.worker ?? this.start();
    return new Promise((resolve, reject) => {
      const end = (andThen: () => void) => {
        clearTimeout(limit);
        signal?.removeEventListener('abort', abort);
        worker.removeAllListeners('message');
        worker.removeAllListeners('error');
        worker.removeAllListeners('exit');
        andThen();
      };
      const drop = (error: unknown) =>
        end(() => {
          if (this.worker === worker) this.start();
          void worker.terminate();
          reject(error);
        });
      const abort = () => drop(signal?.reason);
      const limit = setTimeout(() => drop(new Error('The work took over ten minutes')), LONGEST_TASK_MS);
      signal?.addEventListener('abort', abort, { once: true });
      worker.on('error', drop);
      worker.on('exit', (code) => drop(new Error(`The thread for images ended with ${code}`)));
      worker.on('message', (message: FromArtWorker) => {
        switch (message.kind) {
          case 'image':
            return onImage(message.image, message.png);
          case 'progress':
            return onProgress?.(message.done, message.total, message.what);
          case 'done':
            return end(() => resolve(message.result));
          case 'failed':
            return drop(new Error(message.message));
        }
      });
      worker.postMessage(task);
    });
  }

  private start(): Worker {
    if (this.closed) throw new Error('The thread for images is closed');
    const worker = new Worker(fileURLToPath(new URL('./art-worker-entry.mjs', import.meta.url)), {
      workerData: { levelsFolder: this.levelsFolder },
      execArgv: [],
    });
    worker.unref();
    this.worker = worker;
    return worker;
  }

  close(): void {
    this.closed = true;
    void this.worker?.terminate();
    this.worker = null;
  }
}
