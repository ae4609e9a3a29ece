import { mkdir } from 'node:fs/promises';
import { basename, dirname, resolve } from 'node:path';
import { groundOf, handoffRequestSchema } from '@keen-ridge/core/contract';
import { fileStem, HANDOFF_FORMATS, HANDOFF_KINDS } from '@keen-ridge/core/export';
import { decodeStored } from '../art/decode.ts';
import { pngOfFrame } from '../jobs/encode-frame.ts';
import { itemsOf, pictureOf, planOfItem } from '../jobs/planned-pictures.ts';
import { threadPool } from '../jobs/thread-pool.ts';
import { writeOutput } from '../jobs/write-output.ts';
import { ArtMissing, FrameRenderer } from '../services/frame-renderer.ts';
import { readFrames, readScale, readWhole } from './arguments.ts';
import { openPackage } from './package-file.ts';
import { UsageFault } from './usage-fault.ts';

export interface RenderOptions {
  readonly frames: string | undefined;
  readonly out: string;
  readonly scale: string;
  readonly threads: string | undefined;
  /** One of HANDOFF_KINDS. */
  readonly as: string;
  readonly depth: string;
  readonly from: string;
}

const MOST_THREADS = 256;

/** Frames or film of a package, by the same pool, kernel and writers as the server's hand-off: the same bytes. */
export async function render(path: string, options: RenderOptions): Promise<string> {
  const { scene, art } = await openPackage(resolve(options.from, path));
  const { first, last } = readFrames(options.frames ?? `1-${scene.lengthFrames}`, scene.lengthFrames);
  const kind = HANDOFF_KINDS.find((known) => known === options.as);
  if (!kind) throw new UsageFault(`--as ${options.as}: there are ${HANDOFF_KINDS.join(', ')}`);
  const isFrames = HANDOFF_FORMATS[kind].made === 'frames';
  const request = handoffRequestSchema.safeParse({
    kind,
    firstFrame: first,
    lastFrame: last,
    scale: readScale(options.scale),
    depth: readWhole('--depth', options.depth, 8, 16),
    target: isFrames ? 'folder' : 'zip',
  });
  if (!request.success)
    throw new UsageFault(request.error.issues[0]?.message ?? 'render: these options do not go together');
  const threads =
    options.threads === undefined ? undefined : readWhole('--threads', options.threads, 1, MOST_THREADS);
  const out = resolve(options.from, options.out);
  await mkdir(isFrames ? out : dirname(out), { recursive: true });
  const renderer = new FrameRenderer(await threadPool(threads), async (artId) => {
    const pixels = await decodeStored(art.get(artId) ?? new Uint8Array());
    if (!pixels.ok) throw new UsageFault(`${path}: art/${artId}.png: ${pixels.error.detail}`);
    return pixels.value.data as Uint8Array;
  });
  const asked = { scene, shotName: fileStem(basename(path).replace(/\.zip$/i, '')), request: request.data };
  const items = itemsOf(asked);
  try {
    return await renderer.withArt(scene, async () => {
      const startedAt = new Date();
      const start = performance.now();
      await writeOutput({
        asked,
        items,
        ahead: renderer.threads + 2,
        pngOf: async (index) => {
          const item = items[index];
          if (!item) throw new Error(`There is no picture ${index}`);
          return renderer.usePicture(planOfItem(scene, item), pictureOf(asked, item), (rendered) =>
            pngOfFrame(rendered, groundOf(asked.request) !== 'clear'),
          );
        },
        path: out,
        startedAt,
        signal: new AbortController().signal,
        onPicture: () => {},
      });
      const seconds = (performance.now() - start) / 1000;
      const speed = (items.length / seconds).toFixed(1);
      return `${items.length} frames in ${options.out}, ${speed} frames a second on ${renderer.threads} threads`;
    });
  } catch (error) {
    if (error instanceof ArtMissing && error.cause instanceof UsageFault) throw error.cause;
    throw error;
  } finally {
    renderer.close();
  }
}
