import { writeFile } from 'node:fs/promises';
import { basename, resolve } from 'node:path';
import { asPaintings, type ImportedPainting, paintedLayers } from '@keen-ridge/core/art/landing';
import { writePackage } from '@keen-ridge/core/art/package';
import { planeFromLayer } from '@keen-ridge/core/edits/art';
import { addPlanes } from '@keen-ridge/core/edits/planes';
import { LIMITS, newScene, planeIdSchema } from '@keen-ridge/core/scene';
import { readScene } from '@keen-ridge/core/staging/check';
import { faultSentence } from '../art/art-words.ts';
import { collectImages } from '../art/collect.ts';
import { readArtFile } from '../art/read-art.ts';
import { readFrameSize, readRate, readWhole } from './arguments.ts';
import { expandFolders, readBytes, sceneWords } from './package-file.ts';
import { UsageFault } from './usage-fault.ts';
import { writeWhole } from './write-whole.ts';

export interface PackOptions {
  readonly frame: string;
  readonly rate: string;
  readonly length: string;
  readonly output: string;
  readonly from: string;
  readonly warn: (line: string) => void;
}

/** Art files into an open package: first file on top, everything on the datum. */
export async function pack(files: readonly string[], options: PackOptions): Promise<string> {
  if (files.length === 0) throw new UsageFault('pack: name at least one file or folder of art');
  const lengthFrames = readWhole(
    '--length',
    options.length,
    LIMITS.lengthFrames.min,
    LIMITS.lengthFrames.max,
  );
  const empty = newScene({ ...readFrameSize(options.frame), rate: readRate(options.rate), lengthFrames });
  const { sink, images } = collectImages();
  const paintings: ImportedPainting[] = [];
  for (const file of await expandFolders(files, options.from)) {
    const read = await readArtFile(basename(file), await readBytes(resolve(options.from, file)), { sink });
    if (!read.ok) throw new UsageFault(faultSentence(file, read.error));
    for (const { notKept } of read.value) for (const lost of notKept) options.warn(`${file}: ${lost}`);
    paintings.push(...read.value);
  }
  if (paintings.length === 0)
    throw new UsageFault(`pack: there is no art in ${files.join(', ')}: the package would be empty`);
  const layers = asPaintings(paintings, empty.rate).flatMap((painting) =>
    paintedLayers(painting, empty.rate),
  );
  const planes = layers.map((layer, i) => planeFromLayer(planeIdSchema.parse(`plane-${i + 1}`), layer));
  const art = new Map([...images].map(([id, { png }]) => [id, png]));
  // Read as whoever opens it will: what could not be opened again is not written.
  const scene = readScene(addPlanes(empty, planes));
  if (!scene.ok) throw new UsageFault(`pack: ${sceneWords(scene.error)}`);
  const bytes = writePackage({ scene: scene.value, art });
  const output = resolve(options.from, options.output);
  await writeWhole(output, options.output, (part) => writeFile(part, bytes));
  return `${options.output}: ${planes.length} ${planes.length === 1 ? 'plane' : 'planes'}`;
}
