import { once } from 'node:events';
import { createWriteStream } from 'node:fs';
import { finished } from 'node:stream/promises';
import { Zip, ZipPassThrough } from 'fflate';

/** A zip on disk that grows file by file; contents are stored as they are, since PNGs do not shrink further. */
export class ZipFile {
  private readonly stream;
  private readonly zip: Zip;
  private fault: Error | null = null;

  constructor(path: string) {
    this.stream = createWriteStream(path);
    this.stream.on('error', (error) => {
      this.fault = error;
    });
    this.zip = new Zip((error, chunk, final) => {
      if (error) this.fault = error;
      else this.stream.write(chunk);
      if (final) this.stream.end();
    });
  }

  async add(name: string, bytes: Uint8Array, madeAt: Date): Promise<void> {
    const entry = new ZipPassThrough(name);
    entry.mtime = madeAt;
    this.zip.add(entry);
    entry.push(bytes, true);
    if (this.fault) throw this.fault;
    if (this.stream.writableNeedDrain) await once(this.stream, 'drain');
  }

  async finish(): Promise<void> {
    this.zip.end();
    await finished(this.stream);
    if (this.fault) throw this.fault;
  }

  /** Ends once the file is let go of: one that was still being opened would else come back after it was deleted. */
  async abort(): Promise<void> {
    this.zip.terminate();
    if (this.stream.closed) return;
    const closed = new Promise<void>((resolve) => this.stream.once('close', () => resolve()));
    this.stream.destroy();
    await closed;
  }
}
