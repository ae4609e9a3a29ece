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

/** A second thread that writes levels while the first one reads on: making them is the longer half of an import. */
export class LevelsHelper {
  private readonly pool: Piscina<LevelsTask, void>;
  private writing = false;

  constructor(levelsFolder: string) {
    this.pool = new Piscina({
      filename: fileURLToPath(new URL('./levels-worker-entry.mjs', import.meta.url)),
      minThreads: 1,
      maxThreads: 1,
      workerData: { levelsFolder },
      execArgv: [],
    });
  }

  get isFree(): boolean {
    return !this.writing;
  }

  /** Call only while it is free. */
  async write(artId: ArtId, image: Raster<'straight'> | DeepRaster): Promise<void> {
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
