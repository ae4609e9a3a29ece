import { ZipReader } from '../storage/zip-reader.ts';

const MOST_PARTS = 1_000_000;
const LARGEST_FRAME_BYTES = 1024 * 2 ** 20;
const isPicture = (name: string): boolean => name.endsWith('.png');

async function inZip<T>(path: string, use: (zip: ZipReader) => Promise<T>): Promise<T> {
  const zip = await ZipReader.open(path, MOST_PARTS);
  try {
    return await use(zip);
  } finally {
    zip.close();
  }
}

/** Names of the pictures in the zip of a hand-off, in order; none where it is no zip of PNGs. */
export const framesIn = (path: string): Promise<string[]> =>
  path.endsWith('.zip') ? inZip(path, async (zip) => zip.names.filter(isPicture)) : Promise.resolve([]);

/** One of them; null where there are not so many. */
export const frameIn = (path: string, index: number): Promise<Uint8Array | null> =>
  inZip(path, async (zip) => {
    const name = zip.names.filter(isPicture)[index];
    return name === undefined ? null : zip.read(name, LARGEST_FRAME_BYTES);
  });
