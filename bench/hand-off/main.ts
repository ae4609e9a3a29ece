import { rmSync } from 'node:fs';
import { PLANES_PATTERN } from '@keen-ridge/core/export';
import { planesOf } from '@keen-ridge/core/scene/records';
import { demoShot, toDisk } from './to-disk.ts';

const ROUNDS = 3;

/**
 * The demo's quay, 24 frames of 1920 × 1080 to disk, over the time of the PNG encoder alone for the same frames on the same
 * threads; with the iris open and glow, and what compositors get, over the time of the picture itself.
 */
export async function benchHandOff(json: boolean): Promise<void> {
  const { scenes, levels, folder } = await demoShot();
  const each = { planes: 'each', names: { pattern: PLANES_PATTERN, startAt: null } } as const;
  try {
    const ms = async (more: Parameters<typeof toDisk>[3]) =>
      (await toDisk(scenes.plain, levels, ROUNDS, more)).wholeMs;
    const { wholeMs: picture, encoderMs } = await toDisk(scenes.plain, levels, ROUNDS);
    const wide = await toDisk(scenes.wide, levels, ROUNDS);
    const depth = await ms({ pass: 'depth', depth: 16 });
    const mattes = await ms({ pass: 'matte', ...each });
    const seen = await ms({ pass: 'matte-seen', ...each });
    const planes = planesOf(scenes.plain).length;
    const overEncoder = picture / encoderMs;
    const overPicture = {
      irisAndGlow: wide.wholeMs / picture,
      depth: depth / picture,
      mattes: mattes / picture,
      mattesSeen: seen / picture,
      depthAndMattes: (depth + mattes) / picture,
      depthAndMattesSeen: (depth + seen) / picture,
    };
    if (json) {
      const pictureMs = Math.round(picture);
      console.log(JSON.stringify({ planes, pictureMs, overEncoder, overPicture }, null, 2));
    } else {
      console.log(
        `hand-off: 24 frames of ${planes} planes to disk, ${Math.round(picture)} ms as a picture, ` +
          `${overEncoder.toFixed(2)}× the PNG encoder alone; times as long:`,
      );
      for (const [name, ratio] of Object.entries(overPicture)) console.log(`  ${name}: ${ratio.toFixed(2)}`);
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
