import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { ArtProcesses } from '../../server/threads/art-processes.ts';
import { bigDocument, DOCUMENT } from './document.ts';

const LAYERS = 40;
const ROUNDS = 3;

const median = (values: readonly number[]): number =>
  [...values].sort((p, q) => p - q)[Math.floor(values.length / 2)] ?? Number.NaN;

async function timed(work: () => Promise<unknown>): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

/** The named alternative: every layer decoded and encoded again with sharp alone, one after another. */
async function withSharp(layers: readonly Uint8Array[]): Promise<void> {
  for (const png of layers) {
    const { data, info } = await sharp(png).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    await sharp(data, { raw: { width: info.width, height: info.height, channels: 4 } })
      .png({ compressionLevel: 6 })
      .toBuffer();
  }
}

/** Longest that this thread was kept from answering while `work` ran, ms. */
async function longestStall(work: () => Promise<unknown>): Promise<number> {
  let [last, longest] = [performance.now(), 0];
  const beat = setInterval(() => {
    const now = performance.now();
    longest = Math.max(longest, now - last - 10);
    last = now;
  }, 10);
  await work();
  clearInterval(beat);
  return longest;
}

async function readDocument(processes: ArtProcesses, fileName: string, bytes: Uint8Array): Promise<number> {
  let images = 0;
  const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-task-'));
  const path = join(folder, 'file');
  writeFileSync(path, bytes);
  const result = await processes.run(
    { task: { kind: 'read', fileName, path, svgScale: 1 }, folder },
    {
      onImage: () => {
        images += 1;
      },
    },
  );
  rmSync(folder, { recursive: true });
  if (!result.ok) throw new Error(result.error.detail);
  return images;
}

/** `npm run bench -- import`: a 40-layer 4K document, and one layer of 24 000 × 4 000. */
export async function benchImport(json: boolean): Promise<void> {
  const { file, layers } = await bigDocument(LAYERS);
  const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-bench-'));
  const processes = new ArtProcesses(folder);
  const times: Record<'ours' | 'sharp' | 'stall', number[]> = { ours: [], sharp: [], stall: [] };
  // The first task starts the process; that is not what is measured.
  await readDocument(processes, 'warm.png', layers[0] as Uint8Array);
  for (let round = 0; round < ROUNDS; round++) {
    times.sharp.push(await timed(() => withSharp(layers)));
    times.stall.push(
      await longestStall(async () => {
        times.ours.push(await timed(() => readDocument(processes, 'forty.ora', file)));
      }),
    );
  }
  const wide = await sharp({ create: { width: 24_000, height: 4000, channels: 4, background: '#38506880' } })
    .png()
    .toBuffer();
  const images = await readDocument(processes, 'pan.png', new Uint8Array(wide));
  processes.close();
  rmSync(folder, { recursive: true, force: true });
  const row = {
    oursOverSharp: median(times.ours) / median(times.sharp),
    longestStallMs: median(times.stall),
    wideLayerRead: images === 1,
  };
  if (json) {
    console.log(JSON.stringify({ bench: 'import', rounds: ROUNDS, ...row }, null, 2));
    return;
  }
  console.log(
    `${LAYERS} layers of ${DOCUMENT.widthPx} × ${DOCUMENT.heightPx}, medians of ${ROUNDS} interleaved rounds`,
  );
  console.log(
    `import with levels and tiles / sharp decoding and encoding the same layers: ${row.oursOverSharp.toFixed(2)}×`,
  );
  console.log(`longest that the answering thread was held up: ${row.longestStallMs.toFixed(0)} ms`);
  console.log(`a layer of 24 000 × 4 000: ${row.wideLayerRead ? 'read' : 'NOT read'}`);
}
