import type { Writable } from 'node:stream';
import { artPart, SCENE_PART, sceneText } from '@keen-ridge/core/art/package';
import { soundPart } from '@keen-ridge/core/art/sound';
import { sceneArts } from '@keen-ridge/core/staging/content';
import { readArt, storedOf } from '../db/art.ts';
import type { Database } from '../db/connection/queryable.ts';
import { readSound } from '../db/kept/sounds.ts';
import { readSetUp } from '../db/shots.ts';
import { ProblemError } from '../faults/problems.ts';
import { ZipFile } from '../storage/zip-file.ts';

/** Entries are as old as zips can tell: the same shot gives the same package. */
const NO_TIME = new Date(1980, 0, 1);

export interface PackedShot {
  readonly name: string;
  writeTo(to: Writable): Promise<void>;
}

/** A shot as it stands, as an open package; its art is read one image at a time. */
export async function packShot(db: Database, shotId: string): Promise<PackedShot> {
  const { scene, name } = await readSetUp(db, shotId);
  const ids = [...new Set(sceneArts(scene).map(({ id }) => id))].sort();
  const stored = await storedOf(db, ids);
  const missing = ids.find((id) => !stored.has(id));
  if (missing)
    throw new ProblemError('unreadable-art', `Art ${missing} of this shot is missing from the store.`);
  const sound = scene.sound ? await readSound(db, scene.sound.id) : null;
  if (scene.sound && !sound)
    throw new ProblemError('unreadable-art', `The sound ${scene.sound.name} is missing from the store.`);
  return {
    name,
    async writeTo(to) {
      const zip = new ZipFile(to);
      try {
        await zip.add(SCENE_PART, Buffer.from(sceneText(scene)), NO_TIME);
        for (const id of ids) {
          const image = await readArt(db, id);
          if (!image) throw new Error(`Art ${id} went missing while it was packed`);
          await zip.add(artPart(id), image.png, NO_TIME);
        }
        if (sound) await zip.add(soundPart(sound.id, sound.kind), sound.bytes, NO_TIME);
        await zip.finish();
      } catch (error) {
        await zip.abort();
        throw error;
      }
    },
  };
}
