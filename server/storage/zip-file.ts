import { once } from 'node:events';
import { createWriteStream } from 'node:fs';
import type { Readable, Writable } from 'node:stream';
import { finished } from 'node:stream/promises';
import ZipStream from 'zip-stream';

/**
 * A zip that grows file by file (APPNOTE 6.3.10; ZIP64 where it has over 65 535 entries or 4 GiB). Contents are stored
 * as they are, since PNGs do not shrink further; of each only its name, size, place and checksum stay in memory.
 */
export class ZipFile {
  private readonly to: Writable;
  private readonly zip = new ZipStream({ store: true, forceLocalTime: true });
  private readonly over: Promise<void>;

  constructor(to: string | Writable) {
    this.to = typeof to === 'string' ? createWriteStream(to) : to;
    this.over = finished(this.to);
    // Told of by the next call; until then it is not an unhandled one.
    this.over.catch(() => {});
    this.zip.on('error', (error) => this.to.destroy(error));
    // Its types know only the streams of a package; it takes those of Node.js as well.
    (this.zip as unknown as Readable).pipe(this.to);
  }

  /** Resolves when there is room for the next. Rejects with what the disk says. */
  async add(name: string, bytes: Uint8Array, madeAt: Date): Promise<void> {
    if (this.to.destroyed) await this.over;
    const source = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    await new Promise<void>((resolve, reject) => {
      this.zip.entry(source, { name, date: madeAt }, (error) => (error ? reject(error) : resolve()));
    });
    if (this.zip.writableNeedDrain) await Promise.race([once(this.zip, 'drain'), this.over]);
  }

  async finish(): Promise<void> {
    this.zip.finalize();
    await this.over;
  }

  /** Ends once the file is let go of: one that was still being opened would else come back after it was deleted. */
  async abort(): Promise<void> {
    (this.zip as unknown as Readable).unpipe(this.to);
    this.zip.destroy();
    if (this.to.closed) return;
    const closed = new Promise<void>((resolve) => this.to.once('close', () => resolve()));
    this.to.destroy();
    await closed;
  }
}
