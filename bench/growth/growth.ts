import { IDENTITY } from '@keen-ridge/core/geometry';
import { raster } from '@keen-ridge/core/image';
import { BLACK, renderLayers } from '@keen-ridge/core/picture';
import { framePlan } from '@keen-ridge/core/staging/frame';
import { testArtId, testLayer } from '@keen-ridge/core/testing';
import { singleThreadRenderer } from '../../server/threads/kernel-file.ts';
import { threadPool } from '../../server/threads/thread-pool.ts';
import { fittedExponent, median, timed } from '../medians.ts';
import { benchScene } from '../render/scenes.ts';

const MIB = 2 ** 20;
const VIEW = { widthPx: 1920, heightPx: 1080, frameToImage: IDENTITY, background: BLACK };

/** Exponents k of cost = c·x^k, on one thread: 1 is linear. */
export interface Growth {
  readonly planes: number;
  readonly frames: number;
  readonly pixels: number;
}

export async function growth(rounds: number): Promise<Growth> {
  const { scene, images } = benchScene('all mist', false);
  const renderer = await singleThreadRenderer();
  for (const [id, image] of images) renderer.addImage(id, image);
  const layersAt = (frame: number) => renderLayers(framePlan(scene, frame), VIEW);
  const cost = async (work: () => void): Promise<number> => {
    const times: number[] = [];
    for (let i = 0; i < rounds; i++) times.push(await timed(work));
    return median(times);
  };
  const points = async (xs: readonly number[], workFor: (x: number) => () => void) => {
    const found: [number, number][] = [];
    for (const x of xs) found.push([x, await cost(workFor(x))]);
    return fittedExponent(found);
  };
  const whole = layersAt(12);
  const planes = await points([8, 16, 32, 64], (count) => {
    const layers = Array.from({ length: count }, (_, i) => whole[i % whole.length]!);
    return () => renderer.render(layers, VIEW);
  });
  const frames = await points([1, 2, 4, 8], (count) => () => {
    for (let frame = 1; frame <= count; frame++) {
      renderer.render(layersAt(frame), VIEW);
    }
  });
  // More rows of the same picture: at another scale other levels of the art would be read.
  const pixels = await points([0.25, 0.5, 1], (share) => {
    return () => renderer.render(whole, { ...VIEW, heightPx: Math.round(VIEW.heightPx * share) });
  });
  return { planes, frames, pixels };
}

/** What loaded art takes, MiB: by the arena's own count, and what the process grew by with a frame drawn from all of it. */
export interface ArtMemory {
  readonly arenaMib: number;
  readonly processMib: number;
}

/** Loads `count` images of one size into a pool and draws a frame of them all. */
export async function artMemory(count: number, widthPx: number, heightPx: number): Promise<ArtMemory> {
  const before = process.memoryUsage.rss();
  const pool = await threadPool();
  try {
    const ids = Array.from({ length: count }, (_, i) => testArtId(i));
    for (const id of ids) {
      await pool.addImage(id, async () => {
        const image = raster(widthPx, heightPx, 'straight');
        // Solid: of low alpha it takes twice as much.
        image.data.fill(255);
        return image;
      });
    }
    const layers = ids.map((artId) => testLayer(artId, { widthPx, heightPx }));
    await pool.render(layers, VIEW, pool.size);
    return { arenaMib: pool.usedBytes / MIB, processMib: (process.memoryUsage.rss() - before) / MIB };
  } finally {
    pool.close();
  }
}
