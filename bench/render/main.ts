import { IDENTITY, translation } from '@keen-ridge/core/geometry';
import type { LevelRaster } from '@keen-ridge/core/image';
import { buildLevels } from '@keen-ridge/core/kernel/memory';
import { BLACK, renderLayers, renderOracle } from '@keen-ridge/core/picture';
import { framePlan } from '@keen-ridge/core/staging/frame';
import { singleThreadRenderer } from '../../server/threads/kernel-file.ts';
import { threadPool } from '../../server/threads/thread-pool.ts';
import { median, timed } from '../medians.ts';
import { ffmpegMs } from './ffmpeg-frames.ts';
import { type BrowserTimes, browserTimes } from './in-browser.ts';
import { BENCH_SCENES, type Bench, type BenchScene, benchScene } from './scenes.ts';
import { sharpFrame } from './sharp-frame.ts';
import { wideBlurs } from './wide-blurs.ts';

const ROUNDS = 3;
/** Of what takes long, and what is steady. */
const FEW_ROUNDS = 2;
const VIEW = { widthPx: 1920, heightPx: 1080, frameToImage: IDENTITY, background: BLACK };

/** The middle of the picture, for what would take minutes over all of it. */
const MIDDLE = { ...VIEW, widthPx: 480, heightPx: 270, frameToImage: translation(-720, -405) };

/** Whether the camera rolls as it pans and zooms. */
const ROLLS = [false, true] as const;

export interface RenderRow {
  readonly scene: string;
  readonly move: 'zooming' | 'rolled';
  /** Times slower than the kernel on one thread, medians of interleaved runs. */
  readonly sharp: number;
  /** In the middle of the picture. */
  readonly plainTypeScript: number;
  /** ffmpeg's scale and overlay; null where they would have to turn. */
  readonly ffmpeg: number | null;
  /** Times faster than one thread, frames side by side on all cores. */
  readonly allThreads: number;
  /** The kernel on all cores against sharp, which uses all cores too. */
  readonly sharpOverAllThreads: number;
  /** In Chromium, the kernel on all workers with its pixels on a canvas: times slower than that. */
  readonly canvasOverBrowser: number;
  /** Null where planes are laid over by modes, which that scene does not have. */
  readonly webglOverBrowser: number | null;
}

/** A kernel on one thread and one on all, with the images of a scene and their levels for the plain renderer. */
interface Rivals {
  readonly renderer: Awaited<ReturnType<typeof singleThreadRenderer>>;
  readonly pool: Awaited<ReturnType<typeof threadPool>>;
  readonly levels: ReadonlyMap<string, LevelRaster[]>;
}

async function rivalsOf(images: Bench['images']): Promise<Rivals> {
  const [renderer, pool] = [await singleThreadRenderer(), await threadPool()];
  const levels = new Map<string, LevelRaster[]>();
  for (const [id, image] of images) {
    renderer.addImage(id, image);
    await pool.addImage(id, async () => ({ ...image, data: image.data.slice() }));
    levels.set(id, buildLevels(image));
  }
  return { renderer, pool, levels };
}

