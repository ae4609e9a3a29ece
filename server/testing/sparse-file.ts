import { type FileHandle, open } from 'node:fs/promises';
import { Writable } from 'node:stream';

/** Writes a file in which all that is nought takes no room on the disk: an archive of many GiB of made-up images. */
export async function sparseFile(path: string): Promise<Writable> {
  const file: FileHandle = await open(path, 'w');
  let at = 0;
  const put = async (chunk: Buffer): Promise<void> => {
    for (let from = 0; from < chunk.length; from += NOUGHT.length) {
      const part = chunk.subarray(from, from + NOUGHT.length);
      if (part.compare(NOUGHT, 0, part.length) !== 0) await file.write(part, 0, part.length, at);
      at += part.length;
    }
  };
  return new Writable({
    highWaterMark: 2 ** 20,
    write: (chunk: Buffer, _encoding, done) => void put(chunk).then(() => done(), done),
    final: (done) =>
      void file
        .truncate(at)
        .then(() => file.close())
        .then(() => done(), done),
  });
}

const NOUGHT = Buffer.alloc(2 ** 20);
