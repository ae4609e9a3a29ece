import { writePackage } from '@keen-ridge/core/art/package';
import { sceneArts } from '@keen-ridge/core/document';
import type { Database } from '../db/database.ts';
import { readArt } from '../storage/art-store.ts';
import { readSetUp } from './shots.ts';

/** A shot as it stands, as an open package. */
export async function packShot(db: Database, shotId: string): Promise<{ name: string; bytes: Uint8Array }> {
  const { scene, name } = await readSetUp(db, shotId);
  const art = new Map<string, Uint8Array>();
  for (const id of sceneArts(scene).map((art) => art.id)) {
    const stored = await readArt(db, id);
    if (!stored) throw new Error(`Art ${id} is missing from the database`);
    art.set(id, stored.png);
  }
  return { name, bytes: writePackage({ scene, art }) };
}
