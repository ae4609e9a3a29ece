import { readdir, readFile, stat } from 'node:fs/promises';
import { join, resolve } from 'node:path';
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

/** Folders as the files in them, at any depth, in order of name and number; files as they are. */
export async function expandFolders(paths: readonly string[], from: string): Promise<string[]> {
  const collator = new Intl.Collator('en', { numeric: true });
  const expanded: string[] = [];
  for (const path of paths) {
    const folder = await stat(resolve(from, path)).then(
      (found) => found.isDirectory(),
      () => false,
    );
    if (!folder) {
      expanded.push(path);
      continue;
    }
    const inside = await readdir(resolve(from, path), { recursive: true, withFileTypes: true });
    const files = inside.filter((entry) => entry.isFile() && !entry.name.startsWith('.'));
    expanded.push(...files.map((entry) => join(entry.parentPath, entry.name)).sort(collator.compare));
  }
  return expanded;
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
