import type { HandoffRequest } from '@keen-ridge/core/contract';
import type { Scene } from '@keen-ridge/core/document';
import { unpremultiplyBytes } from '@keen-ridge/core/image';
import { BLACK, CLEAR } from '@keen-ridge/core/render';
import { framesOf } from '@keen-ridge/core/shot';
import sharp from 'sharp';
import type { FrameRenderer } from '../services/frame-renderer.ts';
import { WebmWriter } from './film.ts';
import { inOrder } from './in-order.ts';
import { ZipFile } from './zip-file.ts';

export interface HandoffWork {
  readonly scene: Scene;
  readonly request: HandoffRequest;
  /** Stem of the file names inside. */
  readonly stem: string;
  readonly path: string;
  readonly startedAt: Date;
  readonly signal: AbortSignal;
  readonly onFrame: (done: number) => void;
}

/** Frames under way beside those being rendered, so that encoders and kernels both stay busy. */
const AHEAD = 2;

/** Renders the asked frames into one file at `path`. Rejects with the signal's reason when cancelled. */
export function writeHandoff(renderer: FrameRenderer, work: HandoffWork): Promise<void> {
  return renderer.withArt(work.scene, () =>
    work.request.kind === 'webm' ? writeFilm(renderer, work) : writeFrames(renderer, work),
  );
}

const framesAsked = ({ request }: HandoffWork): number[] =>
  framesOf({ start: request.firstFrame, end: request.lastFrame + 1 });

/** Straight-alpha PNG of one frame; where the stage is empty the frame is clear. */
export async function renderPng(
  renderer: FrameRenderer,
  scene: Scene,
  frame: number,
  scale = 1,
): Promise<Uint8Array> {
  const { widthPx: width, heightPx: height, data } = await renderer.render(scene, frame, CLEAR, scale);
  unpremultiplyBytes(data);
  return sharp(data, { raw: { width, height, channels: 4 } })
    .png({ compressionLevel: 6 })
    .toBuffer();
}

export const frameFileName = (stem: string, frame: number): string =>
  `${stem}_${String(frame).padStart(4, '0')}.png`;

async function writeFrames(renderer: FrameRenderer, work: HandoffWork): Promise<void> {
  const zip = new ZipFile(work.path);
  let done = 0;
  const add = async (png: Uint8Array, frame: number) => {
    await zip.add(frameFileName(work.stem, frame), png, work.startedAt);
    work.onFrame(++done);
  };
  try {
    const produce = (frame: number) => renderPng(renderer, work.scene, frame);
    await inOrder(framesAsked(work), renderer.threads + AHEAD, produce, add, work.signal);
    await zip.finish();
  } catch (error) {
    await zip.abort();
    throw error;
  }
}

async function writeFilm(renderer: FrameRenderer, work: HandoffWork): Promise<void> {
  const film = new WebmWriter(work.path, { ...work.scene.frame, rate: work.scene.rate });
  let done = 0;
  const add = async (rgba: Uint8Array) => {
    await film.write(rgba);
    work.onFrame(++done);
  };
  try {
    const produce = async (frame: number) => {
      const { data } = await renderer.render(work.scene, frame, BLACK);
      return new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
    };
    await inOrder(framesAsked(work), renderer.threads + AHEAD, produce, add, work.signal);
    await film.finish();
  } catch (error) {
    await film.abort();
    throw error;
  }
}
