import { rm, writeFile } from 'node:fs/promises';
import type { Database } from '../db/connection/queryable.ts';
import { readSound } from '../db/kept/sounds.ts';
import type { PicturesAsked } from '../farm/planned-pictures.ts';
import { wantsSound } from './write-output.ts';

/** Lets `use` have the scene's sound as a file beside the part `path`, where the hand-off wants it; it goes with the part. */
export async function withSoundFile<T>(
  db: Database,
  asked: PicturesAsked,
  path: string,
  use: (soundPath: string | null) => Promise<T>,
): Promise<T> {
  const { sound } = asked.scene;
  if (!sound || !wantsSound(asked)) return use(null);
  const stored = await readSound(db, sound.id);
  if (!stored) throw new Error(`The sound “${sound.name}” is missing from the store`);
  // A part by its name, so that one which a killed server leaves is swept with the others.
  const file = `${path}-sound.part`;
  try {
    await writeFile(file, stored.bytes);
    return await use(file);
  } finally {
    await rm(file, { force: true });
  }
}
