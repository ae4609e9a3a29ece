import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { soundKindOf } from '@keen-ridge/core/art/sound';
import { laySound } from '@keen-ridge/core/edits/shot';
import type { Scene } from '@keen-ridge/core/scene';
import { type SoundId, soundIdSchema } from '@keen-ridge/core/scene/sound';
import { fail, ok, type Result } from '@keen-ridge/core/units';

import type { Database } from '../db/connection/queryable.ts';
import { keepSound, readSound, type StoredSound } from '../db/kept/sounds.ts';
import { listen } from '../film/listen.ts';

/** A file of sound, listened to and stored; or a sentence of what is wrong with it. One that is there is not heard again. */
export async function takeSound(
  db: Database,
  path: string,
  signal?: AbortSignal,
): Promise<Result<StoredSound, string>> {
  const bytes = new Uint8Array(await readFile(path));
  const kind = soundKindOf(bytes);
  if (!kind) return fail('it is no WAV, MP3, OGG or FLAC');
  const id = soundIdOf(bytes);
  const there = await readSound(db, id);
  if (there) {
    await keepSound(db, there);
    return ok(there);
  }
  const heard = await listen(path, kind, signal);
  if (!heard.ok) return heard;
  const sound = { id, kind, bytes, ...heard.value };
  await keepSound(db, sound);
  return ok(sound);
}

/** Keeps a sound that came from another store under its id. A sentence of what is wrong with it; null where nothing is. */
export async function takeInSound(
  db: Database,
  folder: string,
  { id, bytes, signal }: { readonly id: SoundId; readonly bytes: Uint8Array; readonly signal: AbortSignal },
): Promise<string | null> {
  if (soundIdOf(bytes) !== id) return 'is damaged: its SHA-256 differs';
  const path = join(folder, id);
  await writeFile(path, bytes);
  const taken = await takeSound(db, path, signal);
  return taken.ok ? null : `cannot be heard: ${taken.error}`;
}

export const soundIdOf = (bytes: Uint8Array): SoundId =>
  soundIdSchema.parse(createHash('sha256').update(bytes).digest('hex'));

/** A scene without its sound, where `fault` says what is wrong with that; and a sentence for whoever opened it. */
export const withoutBadSound = (
  scene: Scene,
  fault: string | null,
): { readonly scene: Scene; readonly leftOut: string[] } =>
  scene.sound && fault !== null
    ? { scene: laySound(scene, null), leftOut: [`the sound ${scene.sound.name} ${fault}`] }
    : { scene, leftOut: [] };
