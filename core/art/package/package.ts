import { strFromU8, strToU8, type Zippable, zipSync } from 'fflate';
import type { PlaneId, Scene, SceneFault } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { readScene } from '../../staging/check/index.ts';
import { keptArts, sceneArts } from '../../staging/content/index.ts';
import { fail, jsonDepth, ok, type Result } from '../../units/index.ts';
import type { ArtFault } from '../index.ts';
import { isSoundPart, soundKindOf, soundPart, soundParts } from '../sound/index.ts';
import { unzipEntries } from '../zip/index.ts';

/** A shot that can be carried away: scene.json, art/<sha256>.png and a sound, as docs/formats.md describes. */
export interface ShotPackage {
  readonly scene: Scene;
  /** PNG bytes by art id. */
  readonly art: ReadonlyMap<string, Uint8Array>;
  /** The file of the scene's sound. */
  readonly sound?: Uint8Array;
}

export const SCENE_PART = 'scene.json';
export const artPart = (artId: string): string => `art/${artId}.png`;

/** The scene as it stands in a package. */
export const sceneText = (scene: Scene): string => `${JSON.stringify(scene, null, 2)}\n`;

/** PNGs do not shrink further, so they are stored as they are; `mtime` keeps the same shot the same bytes. */
export function writePackage({ scene, art, sound }: ShotPackage): Uint8Array {
  const parts: Zippable = { [SCENE_PART]: strToU8(sceneText(scene)) };
  for (const id of sceneArts(scene)
    .map((art) => art.id)
    .sort()) {
    const png = art.get(id);
    if (!png) throw new Error(`The package lacks art ${id}`);
    parts[artPart(id)] = [png, { level: 0 }];
  }
  if (scene.sound) {
    const kind = sound && soundKindOf(sound);
    if (!sound || !kind) throw new Error(`The package lacks the sound ${scene.sound.id}`);
    parts[soundPart(scene.sound.id, kind)] = [sound, { level: 0 }];
  }
  return zipSync(parts, { mtime: '1980-01-01T00:00:00' });
}

export type PackageFault = ArtFault | SceneFault;

/** What a package may hold; anything else in it is passed over, and not unpacked. */
const isPart = (name: string): boolean =>
  name === SCENE_PART || /^art\/[0-9a-f]{64}\.png$/.test(name) || isSoundPart(name);
/** PNGs do not grow when they are unpacked; a scene of JSON does. Past this much a package is a bomb. */
const LEAST_UNPACKED_BYTES = 256 * 2 ** 20;
const MOST_GROWTH = 4;
const LARGEST_SCENE_BYTES = 64 * 2 ** 20;
/** A scene is some twelve deep. */
const DEEPEST_SCENE = 64;

/** A package as far as it can be read, and the planes whose art it lacks, with what is missing of each. */
export interface OpenedPackage extends ShotPackage {
  readonly lacking: readonly { readonly plane: PlaneId; readonly name: string; readonly part: string }[];
}

/** Reads a package. Every image that the scene names must be there. */
export function readPackage(bytes: Uint8Array): Result<ShotPackage, PackageFault> {
  const opened = openPackage(bytes);
  if (!opened.ok) return opened;
  const { scene, art, lacking } = opened.value;
  const [first] = lacking;
  if (first)
    return fail({ code: 'missing-part', detail: `${first.part} of plane "${first.name}" is not in it` });
  const { sound } = opened.value;
  if (scene.sound && !sound)
    return fail({ code: 'missing-part', detail: `the sound ${scene.sound.name} is not in it` });
  return ok({ scene, art, ...(sound ? { sound } : {}) });
}

/** The same, but art that is missing is told of, and the rest is there. */
export function openPackage(bytes: Uint8Array): Result<OpenedPackage, PackageFault> {
  const parts = unzipEntries(bytes, {
    wanted: isPart,
    mostBytes: Math.max(LEAST_UNPACKED_BYTES, bytes.length * MOST_GROWTH),
  });
  if (!parts.ok) return parts;
  const text = parts.value[SCENE_PART];
  if (!text) return fail({ code: 'missing-part', detail: `${SCENE_PART} is not in it` });
  if (text.length > LARGEST_SCENE_BYTES)
    return fail({ code: 'too-large', detail: `${SCENE_PART} has over ${LARGEST_SCENE_BYTES / 2 ** 20} MiB` });
  const scene = readScene(parseJson(strFromU8(text)));
  if (!scene.ok) return scene;
  const art = new Map<string, Uint8Array>();
  const lacking: OpenedPackage['lacking'][number][] = [];
  for (const { id: plane, name, content } of planesOf(scene.value)) {
    for (const { id } of keptArts(content)) {
      const png = parts.value[artPart(id)];
      if (png) art.set(id, png);
      else lacking.push({ plane, name, part: artPart(id) });
    }
  }
  const laid = scene.value.sound;
  const sound =
    laid &&
    soundParts(laid.id)
      .map((part) => parts.value[part])
      .find((file) => file);
  return ok({ scene: scene.value, art, lacking, ...(sound ? { sound } : {}) });
}

function parseJson(text: string): unknown {
  // Not an object either: readScene names it as the fault.
  if (jsonDepth(text) > DEEPEST_SCENE) return null;
  try {
    return JSON.parse(text);
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    // Not an object: readScene names it as the fault.
    return null;
  }
}
