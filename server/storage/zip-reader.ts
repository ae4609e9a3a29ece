import { type Entry, openPromise, type ZipFile as Reader } from 'yauzl';

/** A zip on the disk, read part by part (APPNOTE 6.3.10, ZIP64 too): only its directory lies in memory. */
export class ZipReader {
  private readonly zip: Reader;
  private readonly entries: ReadonlyMap<string, Entry>;

  private constructor(zip: Reader, entries: ReadonlyMap<string, Entry>) {
    this.zip = zip;
    this.entries = entries;
  }

  /** Rejects where it is no zip, or has more parts than `mostParts`. */
  static async open(path: string, mostParts: number): Promise<ZipReader> {
    const zip = await openPromise(path, { lazyEntries: true, autoClose: false });
    try {
      if (zip.entryCount > mostParts) throw new Error(`it has over ${mostParts} parts`);
      const entries = new Map<string, Entry>();
      for await (const entry of zip.eachEntry()) entries.set(entry.fileName, entry);
      return new ZipReader(zip, entries);
    } catch (error) {
      zip.close();
      throw error;
    }
  }

  /** In the order of its directory. */
  get names(): string[] {
    return [...this.entries.keys()];
  }

  has(name: string): boolean {
    return this.entries.has(name);
  }

  /** The bytes of a part; null where there is none of that name. Rejects where it is damaged or has over `mostBytes`. */
  async read(name: string, mostBytes: number): Promise<Uint8Array | null> {
    const entry = this.entries.get(name);
    if (!entry) return null;
    if (entry.uncompressedSize > mostBytes) throw new Error(`${name} has over ${mostBytes} bytes`);
    const parts: Buffer[] = [];
    for await (const part of await this.zip.openReadStreamPromise(entry)) parts.push(part as Buffer);
    return new Uint8Array(Buffer.concat(parts));
  }

  close(): void {
    this.zip.close();
  }
}
