import { readFile } from 'node:fs/promises';
import { type PackageFault, readPackage, type ShotPackage } from '@keen-ridge/core/art/package';
import { artIdOf } from '../storage/art-store.ts';
import { UsageFault } from './usage-fault.ts';

export async function readBytes(path: string): Promise<Uint8Array> {
  try {
    return new Uint8Array(await readFile(path));
  } catch (error) {
    if (!(error instanceof Error && 'code' in error)) throw error;
    const why = { ENOENT: 'there is no such file', EISDIR: 'it is a folder', EACCES: 'it may not be read' }[
      String(error.code)
    ];
    throw new UsageFault(`${path}: ${why ?? error.message}`);
  }
}

const faultWords = (fault: PackageFault): string =>
  fault.code === 'newer-than-program'
    ? `its scene is of version ${fault.version}, newer than this program knows (${fault.newestKnown})`
    : fault.detail;

/** Reads a package and checks that every image is what its name says. */
export async function openPackage(path: string): Promise<ShotPackage> {
  const read = readPackage(await readBytes(path));
  if (!read.ok) throw new UsageFault(`${path}: ${faultWords(read.error)}`);
  for (const [id, png] of read.value.art) {
    if (artIdOf(png) !== id) throw new UsageFault(`${path}: art/${id}.png is damaged, its SHA-256 differs`);
  }
  return read.value;
}