/** Interleaved, so that a noisy machine is noisy for all alike. */
async function measure(
  kind: BenchScene,
  rolled: boolean,
  { renderer, pool, levels }: Rivals,
  browser: BrowserTimes,
): Promise<RenderRow> {
  const { scene, images } = benchScene(kind, rolled);
  const byLight = kind === 'shadows and lamps';
  const times = {
    kernel: [] as number[],
    pool: [] as number[],
    sharp: [] as number[],
    plain: [] as number[],
    middle: [] as number[],
    ffmpeg: [] as number[],
  };
  // As in a hand-off, whose frames use their memory again.
  const sides = Array.from({ length: pool.size * 4 }, () => new Uint8Array(VIEW.widthPx * VIEW.heightPx * 4));
  for (let round = 0; round < ROUNDS; round++) {
    const frame = 1 + ((round * 5) % scene.lengthFrames);
    const plan = framePlan(scene, frame);
    const layers = renderLayers(plan, VIEW);
    times.kernel.push(await timed(() => renderer.render(layers, VIEW)));
    times.pool.push(
      (await timed(() => Promise.all(sides.map((into) => pool.render(layers, VIEW, 1, { into }))))) /
        sides.length,
    );
    times.sharp.push(await timed(() => sharpFrame(plan, images)));
    if (!rolled && !byLight) times.ffmpeg.push(ffmpegMs(plan, images));
    // The slow and steady one: a round tells enough.
    if (round > 0) continue;
    const inner = renderLayers(plan, MIDDLE);
    times.middle.push(await timed(() => renderer.render(inner, MIDDLE)));
    times.plain.push(await timed(() => renderOracle(inner, levels, MIDDLE.widthPx, MIDDLE.heightPx, BLACK)));
  }
  const kernel = median(times.kernel);
  return {
    scene: kind,
    move: rolled ? 'rolled' : 'zooming',
    sharp: median(times.sharp) / kernel,
    plainTypeScript: median(times.plain) / median(times.middle),
    ffmpeg: rolled || byLight ? null : median(times.ffmpeg) / kernel,
    allThreads: kernel / median(times.pool),
    sharpOverAllThreads: median(times.sharp) / median(times.pool),
    canvasOverBrowser: browser.canvasLowMs / browser.kernelMs,
    webglOverBrowser: byLight ? null : browser.webglMs / browser.kernelMs,
  };
}

const COLUMNS: readonly (readonly [keyof RenderRow, string])[] = [
  ['sharp', 'sharp/1 thread'],
  ['ffmpeg', 'ffmpeg/1'],
  ['plainTypeScript', 'plain TS/1'],
  ['allThreads', '1/all threads'],
  ['sharpOverAllThreads', 'sharp/all'],
  ['canvasOverBrowser', 'canvas/browser'],
  ['webglOverBrowser', 'WebGL/browser'],
];

export async function benchRender(json: boolean): Promise<void> {
  const rows: RenderRow[] = [];
  let last = null as { readonly images: Bench['images']; readonly rivals: Rivals } | null;
  for (const kind of BENCH_SCENES) {
    const { images } = benchScene(kind, false);
    // Scenes of the same images use what was made of them.
    if (last?.images !== images) {
      last?.rivals.pool.close();
      last = { images, rivals: await rivalsOf(images) };
    }
    const plans = ROLLS.map((rolled) => framePlan(benchScene(kind, rolled).scene, 12));
    const browser = await browserTimes(kind, plans, images, ROUNDS);
    for (const [i, rolled] of ROLLS.entries())
      rows.push(await measure(kind, rolled, last.rivals, browser[i]!));
  }
  last?.rivals.pool.close();
  const wide = await wideBlurs(FEW_ROUNDS);
  if (json) {
    console.log(JSON.stringify({ bench: 'render', rounds: ROUNDS, rows, wide }, null, 2));
    return;
  }
  console.log(
    `1920 × 1080, 8 planes of 3840 × 1400, medians of ${ROUNDS} interleaved rounds, as ratios of times`,
  );
  console.log(
    ['scene'.padEnd(25), 'move'.padEnd(8), ...COLUMNS.map(([, title]) => title.padStart(15))].join(''),
  );
  for (const row of rows) {
    const numbers = COLUMNS.map(([name]) => {
      const value = row[name];
      return (typeof value === 'number' ? `${value.toFixed(1)}×` : '–').padStart(15);
    });
    console.log([row.scene.padEnd(25), row.move.padEnd(8), ...numbers].join(''));
  }
  for (const [name, times] of Object.entries(wide))
    console.log(
      `${name}: ${times.toFixed(2)}× the time of the plain picture, frames side by side on all cores`,
    );
}
