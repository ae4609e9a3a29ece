import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { handoffRequestSchema, paintedLayers } from '@keen-ridge/core/contract';
import type { ArtId } from '@keen-ridge/core/document';
import { demoScene, paintDemo } from '@keen-ridge/demo';
import { collectImages } from '../../server/art/collect.ts';
import { decodeStored } from '../../server/art/decode.ts';
import { readArtFile } from '../../server/art/read-art.ts';
import { pngOfFrame } from '../../server/jobs/encode-frame.ts';
import { inOrder } from '../../server/jobs/in-order.ts';
import { itemsOf, pictureOf, planOfItem } from '../../server/jobs/planned-pictures.ts';
import { threadPool } from '../../server/jobs/thread-pool.ts';
import { writeOutput } from '../../server/jobs/write-output.ts';
import { FrameRenderer } from '../../server/services/frame-renderer.ts';
import { median, timed } from './measure.ts';

const FRAMES = 24;
const RATE = { num: 24, den: 1 };

/** A demo shot without a database: its scene, and its art by id. */
async function demoShot() {
  const { sink, images } = collectImages();
  const { fileName, bytes } = await paintDemo();
  const read = await readArtFile(fileName, bytes, { sink });
  if (!read.ok) throw new Error(read.error.detail);
  const scene = demoScene(read.value.flatMap((painting) => paintedLayers(painting, RATE)));
  const pixels = async (id: ArtId): Promise<Uint8Array> => {
    const stored = await decodeStored(images.get(id)?.png ?? new Uint8Array());
    if (!stored.ok) throw new Error(stored.error.detail);
    return stored.value.data as Uint8Array;
  };
  return { scene, pixels };
}

/** A demo shot to PNGs on disk, over the time that the PNG encoder alone takes for the same frames on the same threads. */
export async function toDiskRatio(rounds: number): Promise<number> {
  const { scene, pixels } = await demoShot();
  const renderer = new FrameRenderer(await threadPool(), pixels);
  const request = handoffRequestSchema.parse({
    kind: 'png',
    firstFrame: 1,
    lastFrame: FRAMES,
    target: 'folder',
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
        return renderer.usePicture(planOfItem(scene, item), pictureOf(asked, item), (rendered) =>
          pngOfFrame(rendered, false),
        );
      };
      const rendered = await Promise.all(
        items.map((item) => renderer.renderPicture(planOfItem(scene, item), pictureOf(asked, item))),
      );
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
    renderer.close();
    rmSync(folder, { recursive: true, force: true });
  }
  return median(times.whole) / median(times.encoder);
}
