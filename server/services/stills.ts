import type { StillKind } from '@keen-ridge/core/export';
import { fileStem, planOfPlane } from '@keen-ridge/core/export';
import { writeOpenRaster } from '@keen-ridge/core/export/openraster';
import { type FramePlan, framePlan } from '@keen-ridge/core/shot';
import sharp from 'sharp';
import type { Database } from '../db/database.ts';
import { pngOfFrame } from '../jobs/encode-frame.ts';
import { type FrameRenderer, type PictureAsked, scaledSize } from './frame-renderer.ts';
import { readSetUp } from './shots.ts';

const THUMBNAIL_PX = 256;
export const STILL_ENDINGS: Readonly<Record<StillKind, string>> = {
  png: 'png',
  webp: 'webp',
  openraster: 'ora',
};

export interface Still {
  readonly bytes: Uint8Array;
  readonly fileName: string;
}

/** One frame as a picture, or as an OpenRaster file with every plane in place as a layer of its own. */
export async function stillOf(
  db: Database,
  renderer: FrameRenderer,
  shotId: string,
  asked: { readonly frame: number; readonly format: StillKind; readonly scale: number },
): Promise<Still> {
  const { scene, name } = await readSetUp(db, shotId);
  const plan = framePlan(scene, asked.frame);
  const picture: PictureAsked = {
    ...scaledSize(scene, asked.scale),
    format: 'straight8',
    ground: 'clear',
    words: '',
  };
  const fileName = `${fileStem(name)}_${String(asked.frame).padStart(4, '0')}.${STILL_ENDINGS[asked.format]}`;
  const bytes = await renderer.withArt(scene, async () => {
    const pngOf = (of: FramePlan) =>
      renderer.usePicture(of, picture, (rendered) => pngOfFrame(rendered, false));
    const png = await pngOf(plan);
    if (asked.format === 'png') return png;
    if (asked.format === 'webp') return sharp(png).webp({ lossless: true, effort: 3 }).toBuffer();
    // Drawn far to near; a file lists what is on top first.
    const shown = plan.planes.filter(({ state }) => state === 'drawn').toReversed();
    const layers = await Promise.all(
      shown.map(async ({ planeId }) => ({
        name: scene.planes.find(({ id }) => id === planeId)?.name ?? planeId,
        png: await pngOf(planOfPlane(plan, planeId)),
        xPx: 0,
        yPx: 0,
        opacity: 1,
      })),
    );
    const thumbnail = await sharp(png).resize(THUMBNAIL_PX, THUMBNAIL_PX, { fit: 'inside' }).png().toBuffer();
    return writeOpenRaster(layers, picture, Date.now(), { merged: png, thumbnail });
  });
  return { bytes, fileName };
}
