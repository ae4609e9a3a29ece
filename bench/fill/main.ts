import { cutImage } from '@keen-ridge/core/cut';
import { type Raster, raster } from '@keen-ridge/core/image';
import { seededRandom } from '@keen-ridge/core/units';
import sharp from 'sharp';

const PAINTING = { widthPx: 6000, heightPx: 3230 } as const;
const HOLE = { x: 2400, y: 900, widthPx: 1200, heightPx: 1400 } as const;

/** A wall of courses of stone under a light that falls off, with the grain of a brush: a pattern that goes on. */
function wall(): Raster<'straight'> {
  const { widthPx, heightPx } = PAINTING;
  const image = raster(widthPx, heightPx, 'straight');
  const random = seededRandom(5);
  for (let y = 0; y < heightPx; y++) {
    for (let x = 0; x < widthPx; x++) {
      const across = (x + (Math.floor(y / 32) % 2) * 32) % 64;
      const joint = across < 4 || y % 32 < 4 ? 40 : 0;
      const grain = random() * 23;
      const at = (y * widthPx + x) * 4;
      image.data[at] = 130 + 40 * Math.sin(y / 400) - joint + grain;
      image.data[at + 1] = 110 + 30 * Math.sin(x / 700) - joint + grain;
      image.data[at + 2] = 95 - joint + grain;
      image.data[at + 3] = 255;
    }
  }
  return image;
}

/** Mean difference of a channel inside of the hole from what was painted there. */
function apart(image: Raster, other: ArrayLike<number>): number {
  let sum = 0;
  for (let y = HOLE.y; y < HOLE.y + HOLE.heightPx; y++)
    for (let x = HOLE.x; x < HOLE.x + HOLE.widthPx; x++) {
      const at = (y * image.widthPx + x) * 4;
      sum += Math.abs((image.data[at] as number) - (other[at] as number));
    }
  return sum / (HOLE.widthPx * HOLE.heightPx);
}

/** Cutting a hole of 1200 × 1400 px out of a painting and filling it, beside blurring the rim over it with libvips. */
export async function benchFill(json: boolean): Promise<void> {
  const image = wall();
  const { x, y, widthPx, heightPx } = HOLE;
  const points: [number, number][] = [
    [x, y],
    [x + widthPx, y],
    [x + widthPx, y + heightPx],
    [x, y + heightPx],
  ];
  const recipe = {
    steps: [{ kind: 'outline' as const, mode: 'add' as const, points }],
    featherPx: 0,
    fill: true,
    copies: [],
  };
  const start = performance.now();
  const pieces = cutImage(image, recipe)!;
  const fillSeconds = (performance.now() - start) / 1000;
  const raw = { raw: { width: PAINTING.widthPx, height: PAINTING.heightPx, channels: 4 as const } };
  const before = performance.now();
  const holed = Buffer.from(image.data);
  for (let row = y; row < y + heightPx; row++)
    holed.fill(0, (row * PAINTING.widthPx + x) * 4, (row * PAINTING.widthPx + x + widthPx) * 4);
  // A blur as wide as the hole takes minutes at full size: it is made small, and grown again.
  const small = await sharp(holed, raw).resize(240).blur(16).png().toBuffer();
  const blurred = await sharp(small)
    .resize(PAINTING.widthPx, PAINTING.heightPx, { fit: 'fill' })
    .raw()
    .toBuffer();
  const blurSeconds = (performance.now() - before) / 1000;
  const result = {
    fillSeconds,
    blurSeconds,
    ratio: fillSeconds / blurSeconds,
    fillApart: apart(image, pieces.left.data),
    blurApart: apart(image, blurred),
  };
  if (json) {
    console.log(JSON.stringify(result));
    return;
  }
  console.log(
    `Filling a hole of ${widthPx} × ${heightPx} px in a painting of ${PAINTING.widthPx} × ${PAINTING.heightPx}`,
  );
  console.log(
    `  patches, coarse to fine   ${fillSeconds.toFixed(1)} s, off by ${result.fillApart.toFixed(1)} of 255 on the mean`,
  );
  console.log(
    `  libvips, blur of the rim  ${blurSeconds.toFixed(1)} s, off by ${result.blurApart.toFixed(1)}`,
  );
}
