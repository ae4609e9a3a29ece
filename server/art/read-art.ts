import {
  type ArtFault,
  leavesOf,
  type NotKept,
  type Painting,
  sniff,
  type TreeNode,
} from '@keen-ridge/core/art';
import type { ImportedNode, ImportedPainting } from '@keen-ridge/core/art/landing';
import { isOpenRaster, readOpenRasterParts } from '@keen-ridge/core/art/openraster';
import { readPsdPainting } from '@keen-ridge/core/art/psd';
import { checkSvg } from '@keen-ridge/core/art/svg';
import { unzipEntries } from '@keen-ridge/core/art/zip';
import type { DeepRaster, Raster } from '@keen-ridge/core/image';
import { fail, ok, type Result } from '@keen-ridge/core/units';
import { notKeptSentence } from './art-words.ts';
import { decodeDeep, decodePixels, isDeepPng, isPlainPng, tooLarge, tooLargeFault } from './decode.ts';
import { readFilmBytes } from './film/read-film.ts';
import { type KeptImage, keepImage } from './keep-image.ts';
import { paintingOfOne } from './one-layer.ts';
import { convertDeepProfile, convertProfile } from './profile.ts';
import { isMovingFile, readMoving } from './read-moving.ts';
import { baseOf, type ReadOptions, type ReadResult } from './read-options.ts';
import { readStill } from './read-still.ts';

/** Reads a file that an artist brought, whatever it is called, by what its bytes are. */
export async function readArtFile(
  fileName: string,
  bytes: Uint8Array,
  options: ReadOptions,
): Promise<ReadResult> {
  if (bytes.length === 0) return fail({ code: 'damaged', detail: 'it is empty' });
  const kind = sniff(bytes);
  switch (kind) {
    case 'zip':
      return readZip(fileName, bytes, options);
    case 'psd':
      return readPsd(fileName, bytes, options);
    case 'svg':
      return readSvg(fileName, bytes, options);
    case 'png':
    case 'gif':
    case 'jpeg':
    case 'webp':
    case 'tiff':
      return (await isMovingFile(kind, bytes))
        ? readMoving(fileName, kind, bytes, options)
        : readStill(fileName, kind, bytes, options);
    case 'film':
      return readFilmBytes(fileName, bytes, options);
    case null:
      return fail({ code: 'not-this-format', detail: 'it is none of the formats that are read here' });
  }
}

async function readZip(fileName: string, bytes: Uint8Array, options: ReadOptions): Promise<ReadResult> {
  const parts = unzipEntries(bytes);
  if (!parts.ok) return parts;
  if (isOpenRaster(parts.value)) {
    const painting = readOpenRasterParts(parts.value);
    if (!painting.ok) return painting;
    return readTree(fileName, painting.value, options, async (png) => {
      const image = await decodePixels(png);
      if (!image.ok) return image;
      const deep = isDeepPng(png) ? await decodeDeep(png) : null;
      if (deep && !deep.ok) return deep;
      const plain = isPlainPng(png, deep ? 16 : 8) ? png : null;
      return ok({ image: image.value, deep: deep?.value ?? null, plain });
    });
  }
  if (options.within !== undefined)
    return fail({ code: 'not-this-format', detail: 'it is an archive within an archive' });
  return readEntries(fileName, parts.value, options);
}

/** Every readable file of an archive; what is no art is reported, what is damaged art fails the whole. */
async function readEntries(
  fileName: string,
  parts: Record<string, Uint8Array>,
  options: ReadOptions,
): Promise<ReadResult> {
  const collator = new Intl.Collator('en', { numeric: true });
  const names = Object.keys(parts).sort(collator.compare);
  const paintings: ImportedPainting[] = [];
  const other: NotKept[] = [];
  for (const [index, name] of names.entries()) {
    const part = parts[name] as Uint8Array;
    if (part.length > 0 && sniff(part) === null) {
      other.push({ code: 'other-file', layer: name.slice(-200), detail: '' });
      continue;
    }
    options.onProgress?.(index, names.length, name);
    const { onProgress: _, ...quiet } = options;
    const read = await readArtFile(name, part, { ...quiet, within: fileName });
    if (!read.ok) return fail({ ...read.error, detail: `“${name.slice(-200)}”: ${read.error.detail}` });
    paintings.push(...read.value);
  }
  const [first] = paintings;
  if (!first) return fail({ code: 'no-layers', detail: 'the archive holds no art' });
  const notKept = [...first.notKept, ...other.map(notKeptSentence)];
  return ok([{ ...first, notKept }, ...paintings.slice(1)]);
}

