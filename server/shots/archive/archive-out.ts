import type { Writable } from 'node:stream';
import { artPart, sceneText } from '@keen-ridge/core/art/package';
import { soundKindOf, soundPart } from '@keen-ridge/core/art/sound';
import {
  ARCHIVE_VERSION,
  type Archive,
  PRODUCTION_PART,
  type ShotHistory,
} from '@keen-ridge/core/contract/archive';
import { type ArtId, artIdSchema, type Scene } from '@keen-ridge/core/scene';
import type { SoundId } from '@keen-ridge/core/scene/sound';
import { keptArts, sceneArts } from '@keen-ridge/core/staging/content';
import { readProduction, readTakeScenes } from '../../db/archive.ts';
import { readArt, storedOf } from '../../db/art.ts';
import type { Database } from '../../db/connection/queryable.ts';
import { artsOfPiece } from '../../db/kept/shelf.ts';
import { readSound } from '../../db/kept/sounds.ts';
import { readWholeHistory } from '../../db/shot-history.ts';
import { readSetUp } from '../../db/shots.ts';
import { ZipFile } from '../../storage/zip-file.ts';

/** Entries are as old as zips can tell: the same production gives the same archive. */
const NO_TIME = new Date(1980, 0, 1);

export interface PackedProduction {
  readonly name: string;
  writeTo(to: Writable, signal: AbortSignal): Promise<void>;
}

/** What an archive is made of: its shots and takes come one by one, and each image when it is written. */
export interface ArchiveSource {
  readonly kept: Omit<Archive, 'format' | 'version' | 'shots'>;
  readonly shots: AsyncIterable<ArchivedShot>;
  /** PNG of an image; null where it cannot be had: whoever opens the archive is told. */
  readonly pngOf: (id: ArtId) => Promise<Uint8Array | null>;
  /** The file of a sound; null likewise. */
  readonly soundOf: (id: SoundId) => Promise<Uint8Array | null>;
}

export interface ArchivedShot {
  readonly name: string;
  readonly scene: Scene;
  readonly takes: readonly { readonly name: string; readonly note: string; readonly scene: Scene }[];
  readonly history: ShotHistory | null;
}

/** A production as an archive; with what was done to its shots, where that is wanted too. */
export async function packProduction(
  db: Database,
  productionId: string,
  { history }: { readonly history: boolean },
): Promise<PackedProduction> {
  const { shotIds, ...kept } = await readProduction(db, productionId);
  const source: ArchiveSource = {
    kept,
    shots: storedShots(db, shotIds, history),
    pngOf: async (id) => ((await storedOf(db, [id])).has(id) ? ((await readArt(db, id))?.png ?? null) : null),
    soundOf: async (id) => (await readSound(db, id))?.bytes ?? null,
  };
  return { name: kept.name, writeTo: (to, signal) => writeArchive(source, to, signal) };
}

async function* storedShots(
  db: Database,
  ids: readonly string[],
  withHistory: boolean,
): AsyncGenerator<ArchivedShot> {
  for (const id of ids) {
    const shot = await db.transaction(
      async (tx) => {
        const { name, scene, revision } = await readSetUp(tx, id);
        const history = withHistory ? await readWholeHistory(tx, id, revision) : null;
        return { name, scene, history };
      },
      { isolationLevel: 'repeatable read', accessMode: 'read only' },
    );
    yield { ...shot, takes: await readTakeScenes(db, id) };
  }
}

/** Scenes are written one by one, then each image once, read one at a time. */
export async function writeArchive(
  { kept, shots: given, pngOf, soundOf }: ArchiveSource,
  to: Writable,
  signal: AbortSignal,
): Promise<void> {
  const zip = new ZipFile(to);
  const arts = new Set<ArtId>(
    [
      ...kept.shelf.flatMap(({ content }) => artsOfPiece(content)),
      ...kept.sets.flatMap(({ planes }) => planes.flatMap(({ content }) => keptArts(content))),
    ].map(({ id }) => id),
  );
  const sounds = new Set<SoundId>();
  const put = async (part: string, scene: Scene): Promise<string> => {
    signal.throwIfAborted();
    for (const { id } of sceneArts(scene)) arts.add(id);
    if (scene.sound) sounds.add(scene.sound.id);
    await zip.add(part, Buffer.from(sceneText(scene)), NO_TIME);
    return part;
  };
  try {
    const shots: Archive['shots'] = [];
    for await (const { name, scene, takes: old, history } of given) {
      const folder = `shots/${String(shots.length + 1).padStart(4, '0')}`;
      const takes: Archive['shots'][number]['takes'] = [];
      for (const take of old) {
        const part = `${folder}/take-${String(takes.length + 1).padStart(4, '0')}.json`;
        takes.push({ name: take.name, note: take.note, scene: await put(part, take.scene) });
      }
      let told: string | null = null;
      if (history) {
        told = `${folder}/history.json`;
        const text = JSON.stringify(history);
        for (const id of artsNamed(text)) arts.add(id);
        await zip.add(told, Buffer.from(text), NO_TIME);
      }
      shots.push({ name, scene: await put(`${folder}/scene.json`, scene), takes, history: told });
    }
    const archive: Archive = { format: 'keen-ridge-production', version: ARCHIVE_VERSION, ...kept, shots };
    await zip.add(PRODUCTION_PART, Buffer.from(`${JSON.stringify(archive, null, 2)}\n`), NO_TIME);
    for (const id of [...arts].sort()) {
      signal.throwIfAborted();
      const png = await pngOf(id);
      if (png) await zip.add(artPart(id), png, NO_TIME);
    }
    for (const id of [...sounds].sort()) {
      const bytes = await soundOf(id);
      const kind = bytes && soundKindOf(bytes);
      if (bytes && kind) await zip.add(soundPart(id, kind), bytes, NO_TIME);
    }
    await zip.finish();
  } catch (error) {
    await zip.abort();
    throw error;
  }
}

/** Ids of the art that a history may bring back: 64 hex digits wherever they stand. */
export const artsNamed = (history: string): ArtId[] =>
  [...new Set(history.match(/\b[0-9a-f]{64}\b/g))].map((id) => artIdSchema.parse(id));
