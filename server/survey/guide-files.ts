import { PassThrough, type Writable } from 'node:stream';
import type { GuideFormat } from '@keen-ridge/core/contract';
import { GUIDE_LAYER, guideFileName } from '@keen-ridge/core/export/guides';
import { OPEN_RASTER, openRasterStack } from '@keen-ridge/core/export/openraster';
import type { Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { type ArtSight, guidePlan } from '@keen-ridge/core/survey';
import { type Layer, writePsdBuffer } from 'ag-psd';
import sharp from 'sharp';
import { ProblemError } from '../faults/problems.ts';
import { pngOfFrame, rgbaOfPng } from '../pictures/encode-frame.ts';
import type { FrameRenderer } from '../pictures/frame-renderer.ts';
import { ZipFile } from '../storage/zip-file.ts';
import { drawGuidePart, GUIDE_PARTS } from './guide-drawing.ts';

const ENDINGS: Readonly<Record<GuideFormat, string>> = { png: 'png', openraster: 'ora', psd: 'psd' };

/** A larger canvas than this would not fit into memory several times over. */
const MOST_PX = 120e6;
/** Longest side of a PSD; larger ones are PSB (Adobe Photoshop File Formats Specification, file header section). */
const LARGEST_PSD_PX = 30_000;
const THUMBNAIL_PX = 256;
/** How much of the paint shows under a guide that is one picture. */
const DIMMED = 0.6;

export interface GuideFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** The layers of a guide as PNG of its file's size, from below upward; the first is the paint. */
interface Layers {
  readonly names: readonly string[];
  readonly pngs: readonly Buffer[];
}

/** What a plane is to be painted over on: its paint, what is missing, what is never seen, and where the frame goes. */
export async function guideFile(
  renderer: FrameRenderer,
  scene: Scene,
  sight: ArtSight,
  format: GuideFormat,
): Promise<GuideFile> {
  const { canvas } = sight;
  const plane = planeOf(scene, canvas.planeId);
  const plan = guidePlan(scene, sight);
  if (!plane || !plan) throw new Error(`There is no plane ${canvas.planeId}`);
  const { fileWidthPx: widthPx, fileHeightPx: heightPx } = canvas;
  if (widthPx * heightPx > MOST_PX)
    throw new ProblemError(
      'bad-request',
      `The guide of “${plane.name}” would have ${widthPx} × ${heightPx} px, and ${MOST_PX / 1e6} million are the most.`,
    );
  const asked = { widthPx, heightPx, format: 'straight8', ground: 'clear', words: '' } as const;
  const paint = await renderer.usePicture(plan, asked, (rendered) => pngOfFrame(rendered, false));
  const guides: Buffer[] = [];
  for (const part of GUIDE_PARTS) guides.push(await drawGuidePart(sight, part));
  const layers = {
    names: [plane.name, ...GUIDE_PARTS.map((part) => GUIDE_LAYER + part)],
    pngs: [paint, ...guides],
  };
  return {
    name: `${guideFileName(plane, canvas)}.${ENDINGS[format]}`,
    bytes: await WRITERS[format](layers, { widthPx, heightPx }),
  };
}

interface Size {
  readonly widthPx: number;
  readonly heightPx: number;
}

const WRITERS: Readonly<Record<GuideFormat, (layers: Layers, size: Size) => Promise<Uint8Array>>> = {
  png: ({ pngs }) => merged(pngs, DIMMED),
  openraster: openRaster,
  psd,
};

/** All layers over one another, the paint as strong as is asked. */
async function merged([paint, ...guides]: readonly Buffer[], strength: number): Promise<Buffer> {
  const { width = 1, height = 1 } = await sharp(paint, { limitInputPixels: false }).metadata();
  // What is left of the alpha where a half clear layer keeps its own and takes none of the other's colour.
  const faded = sharp(paint, { limitInputPixels: false })
    .ensureAlpha()
    .composite([
      {
        input: Buffer.from([0, 0, 0, Math.round(strength * 255)]),
        raw: { width: 1, height: 1, channels: 4 },
        tile: true,
        blend: 'dest-in',
      },
    ]);
  const below = strength < 1 ? await faded.png().toBuffer() : paint!;
  return sharp({
    create: { width, height, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } },
    limitInputPixels: false,
  })
    .composite([below, ...guides].map((input) => ({ input, limitInputPixels: false })))
    .png()
    .toBuffer();
}

async function openRaster({ names, pngs }: Layers, size: Size): Promise<Uint8Array> {
  const { mimetype, stack, layer, merged: mergedName, thumbnail } = OPEN_RASTER;
  const whole = await merged(pngs, 1);
  const small = await sharp(whole, { limitInputPixels: false })
    .resize(THUMBNAIL_PX, THUMBNAIL_PX, { fit: 'inside' })
    .png()
    .toBuffer();
  // A file lists what is on top first.
  const onTop = names.map((name, i) => ({ name, png: pngs[i]! })).toReversed();
  const listed = onTop.map(({ name }, i) => ({ name, src: layer(i), xPx: 0, yPx: 0, opacity: 1 }));
  return zipped([
    { name: mimetype.name, bytes: Buffer.from(mimetype.text) },
    { name: stack, bytes: Buffer.from(openRasterStack(listed, size)) },
    { name: thumbnail, bytes: small },
    { name: mergedName, bytes: whole },
    ...onTop.map(({ png }, i) => ({ name: layer(i), bytes: png })),
  ]);
}

async function psd({ names, pngs }: Layers, { widthPx: width, heightPx: height }: Size): Promise<Uint8Array> {
  const pixels = async (png: Buffer) => ({ width, height, data: await rgbaOfPng(png) });
  const children: Layer[] = [];
  for (const [i, png] of pngs.entries()) children.push({ name: names[i]!, imageData: await pixels(png) });
  const document = { width, height, children, imageData: await pixels(await merged(pngs, 1)) };
  return writePsdBuffer(document, {
    psb: Math.max(width, height) > LARGEST_PSD_PX,
    generateThumbnail: false,
  });
}

/** Some files as one zip. */
async function zipped(files: readonly GuideFile[]): Promise<Uint8Array> {
  const to = new PassThrough();
  const parts: Buffer[] = [];
  to.on('data', (part: Buffer) => parts.push(part));
  await writeZip(to, files);
  return Buffer.concat(parts);
}

/** Writes files into a zip one by one, as they are made. */
export async function writeZip(
  to: Writable,
  files: Iterable<GuideFile> | AsyncIterable<GuideFile>,
): Promise<void> {
  const zip = new ZipFile(to);
  const at = new Date();
  try {
    for await (const { name, bytes } of files) await zip.add(name, bytes, at);
    await zip.finish();
  } catch (error) {
    await zip.abort();
    throw error;
  }
}
