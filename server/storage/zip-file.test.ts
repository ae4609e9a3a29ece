import { randomBytes } from 'node:crypto';
import { Writable } from 'node:stream';
import { crc32 } from 'node:zlib';
import { Reader, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import checksums from 'crc-32';
import { describe, expect, it, onTestFinished, vi } from 'vitest';
import { ZipFile } from './zip-file.ts';

const AT = new Date(2026, 10, 26, 12, 30, 8);

/** Keeps what is written but for long runs of one byte, which it only remembers: gigabytes fit into it. */
class SparseFile extends Writable {
  size = 0;
  private readonly pieces: { at: number; bytes: Buffer }[] = [];
  private readonly hollow: Buffer;

  constructor(hollow: Buffer) {
    super({ highWaterMark: 64 * 2 ** 20 });
    this.hollow = hollow;
  }

  override _write(chunk: Buffer, _encoding: string, done: () => void): void {
    if (chunk.length !== this.hollow.length || !chunk.equals(this.hollow))
      this.pieces.push({ at: this.size, bytes: Buffer.from(chunk) });
    this.size += chunk.length;
    done();
  }

  read(from: number, length: number): Uint8Array {
    const out = new Uint8Array(length);
    for (const { at, bytes } of this.pieces) {
      const start = Math.max(from, at);
      const end = Math.min(from + length, at + bytes.length);
      if (start < end) out.set(bytes.subarray(start - at, end - at), start - from);
    }
    return out;
  }
}

class SparseReader extends Reader<SparseFile> {
  private readonly file: SparseFile;

  constructor(file: SparseFile) {
    super(file);
    this.file = file;
  }

  override async init(): Promise<void> {
    this.size = this.file.size;
  }

  override async readUint8Array(index: number, length: number): Promise<Uint8Array> {
    return this.file.read(index, length);
  }
}

class Whole extends Writable {
  private readonly chunks: Buffer[] = [];

  override _write(chunk: Buffer, _encoding: string, done: () => void): void {
    this.chunks.push(Buffer.from(chunk));
    done();
  }

  get bytes(): Buffer {
    return Buffer.concat(this.chunks);
  }
}

// Read back by another library than the one that writes.
describe('a zip of frames', () => {
  it('of 70 000 entries holds each of them, by its name', async () => {
    const out = new Whole();
    const zip = new ZipFile(out);
    for (let i = 0; i < 70_000; i++)
      await zip.add(`reihe/Kai_${String(i).padStart(5, '0')}.png`, Buffer.from(`frame ${i}`), AT);
    await zip.finish();
    const reader = new ZipReader(new SparseReader(sparseOf(out.bytes)));
    const entries = await reader.getEntries();
    expect(entries).toHaveLength(70_000);
    for (const i of [0, 65_534, 65_535, 65_536, 69_999]) {
      const entry = entries[i]!;
      expect(entry.filename).toBe(`reihe/Kai_${String(i).padStart(5, '0')}.png`);
      if (entry.directory) throw new Error('a folder');
      const bytes = await entry.getData(new Uint8ArrayWriter(), { checkSignature: true });
      expect(Buffer.from(bytes).toString()).toBe(`frame ${i}`);
    }
    await reader.close();
  });

  it('of more than 4 GiB finds what lies beyond them', { timeout: 240_000 }, async () => {
    // The same checksum by Node itself: the library's own takes half a minute for gigabytes. It is tried above.
    const its = checksums.buf;
    const sums = vi.spyOn(checksums, 'buf');
    sums.mockImplementation((bytes) => (bytes instanceof Uint8Array ? crc32(bytes) | 0 : its(bytes)));
    onTestFinished(() => sums.mockRestore());
    const hollow = Buffer.alloc(512 * 2 ** 20);
    const file = new SparseFile(hollow);
    const zip = new ZipFile(file);
    const before = randomBytes(3000);
    const beyond = randomBytes(5000);
    await zip.add('before.png', before, AT);
    for (let i = 0; i < 9; i++) await zip.add(`hollow-${i}.png`, hollow, AT);
    await zip.add('jenseits – über.png', beyond, AT);
    await zip.finish();
    expect(file.size).toBeGreaterThan(4.5 * 2 ** 30);
    const reader = new ZipReader(new SparseReader(file));
    const entries = await reader.getEntries();
    expect(entries.map(({ filename }) => filename)).toEqual([
      'before.png',
      ...Array.from({ length: 9 }, (_, i) => `hollow-${i}.png`),
      'jenseits – über.png',
    ]);
    expect(entries.at(-1)?.offset).toBeGreaterThan(4.5 * 2 ** 30);
    for (const [entry, bytes] of [
      [entries[0]!, before],
      [entries.at(-1)!, beyond],
    ] as const) {
      if (entry.directory) throw new Error('a folder');
      const read = await entry.getData(new Uint8ArrayWriter(), { checkSignature: true });
      expect(Buffer.from(read).equals(bytes)).toBe(true);
      expect(entry.lastModDate).toEqual(AT);
    }
    await reader.close();
  });

  it('that cannot be written rejects with what the disk says', async () => {
    const full = new ZipFile('/dev/full');
    await expect(
      (async () => {
        for (let i = 0; i < 100; i++) await full.add(`${i}.png`, randomBytes(100_000), AT);
        await full.finish();
      })(),
    ).rejects.toMatchObject({ code: 'ENOSPC' });
    await full.abort();
  });
});

function sparseOf(bytes: Buffer): SparseFile {
  const file = new SparseFile(Buffer.alloc(0));
  file.write(bytes);
  return file;
}
