import { artPart } from '@keen-ridge/core/art/package';
import { soundParts } from '@keen-ridge/core/art/sound';
import {
  ARCHIVE_VERSION,
  type Archive,
  archiveSchema,
  PRODUCTION_PART,
  type ShotHistory,
  shotHistorySchema,
} from '@keen-ridge/core/contract/archive';
import { LARGEST_SOUND_BYTES } from '@keen-ridge/core/contract/sound';
import { deletePlanes } from '@keen-ridge/core/edits/planes';
import type { ArtId, Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import type { SoundId } from '@keen-ridge/core/scene/sound';
import { readScene } from '@keen-ridge/core/staging/check';
import { keptArts } from '@keen-ridge/core/staging/content';
import { jsonDepth, reasonOf } from '@keen-ridge/core/units';
import { addProduction, type NewProduction } from '../../db/archive.ts';
import type { Database } from '../../db/connection/queryable.ts';
import { artsOfPiece } from '../../db/kept/shelf.ts';
import { ProblemError } from '../../faults/problems.ts';
import { ZipReader } from '../../storage/zip-reader.ts';
import { withoutBadSound } from '../take-sound.ts';
import { artsNamed } from './archive-out.ts';

/** Keeps an image under its id; a sentence of what is wrong with it, null where nothing is. */
export type KeepArt = (id: ArtId, png: Uint8Array) => Promise<string | null>;

const MOST_PARTS = 500_000;
const LARGEST_TEXT_BYTES = 64 * 2 ** 20;
/** An image as it lies in an archive: what may be brought in as one file. */
const LARGEST_ART_BYTES = 1024 * 2 ** 20;
const DEEPEST = 64;
/** All scenes of an archive are in memory before the first is stored. */
const MOST_TEXT_BYTES = 512 * 2 ** 20;

/** Keeps a sound under its id; a sentence of what is wrong with it, null where nothing is. */
export type KeepSound = (id: SoundId, bytes: Uint8Array) => Promise<string | null>;

interface ArchiveHooks {
  readonly keepArt: KeepArt;
  readonly keepSound: KeepSound;
  readonly signal: AbortSignal;
}

/** What is done together with the making of the production. */
type Alongside = Parameters<typeof addProduction>[2];

/** The production of an archive on the disk, made at the end, whole. */
export async function openArchive(
  db: Database,
  fileName: string,
  path: string,
  hooks: ArchiveHooks & { readonly alongside: Alongside },
) {
  const { production, leftOut } = await readArchive(fileName, path, hooks);
  return { ...(await addProduction(db, production, hooks.alongside)), leftOut };
}

export interface ReadArchive {
  readonly production: NewProduction;
  /** A sentence for each plane that had to be left out. */
  readonly leftOut: string[];
}

/**
 * A production out of an archive on the disk: images are read and kept one at a time. Planes whose art is missing or
 * damaged are left out and named. Throws ProblemError where it is no archive.
 */
export async function readArchive(
  fileName: string,
  path: string,
  { keepArt, keepSound, signal }: ArchiveHooks,
): Promise<ReadArchive> {
  const refuse = (why: string): never => {
    throw new ProblemError('unreadable-art', `“${fileName}” is no production that can be opened: ${why}.`);
  };
  const zip = await ZipReader.open(path, MOST_PARTS).catch((error: Error) => refuse(error.message));
  let readBytes = 0;
  try {
    const text = async (part: string): Promise<unknown> => {
      const bytes = await zip.read(part, LARGEST_TEXT_BYTES).catch((error: Error) => refuse(error.message));
      if (!bytes) return refuse(`${part} is not in it`);
      readBytes += bytes.length;
      if (readBytes > MOST_TEXT_BYTES) return refuse(`its scenes have over ${MOST_TEXT_BYTES / 2 ** 20} MiB`);
      const json = Buffer.from(bytes).toString('utf8');
      if (jsonDepth(json) > DEEPEST) return refuse(`${part} is nested too deep`);
      try {
        return JSON.parse(json);
      } catch {
        return refuse(`${part} is no JSON`);
      }
    };
    const archive = archiveOf(await text(PRODUCTION_PART), refuse);
    const sceneIn = async (part: string): Promise<Scene> => {
      const scene = readScene(await text(part));
      if (scene.ok) return scene.value;
      return refuse(
        scene.error.code === 'newer-than-program'
          ? `${part} is of scene version ${scene.error.version}, and this program knows up to ${scene.error.newestKnown}`
          : `${part}: ${scene.error.detail}`,
      );
    };
    const shots: NewProduction['shots'][number][] = [];
    for (const shot of archive.shots) {
      const takes = [];
      for (const take of shot.takes) takes.push({ ...take, scene: await sceneIn(take.scene) });
      const history =
        shot.history === null ? null : historyOf(await text(shot.history), shot.history, refuse);
      shots.push({ name: shot.name, scene: await sceneIn(shot.scene), takes, history });
    }
    const faults = await keepAll(zip, wantedArt(archive, shots), keepArt, signal);
    const sounds = await keepSounds(zip, shots, keepSound, signal);
    const leftOut: string[] = [];
    const mended = (scene: Scene, tell: (words: string) => void): Scene => {
      const heard = withoutBadSound(scene, (scene.sound && sounds.get(scene.sound.id)) ?? null);
      heard.leftOut.forEach(tell);
      return withoutFaults(heard.scene, faults, tell);
    };
    const whole = shots.map(({ name, scene, takes, history }) => ({
      name,
      history,
      scene: mended(scene, (words) => leftOut.push(`${name}, ${words}`)),
      takes: takes.map((take) => ({ ...take, scene: mended(take.scene, () => {}) })),
    }));
    const shelf = archive.shelf.filter(({ name, content }) => {
      const bad = artsOfPiece(content).find(({ id }) => faults.has(id));
      if (bad) leftOut.push(`the shelf’s ${name}: ${artPart(bad.id)} ${faults.get(bad.id)}`);
      return !bad;
    });
    const sets = archive.sets.flatMap((set) => {
      const planes = set.planes.filter(({ content }) => !keptArts(content).some(({ id }) => faults.has(id)));
      if (planes.length < set.planes.length) leftOut.push(`the set ${set.name}: planes that lack their art`);
      return planes.length === 0 ? [] : [{ ...set, planes }];
    });
    signal.throwIfAborted();
    const { name, surveyLimits, looks } = archive;
    return { production: { name, surveyLimits, looks, shelf, sets, shots: whole }, leftOut };
  } finally {
    zip.close();
  }
}

function archiveOf(data: unknown, refuse: (why: string) => never): Archive {
  const version = (data as { version?: unknown } | null)?.version;
  if (typeof version === 'number' && version > ARCHIVE_VERSION)
    return refuse(`it is of version ${version}, and this program knows up to ${ARCHIVE_VERSION}`);
  const read = archiveSchema.safeParse(data);
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  return refuse(`${PRODUCTION_PART}, ${issue?.path.join('.')}: ${issue?.message}`);
}

function historyOf(data: unknown, part: string, refuse: (why: string) => never): ShotHistory {
  const read = shotHistorySchema.safeParse(data);
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  return refuse(`${part}, ${issue?.path.join('.')}: ${issue?.message}`);
}

/** Every image that is named, once. */
const wantedArt = ({ shelf, sets }: Archive, shots: readonly NewProduction['shots'][number][]): Set<ArtId> =>
  new Set(
    [...shots.flatMap(({ scene, takes }) => [scene, ...takes.map((take) => take.scene)])]
      .flatMap((scene) => planesOf(scene).flatMap(({ content }) => keptArts(content)))
      .concat(shelf.flatMap(({ content }) => artsOfPiece(content)))
      .concat(sets.flatMap(({ planes }) => planes.flatMap(({ content }) => keptArts(content))))
      .map(({ id }) => id)
      .concat(shots.flatMap(({ history }) => (history ? artsNamed(JSON.stringify(history)) : []))),
  );

/** What is wrong with images, by their ids. */
async function keepAll(
  zip: ZipReader,
  ids: ReadonlySet<ArtId>,
  keepArt: KeepArt,
  signal: AbortSignal,
): Promise<Map<string, string>> {
  const faults = new Map<string, string>();
  for (const id of ids) {
    signal.throwIfAborted();
    const fault = await keepOne(zip, id, keepArt);
    if (fault) faults.set(id, fault);
  }
  return faults;
}

async function keepOne(zip: ZipReader, id: ArtId, keepArt: KeepArt): Promise<string | null> {
  let png: Uint8Array | null;
  try {
    png = await zip.read(artPart(id), LARGEST_ART_BYTES);
  } catch (error) {
    return `cannot be unpacked (${reasonOf(error)})`;
  }
  return png ? keepArt(id, png) : 'is not in the archive';
}

/** What is wrong with sounds, by their ids. */
async function keepSounds(
  zip: ZipReader,
  shots: readonly NewProduction['shots'][number][],
  keepSound: KeepSound,
  signal: AbortSignal,
): Promise<Map<string, string>> {
  const scenes = shots.flatMap(({ scene, takes }) => [scene, ...takes.map((take) => take.scene)]);
  const ids = new Set(scenes.flatMap(({ sound }) => (sound ? [sound.id] : [])));
  const faults = new Map<string, string>();
  for (const id of ids) {
    signal.throwIfAborted();
    const fault = await keepOneSound(zip, id, keepSound);
    if (fault) faults.set(id, fault);
  }
  return faults;
}

async function keepOneSound(zip: ZipReader, id: SoundId, keepSound: KeepSound): Promise<string | null> {
  for (const part of soundParts(id)) {
    try {
      const bytes = await zip.read(part, LARGEST_SOUND_BYTES);
      if (bytes) return await keepSound(id, bytes);
    } catch (error) {
      return `cannot be unpacked (${reasonOf(error)})`;
    }
  }
  return 'is not in the archive';
}

function withoutFaults(
  scene: Scene,
  faults: ReadonlyMap<string, string>,
  tell: (words: string) => void,
): Scene {
  const bad = planesOf(scene).flatMap((plane) => {
    const art = keptArts(plane.content).find(({ id }) => faults.has(id));
    return art ? [{ plane, art }] : [];
  });
  for (const { plane, art } of bad) tell(`${plane.name}: ${artPart(art.id)} ${faults.get(art.id)}`);
  return bad.length === 0 ? scene : deletePlanes(scene, new Set(bad.map(({ plane }) => plane.id)));
}
