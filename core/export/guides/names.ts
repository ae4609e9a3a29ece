import CRC32 from 'crc-32';
import type { PaintedOver } from '../../edits/art/index.ts';
import type { Plane, PlaneId, Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { fileStem } from '../names.ts';

/** Digits of what names the art in a file's name. */
const TAG_DIGITS = 6;
const IN_NAME = /_guide_(\d+)x(\d+)\+(\d+)\+(\d+)_([0-9a-f]{6})(?![0-9a-f])/;

/**
 * What tells a plane's art, as it is now, from others: a guide that was made of an older version finds no plane. None
 * for what moves: one picture cannot be the next version of several.
 */
function tagOf({ id, content }: Plane): string | null {
  if (content.kind === 'moving') return null;
  const named = content.kind === 'still' ? content.art.id : id;
  return (CRC32.str(named) >>> 0).toString(16).padStart(8, '0').slice(-TAG_DIGITS);
}

/**
 * `Far_wall_guide_3040x1200+120+0_7f3a9c`: what a painted guide needs for coming back to its place whatever program wrote
 * it, as width × height + x + y of its canvas in art px. Without its ending.
 */
export function guideFileName(plane: Plane, { widthPx, heightPx, xPx, yPx }: PaintedOver): string {
  const tag = tagOf(plane);
  return `${fileStem(plane.name)}_guide_${widthPx}x${heightPx}+${xPx}+${yPx}${tag === null ? '' : `_${tag}`}`;
}

/** The plane that a file is the painted guide of, and where on its canvas the art as it is lies; null where it is none. */
export function guideOfFile(scene: Scene, file: string): { planeId: PlaneId; place: PaintedOver } | null {
  const found = IN_NAME.exec(file);
  if (!found) return null;
  const [widthPx, heightPx, xPx, yPx] = found.slice(1, 5).map(Number) as [number, number, number, number];
  const tagged = planesOf(scene).filter((plane) => tagOf(plane) === found[5]);
  // Several planes may show one art: the name tells which was meant.
  const plane = tagged.find(({ name }) => file.startsWith(`${fileStem(name)}_guide_`)) ?? tagged[0];
  return plane && widthPx > 0 && heightPx > 0
    ? { planeId: plane.id, place: { widthPx, heightPx, xPx, yPx } }
    : null;
}

/** Whether a file's name is that of a guide, be it of a plane that is there or not. */
export const isGuideName = (file: string): boolean => IN_NAME.test(file);

/** Layers of a guide's document whose names begin so are there to look at, and are no paint. */
export const GUIDE_LAYER = 'Guide: ';
