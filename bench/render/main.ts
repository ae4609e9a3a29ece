import { IDENTITY } from '@keen-ridge/core/geometry';
import { premultiply, type Raster } from '@keen-ridge/core/image';
import { BLACK, buildLevels, renderLayers, renderOracle } from '@keen-ridge/core/render';
import { framePlan } from '@keen-ridge/core/shot';
import { singleThreadRenderer } from '../../server/jobs/kernel-file.ts';
import { threadPool } from '../../server/jobs/thread-pool.ts';
import { BENCH_SCENES, benchScene } from './scenes.ts';
import { sharpFrame } from './sharp-frame.ts';

const ROUNDS = 7;
const VIEW = { widthPx: 1920, heightPx: 1080, frameToImage: IDENTITY, background: BLACK };

const median = (values: readonly number[]): number =>
  [...values].sort((p, q) => p - q)[Math.floor(values.length / 2)] ?? Number.NaN;

async function timed(work: () => unknown): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

export interface RenderRow {
  readonly scene: string;
  readonly move: 'zooming' | 'rolled';
  /** Times slower than the kernel on one thread, medians of interleaved runs. */
  readonly sharp: number;
  readonly plainTypeScript: number;
  /** Times faster than one thread, frames side by side on all cores. */
  readonly allThreads: number;
  /** The kernel on all cores against sharp, which uses all cores too. */
  readonly sharpOverAllThreads: number;
}

/** Interleaved, so that a noisy machine is noisy for all alike. */
async function measure(kind: (typeof BENCH_SCENES)[number], rolled: boolean): Promise<RenderRow> {
  const { scene, images } = benchScene(kind, rolled);
  const renderer = await singleThreadRenderer();
  const pool = await threadPool();
  const levels = new Map<string, Raster<'premultiplied'>[]>();
  for (const [id, image] of images) {
    renderer.addImage(id, image);
    await pool.addImage(id, async () => ({ ...image, data: image.data.slice() }));
    levels.set(id, buildLevels(premultiply(image)));
  }
  const times: Record<'kernel' | 'pool' | 'sharp' | 'plain', number[]> = {
    kernel: [],
    pool: [],
    sharp: [],
    plain: [],
  };
  for (let round = 0; round < ROUNDS; round++) {
    const frame = 1 + ((round * 5) % scene.lengthFrames);
    const plan = framePlan(scene, frame);
    const layers = renderLayers(plan, VIEW);
    times.kernel.push(await timed(() => renderer.render(layers, VIEW)));
    const side = pool.size * 2;
    times.pool.push(
      (await timed(() => Promise.all(Array.from({ length: side }, () => pool.render(layers, VIEW, 1))))) /
        side,
    );
    times.sharp.push(await timed(() => sharpFrame(plan, images)));
    // The plain renderer is slow and steady: two rounds tell enough.
    if (round < 2)
      times.plain.push(await timed(() => renderOracle(layers, levels, VIEW.widthPx, VIEW.heightPx, BLACK)));
  }
  pool.close();
  const kernel = median(times.kernel);
  return {
    scene: kind,
    move: rolled ? 'rolled' : 'zooming',
    sharp: median(times.sharp) / kernel,
    plainTypeScript: median(times.plain) / kernel,
    allThreads: kernel / median(times.pool),
    sharpOverAllThreads: median(times.sharp) / median(times.pool),
  };
}

export async function benchRender(json: boolean): Promise<void> {
  const rows: RenderRow[] = [];
  for (const kind of BENCH_SCENES) for (const rolled of [false, true]) rows.push(await measure(kind, rolled));
  if (json) {
    console.log(JSON.stringify({ bench: 'render', rounds: ROUNDS, rows }, null, 2));
    return;
  }
  console.log(
    `1920 × 1080, 8 planes of 3840 × 1400, medians of ${ROUNDS} interleaved rounds, as ratios of the kernel's time`,
  );
  console.log(
    'scene                     move      sharp/kernel 1  plain TS/kernel 1  kernel 1/all  sharp/kernel all',
  );
  for (const row of rows) {
    const numbers = [row.sharp, row.plainTypeScript, row.allThreads, row.sharpOverAllThreads].map((v) =>
      `${v.toFixed(1)}×`.padStart(15),
    );
    console.log(row.scene.padEnd(25), row.move.padEnd(8), ...numbers);
  }
}
