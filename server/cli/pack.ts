import { writeFile } from 'node:fs/promises';
import { basename, resolve } from 'node:path';
import { writePackage } from '@keen-ridge/core/art/package';
import { addPlanes, LIMITS, newScene, planeFromLayer, planeIdSchema } from '@keen-ridge/core/document';
import { faultSentence, notKeptSentence } from '../services/art-words.ts';
import { type ReadLayer, readArtFile } from '../services/read-art.ts';
import { readFrameSize, readRate, readWhole } from './arguments.ts';
import { readBytes } from './package-file.ts';
import { UsageFault } from './usage-fault.ts';

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
  if (files.length === 0) throw new UsageFault('pack: name at least one PNG or OpenRaster file');
  const lengthFrames = readWhole(
    '--length',
    options.length,
    LIMITS.lengthFrames.min,
    LIMITS.lengthFrames.max,
  );
  const empty = newScene({ ...readFrameSize(options.frame), rate: readRate(options.rate), lengthFrames });
  const layers: ReadLayer[] = [];
  for (const file of files) {
    const read = await readArtFile(basename(file), await readBytes(resolve(options.from, file)));
    if (!read.ok) throw new UsageFault(faultSentence(file, read.error));
    for (const lost of read.value.notKept) options.warn(`${file}: ${notKeptSentence(lost)}`);
    layers.push(...read.value.layers);
  }
  const planes = layers.map((layer, i) => {
    const { png: _png, ...painted } = layer;
    return planeFromLayer(planeIdSchema.parse(`plane-${i + 1}`), painted);
  });
  const art = new Map(layers.map(({ art: { id }, png }) => [id as string, png]));
  await writeFile(
    resolve(options.from, options.output),
    writePackage({ scene: addPlanes(empty, planes), art }),
  );
  return `${options.output}: ${planes.length} ${planes.length === 1 ? 'plane' : 'planes'}`;
}