async function readPsd(fileName: string, bytes: Uint8Array, options: ReadOptions): Promise<ReadResult> {
  const painting = readPsdPainting(bytes);
  if (!painting.ok) return painting;
  const { profile } = painting.value;
  return readTree(fileName, painting.value, options, async (pixels) => {
    const read = pixels();
    if (!read.ok) return read;
    const { image, deep } = read.value;
    if (!profile) return ok({ image, deep, plain: null });
    const converted = await convertProfile(image, profile);
    if (!converted.ok) return converted;
    const fine = deep && (await convertDeepProfile(deep, profile));
    if (fine && !fine.ok) return fine;
    return ok({ image: converted.value, deep: fine?.value ?? null, plain: null });
  });
}

interface OpenImage {
  readonly image: Raster<'straight'>;
  readonly deep: DeepRaster | null;
  readonly plain: Uint8Array | null;
}

/** How many layers are in hand at once: one is unpacked while two are looked through. */
const AT_ONCE = 3;

/** Keeps every layer of a document; empty ones are left out and reported. */
async function readTree<I>(
  fileName: string,
  painting: Painting<I>,
  { sink, onProgress }: ReadOptions,
  open: (image: I) => Promise<Result<OpenImage, ArtFault>>,
): Promise<ReadResult> {
  const { widthPx, heightPx } = painting;
  if (tooLarge(widthPx, heightPx)) return tooLargeFault(widthPx, heightPx);
  const leaves = leavesOf(painting.nodes);
  const kept = new Map<unknown, KeptImage>();
  const notKept = [...painting.notKept];
  let next = 0;
  let done = 0;
  let fault: ArtFault | null = null;
  const work = async () => {
    while (next < leaves.length && !fault) {
      const { layer } = leaves[next++]!;
      onProgress?.(done, leaves.length, layer.name);
      const image = await open(layer.image);
      if (!image.ok) fault = { ...image.error, detail: `layer “${layer.name}”: ${image.error.detail}` };
      else {
        const { image: pixels, plain, deep } = image.value;
        kept.set(layer, await keepImage(pixels, plain, sink, deep));
        done += 1;
      }
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  if (fault) return fail(fault);
  onProgress?.(done, leaves.length, '');
  const imported = (nodes: readonly TreeNode<I>[], path: string): ImportedNode[] =>
    nodes.flatMap((node, i): ImportedNode[] => {
      const key = path === '' ? `${i}` : `${path}.${i}`;
      const { name, opacity, hidden } = node;
      if (node.kind === 'group') {
        const children = imported(node.children, key);
        return children.length === 0 ? [] : [{ kind: 'group', key, name, opacity, hidden, children }];
      }
      const image = kept.get(node);
      if (!image?.art.painted) {
        notKept.push({ code: 'empty-layer', layer: name, detail: '' });
        return [];
      }
      const { xPx, yPx, mode } = node;
      return [
        {
          kind: 'layer',
          key,
          name,
          xPx,
          yPx,
          opacity,
          hidden,
          ...(mode ? { mode } : {}),
          art: image.art,
          likeness: [...image.likeness],
          frames: null,
        },
      ];
    });
  const nodes = imported(painting.nodes, '');
  if (nodes.length === 0) return fail({ code: 'no-layers', detail: 'all of its layers are empty' });
  return ok([
    {
      file: baseOf(fileName),
      widthPx,
      heightPx,
      nodes,
      notKept: notKept.map(notKeptSentence),
      alphaUnsure: false,
      svgScale: null,
    },
  ]);
}

async function readSvg(fileName: string, bytes: Uint8Array, options: ReadOptions): Promise<ReadResult> {
  const checked = checkSvg(new TextDecoder().decode(bytes));
  if (!checked.ok) return checked;
  const scale = options.svgScale ?? 1;
  const [width, height] = [checked.value.widthPx * scale, checked.value.heightPx * scale];
  if (tooLarge(width, height)) return tooLargeFault(Math.round(width), Math.round(height));
  options.onDrawing?.();
  const image = await decodePixels(bytes, { density: Math.min(100_000, Math.max(1, 72 * scale)) });
  if (!image.ok) return image;
  const kept = await keepImage(image.value, null, options.sink);
  const notKept = checked.value.notKept.map(notKeptSentence);
  return ok([paintingOfOne(fileName, kept, { notKept, svgScale: scale })]);
}
