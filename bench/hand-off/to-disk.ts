import { mkdtempSync, rmSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { paintedLayers } from '@keen-ridge/core/art/landing';
import { groundOf, type HandoffAsked, handoffRequestSchema } from '@keen-ridge/core/contract';
import { setCamera } from '@keen-ridge/core/edits/keys';
import { setFilter } from '@keen-ridge/core/edits/look';
import { deletePlanes } from '@keen-ridge/core/edits/planes';
import { planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { demoScene, paintDemo } from '@keen-ridge/demo';
import { collectImages } from '../../server/art/collect.ts';
import { readArtFile } from '../../server/art/read-art.ts';
import { inOrder } from '../../server/farm/in-order.ts';
import { itemsOf, pictureOf, planOfItem } from '../../server/farm/planned-pictures.ts';
import { writeOutput } from '../../server/handoff/write-output.ts';
import { pngOfFrame } from '../../server/pictures/encode-frame.ts';
import { FrameRenderer } from '../../server/pictures/frame-renderer.ts';
import { ArtLevels } from '../../server/storage/art-levels.ts';
import { LevelsFiles } from '../../server/storage/levels-file.ts';
import { threadPool } from '../../server/threads/thread-pool.ts';
import { median, timed } from '../medians.ts';

const FRAMES = 24;
const RATE = { num: 24, den: 1 };

const LAMP = planeIdSchema.parse('quay-lamp');
/** Discs of up to 40 px on the quay. */
const OPEN_SPX = 40;

/** A demo shot without a database: without looks, and with the iris open and glow; and its art by id. */
export async function demoShot() {
  const { sink, images } = collectImages();
  const { fileName, bytes } = await paintDemo();
  const read = await readArtFile(fileName, bytes, { sink });
  if (!read.ok) throw new Error(read.error.detail);
  const lit = demoScene(read.value.flatMap((painting) => paintedLayers(painting, RATE)));
  const at = { frame: 1, keying: false };
  const plain = deletePlanes(setCamera(lit, { iris: 0 }, at), new Set([LAMP]));
  const wide = setFilter(setCamera(lit, { iris: OPEN_SPX }, at), { glow: 0.3 });
  const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-levels-'));
  const levels = new ArtLevels(new LevelsFiles(folder), async (id) => images.get(id)?.png ?? null);
  return { scenes: { plain, wide }, levels, folder };
}

/** A hand-off of frames on all threads, and the packing of its pictures alone, ms; of the picture, or as `more` asks. */
export async function toDisk(
  scene: Scene,
  levels: ArtLevels,
  rounds: number,
  more: Partial<HandoffAsked> = {},
): Promise<{ wholeMs: number; encoderMs: number }> {
  const threads = availableParallelism();
  const renderer = new FrameRenderer(
    () => threadPool(threads),
    threads,
    (id) => levels.source(id),
  );
  const request = handoffRequestSchema.parse({
    kind: 'png',
    firstFrame: 1,
    lastFrame: FRAMES,
    target: 'folder',
    ...more,
  });
  const asked = { scene, shotName: 'bench', request };
  const items = itemsOf(asked);
  const ahead = renderer.threads + 2;
  const signal = new AbortController().signal;
  const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-disk-'));
  const times: { whole: number[]; encoder: number[] } = { whole: [], encoder: [] };
  try {
    await renderer.withArt(scene, async () => {
      const pngOf = (index: number) => {
        const item = items[index]!;
        return renderer.usePicture(planOfItem(asked, item), pictureOf(asked, item), (rendered) =>
          pngOfFrame(rendered, groundOf(request) !== 'clear'),
        );
      };
      const rendered =
        request.pass === 'picture'
          ? await Promise.all(
              items.map((item) => renderer.renderPicture(planOfItem(asked, item), pictureOf(asked, item))),
            )
          : [];
      for (let round = 0; round < rounds; round++) {
        times.whole.push(
          await timed(() =>
            writeOutput({
              asked,
              items,
              ahead,
              pngOf,
              path: join(folder, String(round)),
              startedAt: new Date(0),
              signal,
              onPicture: () => {},
            }),
          ),
        );
        times.encoder.push(
          await timed(() =>
            inOrder(
              rendered,
              ahead,
              (frame) => pngOfFrame(frame, false),
              async () => {},
              signal,
            ),
          ),
        );
      }
    });
  } finally {
    await renderer.close();
    rmSync(folder, { recursive: true, force: true });
  }
  return { wholeMs: median(times.whole), encoderMs: median(times.encoder) };
}
