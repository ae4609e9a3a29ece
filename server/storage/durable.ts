import { open, rename } from 'node:fs/promises';
import { dirname } from 'node:path';

/** Puts a file, or the names in a folder, on the disk itself: a power cut after this loses nothing of it. */
export async function syncPath(path: string): Promise<void> {
  const handle = await open(path, 'r');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}

/** Writes a file to the end, onto the disk. */
export async function writeSynced(path: string, bytes: Uint8Array | string): Promise<void> {
  const file = await open(path, 'w');
  try {
    await file.writeFile(bytes);
    await file.sync();
  } finally {
    await file.close();
  }
}

/** Gives what was written in part its name, whole and on the disk, or not at all. */
export async function settle(part: string, path: string): Promise<void> {
  await syncPath(part);
  await rename(part, path);
  await syncPath(dirname(path));
}
