import { mkdir, writeFile } from 'node:fs/promises';
import { basename, join, resolve } from 'node:path';
import { framesOf } from '@keen-ridge/core/shot';
import { decodeStored } from '../art/decode.ts';
import { fileStem } from '../jobs/handoff-runner.ts';
import { inOrder } from '../jobs/in-order.ts';
import { threadPool } from '../jobs/thread-pool.ts';
import { frameFileName, renderPng } from '../jobs/write-handoff.ts';
import { FrameRenderer } from '../services/frame-renderer.ts';
import { readFrames, readScale } from './arguments.ts';
import { openPackage } from './package-file.ts';
import { UsageFault } from './usage-fault.ts';

export interface RenderOptions {
  readonly frames: string | undefined;
  readonly out: string;
  readonly scale: string;
  readonly from: string;
}

/** Numbered PNGs of a package's frames, by the same renderer as the hand-off. */
export async function render(path: string, options: RenderOptions): Promise<string> {
  const { scene, art } = await openPackage(resolve(options.from, path));
  const { first, last } = readFrames(options.frames ?? `1-${scene.lengthFrames}`, scene.lengthFrames);
  const scale = readScale(options.scale);
  const out = resolve(options.from, options.out);
  await mkdir(out, { recursive: true });
  const renderer = new FrameRenderer(await threadPool(), async (artId) => {
    const pixels = await decodeStored(art.get(artId) ?? new Uint8Array());
    if (!pixels.ok) throw new UsageFault(`${path}: art/${artId}.png: ${pixels.error.detail}`);
    return pixels.value.data as Uint8Array;
  });
  const stem = fileStem(basename(path).replace(/\.zip$/i, ''));
  try {
    await renderer.withArt(scene, () =>
      inOrder(
        framesOf({ start: first, end: last + 1 }),
        renderer.threads + 2,
        (frame) => renderPng(renderer, scene, frame, scale),
        (png, frame) => writeFile(join(out, frameFileName(stem, frame)), png),
        new AbortController().signal,
      ),
    );
  } finally {
    renderer.close();
  }
  return `${last - first + 1} frames in ${options.out}`;
}
