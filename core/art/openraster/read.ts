import { strFromU8, type UnzipFileInfo, unzipSync } from 'fflate';
import { fail, ok, type Result } from '../../units/index.ts';
import type { ArtFault } from '../not-kept.ts';
import { readStack, type Stack, type StackLayer } from './stack.ts';

const MIMETYPE = 'image/openraster';
/** Unpacked bytes of all parts together: past this a file is a bomb, not a painting. */
export const LARGEST_UNPACKED_BYTES = 2 * 2 ** 30;

export interface OpenRasterLayer extends StackLayer {
  readonly png: Uint8Array;
}
export interface OpenRaster extends Omit<Stack, 'layers'> {
  /** On top first. */
  readonly layers: readonly OpenRasterLayer[];
}

/** A zip archive (PKWARE APPNOTE, local file header signature). */
export const isZip = (bytes: Uint8Array): boolean =>
  bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 3 && bytes[3] === 4;

/** Reads an OpenRaster file (baseline, version 0.0.5) into its layers' PNG bytes and their places. */
export function readOpenRaster(bytes: Uint8Array): Result<OpenRaster, ArtFault> {
  if (!isZip(bytes))
    return fail({ code: 'not-this-format', detail: 'it does not begin as an OpenRaster file does' });
  const parts = unpack(bytes);
  if (!parts.ok) return parts;
  const mimetype = parts.value.mimetype;
  if (!mimetype || strFromU8(mimetype).trim() !== MIMETYPE) {
    return fail({ code: 'not-this-format', detail: 'it is a zip, but its mimetype is not image/openraster' });
  }
  const xml = parts.value['stack.xml'];
  if (!xml) return fail({ code: 'missing-part', detail: 'stack.xml is missing' });
  const stack = readStack(strFromU8(xml));
  if (!stack.ok) return stack;
  const missing = stack.value.layers.find((layer) => !parts.value[layer.src]);
  if (missing) {
    return fail({
      code: 'missing-part',
      detail: `layer "${missing.name}" names ${missing.src}, which is not in the file`,
    });
  }
  const layers = stack.value.layers.map((layer) => ({ ...layer, png: parts.value[layer.src]! }));
  return ok({ ...stack.value, layers });
}

function unpack(bytes: Uint8Array): Result<Record<string, Uint8Array>, ArtFault> {
  let total = 0;
  const within = (file: UnzipFileInfo) => {
    total += file.originalSize;
    return total <= LARGEST_UNPACKED_BYTES && !file.name.endsWith('/');
  };
  try {
    const parts = unzipSync(bytes, { filter: within });
    if (total > LARGEST_UNPACKED_BYTES)
      return fail({ code: 'too-large', detail: 'it unpacks to over 2 GiB' });
    return ok(parts);
  } catch (error) {
    if (!(error instanceof Error)) throw error;
    return fail({ code: 'damaged', detail: `the archive cannot be unpacked (${error.message})` });
  }
}
