import { PassThrough, type Readable } from 'node:stream';
import { fileStem } from '@keen-ridge/core/export';
import {
  homeOnCanvas,
  type StillCanvas,
  stillCanvas,
  stillFields,
  stillNote,
  stillPlan,
} from '@keen-ridge/core/export/still-set';
import { compose, type Point, scaling, translation } from '@keen-ridge/core/geometry';
import type { PlaneId, Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { mapOutline, pathData } from '@keen-ridge/core/shapes';
import sharp from 'sharp';
import { wordOutlines } from '../film/words-in-picture.ts';
import { pngOfFrame } from '../pictures/encode-frame.ts';
import type { FrameRenderer } from '../pictures/frame-renderer.ts';
import { ZipFile } from '../storage/zip-file.ts';

/** Entries are as old as zips can tell: the same shot gives the same file. */
const NO_TIME = new Date(1980, 0, 1);

/**
 * The stage as it stands at home, for those who draw on it: everything together, planes one by one in place, and the
 * camera's fields over it, all on one canvas. `planes`: those that leave by themselves, null for all that are shown.
 */
export function stillSet(
  renderer: FrameRenderer,
  scene: Scene,
  planes: readonly PlaneId[] | null,
  signal?: AbortSignal,
): Readable {
  const to = new PassThrough();
  writeStillSet(renderer, scene, planes, to, signal).catch((error: unknown) =>
    to.destroy(error instanceof Error ? error : new Error(String(error))),
  );
  return to;
}

async function writeStillSet(
  renderer: FrameRenderer,
  scene: Scene,
  planes: readonly PlaneId[] | null,
  to: PassThrough,
  signal: AbortSignal | undefined,
): Promise<void> {
  const zip = new ZipFile(to);
  const canvas = stillCanvas(scene);
  const { widthPx, heightPx } = canvas;
  const asked = { widthPx, heightPx, format: 'straight8', ground: 'clear', words: '' } as const;
  const pngOf = (plane: PlaneId | null) =>
    renderer.usePicture(
      stillPlan(scene, canvas, plane),
      asked,
      (rendered) => pngOfFrame(rendered, false),
      signal,
    );
  try {
    await renderer.withArt(scene, async () => {
      // First of all what all art is in: where some of it is missing, nothing was sent yet.
      await zip.add('stage.png', await pngOf(null), NO_TIME);
      await zip.add('still-set.json', Buffer.from(stillNote(scene, canvas)), NO_TIME);
      await zip.add('fields.png', await fieldsPng(scene, canvas), NO_TIME);
      const leave = planesOf(scene).filter(({ id, hidden }) => (planes ? planes.includes(id) : !hidden));
      for (const [i, { id, name }] of leave.entries()) {
        signal?.throwIfAborted();
        const number = String(i + 1).padStart(2, '0');
        await zip.add(`planes/${number}_${fileStem(name)}.png`, await pngOf(id), NO_TIME);
      }
    });
    await zip.finish();
  } catch (error) {
    await zip.abort();
    throw error;
  }
}

const LINE_SHARE = 0.0022;
const EM_SHARE = 0.022;

/** Fields as outlines with their frames, on clear ground: white on black, read on any paint. */
async function fieldsPng(scene: Scene, canvas: StillCanvas): Promise<Uint8Array> {
  const { widthPx, heightPx } = canvas;
  const [line, em] = [LINE_SHARE, EM_SHARE].map((share) => Math.max(1, share * scene.frame.heightPx));
  const home = homeOnCanvas(scene, canvas);
  const homeBox = `<rect x="${home.x0}" y="${home.y0}" width="${scene.frame.widthPx}" height="${scene.frame.heightPx}" fill="none" stroke="#fff" stroke-width="${line}" stroke-dasharray="${4 * line!} ${4 * line!}"/>`;
  const fields = stillFields(scene, canvas).flatMap(({ frame, corners }) => [
    ...[
      { colour: '#000', width: 3 * line! },
      { colour: '#fff', width: line! },
    ].map(
      ({ colour, width }) =>
        `<polygon points="${corners.map(({ x, y }) => `${x},${y}`).join(' ')}" fill="none" stroke="${colour}" stroke-width="${width}"/>`,
    ),
    label(String(frame), corners[0]!, em!),
  ]);
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${widthPx}" height="${heightPx}">${homeBox}${fields.join('')}</svg>`;
  return sharp(Buffer.from(svg), { limitInputPixels: false, unlimited: true }).png().toBuffer();
}

function label(words: string, at: Point, em: number): string {
  const map = compose(translation(at.x + em / 2, at.y + 1.4 * em), scaling(em));
  const data = pathData(wordOutlines(words).outlines.map((outline) => mapOutline(outline, map)));
  return `<path d="${data}" fill="#fff" stroke="#000" stroke-width="${em / 6}" paint-order="stroke"/>`;
}
