import type { Writable } from 'node:stream';
import { artPart, sceneText } from '@keen-ridge/core/art/package';
import { ARCHIVE_VERSION, type Archive, PRODUCTION_PART } from '@keen-ridge/core/contract/archive';
import type { ArtId, Scene } from '@keen-ridge/core/scene';
import { sceneArts } from '@keen-ridge/core/staging/content';
import { readProduction, readTakeScenes } from '../db/archive.ts';
import { readArt, storedOf } from '../db/art.ts';
import type { Database } from '../db/connection/queryable.ts';
import { artsOfPiece } from '../db/shelf.ts';
import { readSetUp } from '../db/shots.ts';
import { ZipFile } from '../storage/zip-file.ts';

/** Entries are as old as zips can tell: the same production gives the same archive. */
const NO_TIME = new Date(1980, 0, 1);

export interface PackedProduction {
  readonly name: string;
  writeTo(to: Writable, signal: AbortSignal): Promise<void>;
}

/** A production as an archive. Scenes are written one by one, then each image once, read one at a time. */
export async function packProduction(db: Database, productionId: string): Promise<PackedProduction> {
  const { shotIds, ...kept } = await readProduction(db, productionId);
  return {
    name: kept.name,
    async writeTo(to, signal) {
      const zip = new ZipFile(to);
      const arts = new Set<ArtId>(
        kept.shelf.flatMap(({ content }) => artsOfPiece(content)).map(({ id }) => id),
      );
      const put = async (part: string, scene: Scene): Promise<string> => {
        signal.throwIfAborted();
        for (const { id } of sceneArts(scene)) arts.add(id);
        await zip.add(part, Buffer.from(sceneText(scene)), NO_TIME);
        return part;
      };
      try {
        const shots: Archive['shots'] = [];
        for (const [i, id] of shotIds.entries()) {
          const folder = `shots/${String(i + 1).padStart(4, '0')}`;
          const { name, scene } = await readSetUp(db, id);
          const takes: Archive['shots'][number]['takes'] = [];
          for (const [k, take] of (await readTakeScenes(db, id)).entries())
            takes.push({
              name: take.name,
              note: take.note,
              scene: await put(`${folder}/take-${String(k + 1).padStart(4, '0')}.json`, take.scene),
            });
          shots.push({ name, scene: await put(`${folder}/scene.json`, scene), takes });
        }
        const archive: Archive = {
          format: 'keen-ridge-production',
          version: ARCHIVE_VERSION,
          ...kept,
          shots,
        };
        await zip.add(PRODUCTION_PART, Buffer.from(`${JSON.stringify(archive, null, 2)}\n`), NO_TIME);
        await addArt(db, zip, [...arts].sort(), signal);
        await zip.finish();
      } catch (error) {
        await zip.abort();
        throw error;
      }
    },
  };
}

/** What is missing from the store is left out: whoever opens the archive is told. */
async function addArt(db: Database, zip: ZipFile, ids: readonly ArtId[], signal: AbortSignal): Promise<void> {
  const stored = await storedOf(db, ids);
  for (const id of ids) {
    signal.throwIfAborted();
    const image = stored.has(id) ? await readArt(db, id) : null;
    if (image) await zip.add(artPart(id), image.png, NO_TIME);
  }
}
