import { strFromU8 } from 'fflate';
import { fail, ok, type Result } from '../../units/index.ts';
import { type ArtFault, leavesOf, type Painting, type TreeNode } from '../index.ts';
import { unzipEntries } from '../zip/index.ts';
import { readStack, type StackImage } from './stack.ts';

const MIMETYPE = 'image/openraster';

/** A zip archive (PKWARE APPNOTE, local file header signature). */
export const isZip = (bytes: Uint8Array): boolean =>
  bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 3 && bytes[3] === 4;

/** OpenRaster wants the mimetype first and stored, so that it lies at a fixed place of the file. */
export const isOpenRaster = (parts: Readonly<Record<string, Uint8Array>>): boolean =>
  parts.mimetype !== undefined && strFromU8(parts.mimetype).trim() === MIMETYPE;

/** Reads an OpenRaster file (baseline, version 0.0.5) into its tree of PNG bytes. */
export function readOpenRaster(bytes: Uint8Array): Result<Painting<Uint8Array>, ArtFault> {
  if (!isZip(bytes))
    return fail({ code: 'not-this-format', detail: 'it does not begin as an OpenRaster file does' });
  const parts = unzipEntries(bytes);
  if (!parts.ok) return parts;
  if (!isOpenRaster(parts.value)) {
    return fail({ code: 'not-this-format', detail: 'it is a zip, but its mimetype is not image/openraster' });
  }
  return readOpenRasterParts(parts.value);
}

/** The same from the parts of the archive. */
export function readOpenRasterParts(
  parts: Readonly<Record<string, Uint8Array>>,
): Result<Painting<Uint8Array>, ArtFault> {
  const xml = parts['stack.xml'];
  if (!xml) return fail({ code: 'missing-part', detail: 'stack.xml is missing' });
  const stack = readStack(strFromU8(xml));
  if (!stack.ok) return stack;
  const missing = leavesOf(stack.value.nodes).find(({ layer }) => !parts[layer.image.src]);
  if (missing) {
    const { name, image } = missing.layer;
    return fail({
      code: 'missing-part',
      detail: `layer "${name}" names ${image.src.slice(0, 120)}, which is not in the file`,
    });
  }
  const withBytes = (node: TreeNode<StackImage>): TreeNode<Uint8Array> =>
    node.kind === 'layer'
      ? { ...node, image: parts[node.image.src] as Uint8Array }
      : { ...node, children: node.children.map(withBytes) };
  return ok({ ...stack.value, nodes: stack.value.nodes.map(withBytes) });
}
