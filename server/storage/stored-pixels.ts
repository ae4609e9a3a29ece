import type { ArtId } from '@keen-ridge/core/document';
import { decodeStored } from '../art/decode.ts';
import type { Database } from '../db/database.ts';
import { readArt } from './art-store.ts';

/** Reads the straight RGBA pixels of stored art. Rejects when it is missing or damaged. */
export const storedPixels =
  (db: Database) =>
  async (artId: ArtId): Promise<Uint8Array> => {
    const stored = await readArt(db, artId);
    const pixels = stored && (await decodeStored(stored.png));
    if (!pixels?.ok) throw new Error(`Art ${artId} is missing or damaged in the database`);
    return pixels.value.data as Uint8Array;
  };
