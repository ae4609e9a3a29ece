import type { ImportedArt } from '@keen-ridge/core/contract';
import type { Database } from '../db/database.ts';
import { keepArt } from '../storage/art-store.ts';
import { faultSentence, notKeptSentence } from './art-words.ts';
import { ProblemError } from './problems.ts';
import { readArtFile } from './read-art.ts';

/**
 * Reads a file, stores its images and tells where its layers belong. No shot is touched: the layers become planes
 * only by an edit, so a file that fails leaves nothing half done.
 */
export async function importArt(db: Database, fileName: string, bytes: Uint8Array): Promise<ImportedArt> {
  const read = await readArtFile(fileName, bytes);
  if (!read.ok) throw new ProblemError('unreadable-art', faultSentence(fileName, read.error));
  for (const { art, png } of read.value.layers) await keepArt(db, art, png);
  return {
    layers: read.value.layers.map(({ png: _png, ...layer }) => layer),
    notKept: read.value.notKept.map(notKeptSentence),
  };
}
