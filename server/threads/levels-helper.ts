import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import type { Raster } from '@keen-ridge/core/image';
import type { ArtId } from '@keen-ridge/core/scene';

export interface ToLevelsWorker {
  readonly artId: ArtId;
  readonly widthPx: number;
  readonly heightPx: number;
  /** In shared memory: the reading thread still looks at it. */
  readonly pixels: Uint8Array;
}
export interface FromLevelsWorker {
  readonly fault: string | null;
}

/** A second thread that writes levels while the first one reads on: making them is the longer half of an import. */
export class LevelsHelper {
  private readonly worker: Worker;
  private waiting: { resolve: () => void; reject: (error: Error) => void } | null = null;

  constructor(levelsFolder: string) {
    this.worker = new Worker(fileURLToPath(new URL('./levels-worker-entry.mjs', import.meta.url)), {
      workerData: { levelsFolder },
      execArgv: [],
    });
    this.worker.unref();
    this.worker.on('message', ({ fault }: FromLevelsWorker) => this.settle(fault));
    this.worker.on('error', (error) => this.settle(error.message));
  }

  get isFree(): boolean {
    return this.waiting === null;
  }

  /** Call only while it is free. */
  write(artId: ArtId, image: Raster<'straight'>): Promise<void> {
    const pixels = new Uint8Array(new SharedArrayBuffer(image.data.length));
    pixels.set(image.data);
    const { widthPx, heightPx } = image;
    return new Promise((resolve, reject) => {
      this.waiting = { resolve, reject };
      this.worker.postMessage({ artId, widthPx, heightPx, pixels } satisfies ToLevelsWorker);
    });
  }

  private settle(fault: string | null): void {
    const { waiting } = this;
    this.waiting = null;
    if (fault === null) waiting?.resolve();
    else waiting?.reject(new Error(fault));
  }
}
