import { createWriteStream } from 'node:fs';
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join, resolve } from 'node:path';
import { type ShotPackage, writePackage } from '@keen-ridge/core/art/package';
import { fileStem } from '@keen-ridge/core/export';
import type { ArtId } from '@keen-ridge/core/scene';
import type { SoundId } from '@keen-ridge/core/scene/sound';
import { sceneArts } from '@keen-ridge/core/staging/content';
import { artIdOf } from '../art/keep-image.ts';
import { ProblemError } from '../faults/problems.ts';
import { readArchive } from '../shots/archive/archive-in.ts';
import { type ArchivedShot, writeArchive } from '../shots/archive/archive-out.ts';
import { soundIdOf } from '../shots/take-sound.ts';
import { openPackage } from './package-file.ts';
import { told } from './told.ts';
import { UsageFault } from './usage-fault.ts';
import { writeWhole } from './write-whole.ts';

interface Asked {
  /** The archive, as the caller said it, or the folder that shots go to. */
  readonly out: string;
  readonly from: string;
}

const never = (): AbortSignal => new AbortController().signal;
const nameOf = (path: string): string => basename(path).replace(/\.zip$/i, '');

/** Packages as one production, each image once: the same archive that a server opens. */
export async function archivePackages(
  paths: readonly string[],
  { out, from, name }: Asked & { readonly name: string | undefined },
): Promise<string> {
  // One package is in memory at a time; images are looked up again in the package that had them.
  const artIn = new Map<string, string>();
  async function* shots(): AsyncGenerator<ArchivedShot> {
    for (const path of paths) {
      const { scene, art, sound } = await openPackage(resolve(from, path));
      for (const id of art.keys()) artIn.set(id, path);
      if (scene.sound && sound) artIn.set(scene.sound.id, path);
      yield { name: nameOf(path), scene, takes: [], history: null };
    }
  }
  let held: { readonly path: string; readonly shot: ShotPackage | null } = { path: '', shot: null };
  const shotWith = async (id: ArtId | SoundId): Promise<ShotPackage | null> => {
    const path = artIn.get(id);
    if (path === undefined) return null;
    if (held.path !== path) held = { path, shot: await openPackage(resolve(from, path)) };
    return held.shot;
  };
  const pngOf = async (id: ArtId) => (await shotWith(id))?.art.get(id) ?? null;
  const soundOf = async (id: SoundId) => (await shotWith(id))?.sound ?? null;
  const kept = { name: name ?? nameOf(out), surveyLimits: null, looks: [], shelf: [], sets: [] };
  await writeWhole(resolve(from, out), out, (part) =>
    writeArchive({ kept, shots: shots(), pngOf, soundOf }, createWriteStream(part), never()),
  );
  return `${out}: ${paths.length} ${paths.length === 1 ? 'shot' : 'shots'}`;
}

/** The shots of an archive as packages in a folder. */
export async function unpackArchive(
  path: string,
  { out, from, warn }: Asked & { readonly warn: (line: string) => void },
): Promise<string> {
  const images = await mkdtemp(join(tmpdir(), 'keen-ridge-archive-'));
  const keepArt = async (id: ArtId, png: Uint8Array): Promise<string | null> => {
    if (artIdOf(png) !== id) return 'is damaged, its SHA-256 differs';
    await writeFile(join(images, id), png);
    return null;
  };
  const keepSound = async (id: SoundId, bytes: Uint8Array): Promise<string | null> => {
    if (soundIdOf(bytes) !== id) return 'is damaged, its SHA-256 differs';
    await writeFile(join(images, id), bytes);
    return null;
  };
  try {
    const opened = await readArchive(path, resolve(from, path), { keepArt, keepSound, signal: never() });
    for (const line of opened.leftOut) warn(`${path}: ${line}; it is left out`);
    await told(out, () => mkdir(resolve(from, out), { recursive: true }));
    const taken = new Set<string>();
    for (const { name, scene } of opened.production.shots) {
      const ids = sceneArts(scene).map(({ id }) => id);
      const art = new Map<ArtId, Uint8Array>();
      for (const id of ids) art.set(id, new Uint8Array(await readFile(join(images, id))));
      const said = join(out, `${freeStem(fileStem(name), taken)}.zip`);
      const sound = scene.sound && new Uint8Array(await readFile(join(images, scene.sound.id)));
      const bytes = writePackage({ scene, art, ...(sound ? { sound } : {}) });
      await writeWhole(resolve(from, said), said, (part) => writeFile(part, bytes));
    }
    const { length } = opened.production.shots;
    return `${out}: ${length} ${length === 1 ? 'shot' : 'shots'} of “${opened.production.name}”`;
  } catch (error) {
    if (error instanceof ProblemError) throw new UsageFault(error.message);
    throw error;
  } finally {
    await rm(images, { recursive: true, force: true });
  }
}

/** Two shots of one name are told apart by a number. */
function freeStem(stem: string, taken: Set<string>): string {
  let free = stem;
  for (let number = 2; taken.has(free.toLowerCase()); number++) free = `${stem}-${number}`;
  taken.add(free.toLowerCase());
  return free;
}
