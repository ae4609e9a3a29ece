import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { PACKED_AS } from '../pictures/encode-frame.ts';
import { kernelName } from '../threads/kernel-file.ts';

const CORE = fileURLToPath(new URL('..', import.meta.resolve('@keen-ridge/core/kernel')));
const WORDS = fileURLToPath(new URL('../film/words-in-picture.ts', import.meta.url));
const LEFT_OUT = /^(node_modules|testing)$|\.test\.ts$/;

async function sourcesBelow(folder: string): Promise<string[]> {
  const entries = await readdir(folder, { withFileTypes: true });
  const below = await Promise.all(
    entries
      .filter(({ name }) => !LEFT_OUT.test(name))
      .map((entry) => {
        const path = join(folder, entry.name);
        if (entry.isDirectory()) return sourcesBelow(path);
        return Promise.resolve(entry.name.endsWith('.ts') ? [path] : []);
      }),
  );
  return below.flat().sort();
}

async function hashOfBuild(): Promise<string> {
  const hash = createHash('sha256');
  hash.update(await kernelName());
  for (const path of [...(await sourcesBelow(CORE)), WORDS]) {
    const text = await readFile(path);
    hash.update(`\0${path.slice(CORE.length)}\0${text.length}\0`).update(text);
  }
  hash.update(`${PACKED_AS} sharp ${sharp.versions.sharp} vips ${sharp.versions.vips}`);
  return hash.digest('hex');
}

let name: Promise<string> | undefined;
/**
 * Names the build that turns a scene into the bytes of a frame: the kernel, all of core, and what packs the frame.
 * Frames of another build are other frames, so they have other keys, and a process draws only for its own.
 */
export const engineName = (): Promise<string> => {
  name ??= hashOfBuild();
  return name;
};
