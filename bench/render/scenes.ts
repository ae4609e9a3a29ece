import { planeFromLayer } from '@keen-ridge/core/edits/art';
import { setPlaneDepth } from '@keen-ridge/core/edits/depth';
import { setCamera } from '@keen-ridge/core/edits/keys';
import { addPlanes } from '@keen-ridge/core/edits/planes';
import { type Raster, raster } from '@keen-ridge/core/image';
import { type ArtId, newScene, type Plane, planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { seededRandom } from '@keen-ridge/core/units';

export const BENCH_SCENES = [
  'solid layers with holes',
  'small leaves',
  'all mist',
  // Mist again, every second layer laid over by multiply or by screen.
  'shadows and lamps',
] as const;
export type BenchScene = (typeof BENCH_SCENES)[number];
type Paint = Exclude<BenchScene, 'shadows and lamps'>;
const paintOf = (kind: BenchScene): Paint => (kind === 'shadows and lamps' ? 'all mist' : kind);

const ART = { widthPx: 3840, heightPx: 1400 } as const;
const PLANES = 8;

export interface Bench {
  readonly scene: Scene;
  readonly images: ReadonlyMap<string, Raster<'straight'>>;
}

/** Alpha (0 to 255) of a plane of each kind of paint at a place of its art. */
function alphaOf(kind: Paint, seed: number): (x: number, y: number) => number {
  const random = seededRandom(seed);
  const blobs = Array.from(
    { length: kind === 'small leaves' ? 0 : 14 },
    () => [random() * ART.widthPx, random() * ART.heightPx, 60 + random() * 240] as const,
  );
  switch (kind) {
    case 'solid layers with holes':
      return (x, y) => (blobs.some(([bx, by, r]) => (x - bx) ** 2 + (y - by) ** 2 < r * r) ? 0 : 255);
    case 'small leaves':
      return (x, y) =>
        Math.sin(x / 9 + seed) * Math.sin(y / 7 + seed * 2) + 0.4 * Math.sin((x + y) / 31) > 0.55 ? 255 : 0;
    case 'all mist':
      return (x, y) => 90 + 60 * Math.sin(x / 170 + seed) * Math.cos(y / 130);
  }
}

function paint(kind: Paint, seed: number): Raster<'straight'> {
  const image = raster(ART.widthPx, ART.heightPx, 'straight');
  const alphaAt = alphaOf(kind, seed);
  for (let y = 0, at = 0; y < ART.heightPx; y++) {
    for (let x = 0; x < ART.widthPx; x++, at += 4) {
      image.data[at] = (x * 3 + seed * 40) & 255;
      image.data[at + 1] = (y * 5 + seed * 70) & 255;
      image.data[at + 2] = (x ^ y) & 255;
      image.data[at + 3] = alphaAt(x, y);
    }
  }
  return image;
}

const artIdOf = (i: number) => `${i}`.padStart(64, '0') as ArtId;

const known = new Map<Paint, ReadonlyMap<string, Raster<'straight'>>>();

/** Painted once, however often a scene is asked for: painting takes longer than what is measured. */
function paintings(kind: Paint): ReadonlyMap<string, Raster<'straight'>> {
  const images = known.get(kind) ?? new Map(planeNumbers().map((i) => [artIdOf(i), paint(kind, i + 1)]));
  known.set(kind, images);
  return images;
}

const planeNumbers = () => Array.from({ length: PLANES }, (_, i) => i);

/** Eight planes of 3840 × 1400 in depth under a pan with a zoom, or with a roll too; 1920 × 1080. */
export function benchScene(kind: BenchScene, rolled: boolean): Bench {
  const planes = planeNumbers().map((i): Plane => {
    const id = artIdOf(i);
    const art = {
      id,
      ...ART,
      painted: { x0: 0, y0: 0, x1: ART.widthPx, y1: ART.heightPx },
      cutEdges: { left: true, right: true, top: true, bottom: true },
    };
    const layer = {
      name: `Plane ${i}`,
      art,
      group: null,
      moving: null,
      file: 'bench',
      xPx: 0,
      yPx: 0,
      opacity: 1,
      hidden: false,
      paintingWidthPx: ART.widthPx,
      paintingHeightPx: ART.heightPx,
    };
    const plane = planeFromLayer(planeIdSchema.parse(`p${i}`), layer);
    const byLight = kind === 'shadows and lamps' && i % 2 === 1;
    return byLight ? { ...plane, mode: i % 4 === 1 ? 'multiply' : 'screen' } : plane;
  });
  const flat = addPlanes(
    newScene({ widthPx: 1920, heightPx: 1080, rate: { num: 24, den: 1 }, lengthFrames: 24 }),
    planes,
  );
  const deep = planes.reduce(
    (scene, { id }, i) => setPlaneDepth(scene, id, { depthSpx: i * 300, atFrame: 1, holdPicture: true }),
    flat,
  );
  const from = setCamera(deep, { panX: -60, zoom: 1, roll: rolled ? 2 : 0 }, { frame: 1, keying: true });
  const to = setCamera(from, { panX: 60, zoom: 1.12, roll: rolled ? 7 : 0 }, { frame: 24, keying: true });
  return { scene: to, images: paintings(paintOf(kind)) };
}
