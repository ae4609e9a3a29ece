import type { Writable } from 'node:stream';
import { fileStem, planOfPlane, type StillKind, sizeFault, sizeWords } from '@keen-ridge/core/export';
import { OPEN_RASTER, openRasterStack } from '@keen-ridge/core/export/openraster';
import { planeOf } from '@keen-ridge/core/scene/records';
import { type FramePlan, framePlan } from '@keen-ridge/core/staging/frame';
import sharp from 'sharp';
import type { Database } from '../db/connection/queryable.ts';
import { readSetUp, type SetUp } from '../db/shots.ts';
import { ProblemError } from '../faults/problems.ts';
import { ZipFile } from '../storage/zip-file.ts';
import { pngOfFrame } from './encode-frame.ts';
import { type FrameRenderer, type PictureAsked, scaledSize } from './frame-renderer.ts';
import { named } from './missing-art.ts';

const THUMBNAIL_PX = 256;
const STILL_ENDINGS: Readonly<Record<StillKind, string>> = {
  png: 'png',
  webp: 'webp',
  openraster: 'ora',
};
/** Longest side of a WebP (RFC 9649, section 2.6). */
const LARGEST_WEBP_PX = 16_383;

export interface StillAsked {
  readonly frame: number;
  readonly format: StillKind;
  readonly scale: number;
}

export interface Still {
  readonly fileName: string;
  /** Writes the file; nothing is written where it rejects before its first byte. */
  writeTo(to: Writable): Promise<void>;
}

/** One frame as a picture, or as an OpenRaster file with every plane in place as a layer of its own. */
export async function stillOf(
  db: Database,
  renderer: FrameRenderer,
  shotId: string,
  asked: StillAsked,
): Promise<Still> {
  const shot = await readSetUp(db, shotId);
  const size = scaledSize(shot.scene, asked.scale);
  const tooLarge = sizeFault('png', size.widthPx, size.heightPx);
  if (tooLarge)
    throw new ProblemError('bad-request', sizeWords('png', size.widthPx, size.heightPx, tooLarge));
  if (asked.format === 'webp' && Math.max(size.widthPx, size.heightPx) > LARGEST_WEBP_PX)
    throw new ProblemError('bad-request', `A WebP holds ${LARGEST_WEBP_PX} px to a side at most.`);
  return {
    fileName: `${fileStem(shot.name)}_${String(asked.frame).padStart(4, '0')}.${STILL_ENDINGS[asked.format]}`,
    writeTo: (to) => renderer.withArt(shot.scene, () => writeStill(renderer, shot, asked, to)).catch(named),
  };
}

async function writeStill(
  renderer: FrameRenderer,
  { scene }: SetUp,
  { frame, format, scale }: StillAsked,
  to: Writable,
): Promise<void> {
  const plan = framePlan(scene, frame);
  const picture: PictureAsked = {
    ...scaledSize(scene, scale),
    format: 'straight8',
    ground: 'clear',
    words: '',
  };
  const pngOf = (of: FramePlan) =>
    renderer.usePicture(of, picture, (rendered) => pngOfFrame(rendered, false));
  const png = await pngOf(plan);
  if (format === 'png') {
    to.end(png);
    return;
  }
  if (format === 'webp') {
    to.end(await sharp(png, { limitInputPixels: false }).webp({ lossless: true, effort: 3 }).toBuffer());
    return;
  }
  // Drawn far to near; a file lists what is on top first.
  const shown = plan.planes.filter(({ state }) => state === 'drawn').toReversed();
  const layers = shown.map(({ planeId, mode }, i) => ({
    mode,
    name: planeOf(scene, planeId)?.name ?? planeId,
    src: OPEN_RASTER.layer(i),
    xPx: 0,
    yPx: 0,
    opacity: 1,
  }));
  const thumbnail = await sharp(png, { limitInputPixels: false })
    .resize(THUMBNAIL_PX, THUMBNAIL_PX, { fit: 'inside' })
    .png()
    .toBuffer();
  const at = new Date();
  const zip = new ZipFile(to);
  try {
    const { mimetype, stack } = OPEN_RASTER;
    await zip.add(mimetype.name, Buffer.from(mimetype.text), at);
    await zip.add(stack, Buffer.from(openRasterStack(layers, picture)), at);
    await zip.add(OPEN_RASTER.thumbnail, thumbnail, at);
    await zip.add(OPEN_RASTER.merged, png, at);
    // One plane at a time: a shot may have hundreds, and its frames may be large.
    for (const [i, { planeId }] of shown.entries())
      await zip.add(OPEN_RASTER.layer(i), await pngOf(planOfPlane(plan, planeId)), at);
    await zip.finish();
  } catch (error) {
    await zip.abort();
    throw error;
  }
}
