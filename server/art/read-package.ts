import type { ArtFault } from '@keen-ridge/core/art';
import { artPart, openPackage, type PackageFault } from '@keen-ridge/core/art/package';
import { deletePlanes } from '@keen-ridge/core/edits/planes';
import type { PlaneId, Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { keptArts } from '@keen-ridge/core/staging/content';
import { fail, ok, type Result } from '@keen-ridge/core/units';
import { decodeDeep, decodeStored, isDeepPng } from './decode.ts';
import { artIdOf, type ImageSink, keepImage } from './keep-image.ts';

export interface ReadShot {
  readonly scene: Scene;
  /** A sentence for each plane that is left out, naming what its art lacks. */
  readonly leftOut: readonly string[];
  /** The file of its sound, as it is said to be. */
  readonly sound: Uint8Array | null;
}

/** Why a package cannot be opened at all. */
export const packageFault = (fault: PackageFault): ArtFault => ({
  code: 'no-package',
  detail:
    fault.code === 'newer-than-program'
      ? `its scene is of version ${fault.version}, and this program knows up to ${fault.newestKnown}`
      : fault.detail,
});

/** A shot out of an open package; its images go to the sink, each looked at as any that comes from outside. */
export async function readShotPackage(
  bytes: Uint8Array,
  sink: ImageSink,
  onProgress: (done: number, total: number, what: string) => void,
): Promise<Result<ReadShot, ArtFault>> {
  const opened = openPackage(bytes);
  if (!opened.ok) return fail(packageFault(opened.error));
  const { scene, art, lacking } = opened.value;
  const broken = new Map<string, string>();
  let done = 0;
  for (const [id, png] of art) {
    onProgress(done++, art.size, artPart(id));
    const fault = await keepPart(id, png, sink);
    if (fault) broken.set(id, fault);
  }
  const leftOut = new Map<PlaneId, string>();
  for (const { plane, name, part } of lacking) leftOut.set(plane, `${name}: ${part} is not in the package`);
  for (const { id, name, content } of planesOf(scene)) {
    const bad = keptArts(content).find((one) => broken.has(one.id));
    if (bad) leftOut.set(id, `${name}: ${artPart(bad.id)} ${broken.get(bad.id)}`);
  }
  const sound = opened.value.sound ?? null;
  if (leftOut.size === 0) return ok({ scene, leftOut: [], sound });
  const rest = deletePlanes(scene, new Set(leftOut.keys()));
  return ok({ scene: rest, leftOut: [...leftOut.values()], sound });
}

/** Why an image cannot be kept; null where it is. */
async function keepPart(id: string, png: Uint8Array, sink: ImageSink): Promise<string | null> {
  if (artIdOf(png) !== id) return 'is damaged: its SHA-256 differs';
  const image = await decodeStored(png);
  if (!image.ok) return image.error.detail;
  const deep = isDeepPng(png) ? await decodeDeep(png) : null;
  if (deep && !deep.ok) return deep.error.detail;
  await keepImage(image.value, png, sink, deep?.value ?? null);
  return null;
}
