import { fileURLToPath } from 'node:url';
import type { DeepRaster, Raster } from '@keen-ridge/core/image';
import type { ArtId } from '@keen-ridge/core/scene';
import { Piscina } from 'piscina';

/** What the thread is asked to write. */
export interface LevelsTask {
  readonly artId: ArtId;
  readonly widthPx: number;
  readonly heightPx: number;
  /** In shared memory: the reading thread still looks at it. Of 16 bits a channel, or of 8. */
  readonly pixels: Uint8Array | Uint16Array;
}

/** Levels of fewer px are written sooner than they are handed over. */
const WORTH_IT_PX = 2 ** 18;

/**
 * A second thread that writes levels while the first one reads on: making them is the longer half of an import. It is
 * started by the first image that is worth it, which does not wait for it, since most files hold one image.
 */
export class LevelsHelper {
  private readonly levelsFolder: string;
  private pool: Piscina<LevelsTask, void> | null = null;
  private writing = false;

  constructor(levelsFolder: string) {
    this.levelsFolder = levelsFolder;
  }

  /** Whether `write` would begin at once, and sooner than whoever asks could. The first image that is worth it starts the thread. */
  takes({ widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number }): boolean {
    if (widthPx * heightPx < WORTH_IT_PX) return false;
    if (this.pool) return !this.writing;
    this.pool = new Piscina({
      filename: fileURLToPath(new URL('./levels-worker-entry.mjs', import.meta.url)),
      minThreads: 1,
      maxThreads: 1,
      workerData: { levelsFolder: this.levelsFolder },
      execArgv: [],
    });
    return false;
  }

  /** Call only where it `takes` the image. */
  async write(artId: ArtId, image: Raster<'straight'> | DeepRaster): Promise<void> {
    if (!this.pool) throw new Error('The thread for levels has not been started');
    const shared = new SharedArrayBuffer(image.data.byteLength);
    const pixels = image.data instanceof Uint16Array ? new Uint16Array(shared) : new Uint8Array(shared);
    pixels.set(image.data);
    const { widthPx, heightPx } = image;
    this.writing = true;
    try {
      await this.pool.run({ artId, widthPx, heightPx, pixels });
    } finally {
      this.writing = false;
    }
  }
}
