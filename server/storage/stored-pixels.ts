import type { ArtId } from '@keen-ridge/core/document';
import type { Database } from '../db/database.ts';
import { decode } from '../services/read-art.ts';
import { readArt } from './art-store.ts';

/** Reads the straight RGBA pixels of stored art. Rejects when it is missing or damaged. */
export const storedPixels =
  (db: Database) =>
  async (artId: ArtId): Promise<Uint8Array> => {
    const stored = await readArt(db, artId);
    const pixels = stored && (await decode(stored.png));
    if (!pixels?.ok) throw new Error(`Art ${artId} is missing or damaged in the database`);
    return pixels.value;
  };
