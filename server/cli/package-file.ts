import { readdir, readFile, stat } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { type PackageFault, readPackage, type ShotPackage } from '@keen-ridge/core/art/package';
import { artIdOf } from '../art/keep-image.ts';
import { soundIdOf } from '../shots/take-sound.ts';
import { told } from './told.ts';
import { UsageFault } from './usage-fault.ts';

export const readBytes = (path: string): Promise<Uint8Array> =>
  told(path, async () => new Uint8Array(await readFile(path)));

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
    const inside = await told(path, () =>
      readdir(resolve(from, path), { recursive: true, withFileTypes: true }),
    );
    const files = inside.filter((entry) => entry.isFile() && !entry.name.startsWith('.'));
    expanded.push(...files.map((entry) => join(entry.parentPath, entry.name)).sort(collator.compare));
  }
  return expanded;
}

/** Why a package or its scene cannot be opened. */
export const sceneWords = (fault: PackageFault): string =>
  fault.code === 'newer-than-program'
    ? `its scene is of version ${fault.version}, newer than this program knows (${fault.newestKnown})`
    : fault.detail;

/** Reads a package and checks that every image is what its name says. */
export async function openPackage(path: string): Promise<ShotPackage> {
  const read = readPackage(await readBytes(path));
  if (!read.ok) throw new UsageFault(`${path}: ${sceneWords(read.error)}`);
  for (const [id, png] of read.value.art) {
    if (artIdOf(png) !== id) throw new UsageFault(`${path}: art/${id}.png is damaged, its SHA-256 differs`);
  }
  const { sound, scene } = read.value;
  if (sound && soundIdOf(sound) !== scene.sound?.id)
    throw new UsageFault(`${path}: the sound is damaged, its SHA-256 differs`);
  return read.value;
}
