import { mkdir, rm, writeFile } from 'node:fs/promises';
import { basename, dirname, resolve } from 'node:path';
import { groundOf, handoffRequestSchema } from '@keen-ridge/core/contract';
import {
  type ChosenPlanes,
  DEPTH_FILES,
  fileStem,
  HANDOFF_FORMATS,
  HANDOFF_KINDS,
  isNumberPass,
  isPlanePass,
  PASSES,
  PLANES_PATTERN,
  rateWords,
  samplesFault,
  sizeFault,
  sizeWords,
} from '@keen-ridge/core/export';
import type { Scene } from '@keen-ridge/core/scene';
import { itemsOf, pictureOf, planOfItem } from '../farm/planned-pictures.ts';
import { isDiskFull } from '../faults/cause.ts';
import { filmToolPresent } from '../film/film-writer.ts';
import { wantsSound, writeOutput } from '../handoff/write-output.ts';
import { pngOfFrame } from '../pictures/encode-frame.ts';
import { ArtMissing, type FrameRenderer, scaledSize } from '../pictures/frame-renderer.ts';
import { readFrames, readGround, readPlanes, readScale, readWhole } from './arguments.ts';
import { openPackage } from './package-file.ts';
import { withRenderer } from './package-renderer.ts';
import { told } from './told.ts';
import { UsageFault } from './usage-fault.ts';
import { writeWhole } from './write-whole.ts';

export interface RenderOptions {
  readonly frames: string | undefined;
  readonly out: string;
  readonly scale: string;
  readonly threads: string | undefined;
  /** One of HANDOFF_KINDS. */
  readonly as: string;
  readonly depth: string;
  /** Where the stage is empty. */
  readonly ground: string | undefined;
  /** One of PASSES. */
  readonly pass: string | undefined;
  /** One of DEPTH_FILES. */
  readonly depthAs: string | undefined;
  /** Names of planes with a comma between them: they are drawn alone, or dimmed. */
  readonly alone: string | undefined;
  readonly dim: string | undefined;
  readonly pins: boolean;
  readonly numbers: boolean;
  /** The sound of the shot is heard in the film. */
  readonly sound: boolean;
  readonly plainPaint: boolean;
  readonly each: boolean;
  readonly from: string;
}

const MOST_THREADS = 256;

function readChosen(scene: Scene, { alone, dim }: RenderOptions): ChosenPlanes | null {
  if (alone !== undefined && dim !== undefined) throw new UsageFault('--alone and --dim do not go together');
  if (alone !== undefined) return { ids: readPlanes('--alone', scene, alone), shown: 'alone' };
  return dim === undefined ? null : { ids: readPlanes('--dim', scene, dim), shown: 'dimmed' };
}

/** Frames or film of a package, by the same pool, kernel and writers as the server's hand-off: the same bytes. */
export async function render(path: string, options: RenderOptions): Promise<string> {
  const { scene, art, sound } = await openPackage(resolve(options.from, path));
  const { first, last } = readFrames(options.frames ?? `1-${scene.lengthFrames}`, scene.lengthFrames);
  const kind = HANDOFF_KINDS.find((known) => known === options.as);
  if (!kind) throw new UsageFault(`--as ${options.as}: there are ${HANDOFF_KINDS.join(', ')}`);
  const isFrames = HANDOFF_FORMATS[kind].made === 'frames';
  const pass = PASSES.find((known) => known === (options.pass ?? 'picture'));
  if (!pass) throw new UsageFault(`--pass ${options.pass}: there are ${PASSES.slice(1).join(', ')}`);
  if (options.depthAs !== undefined && !DEPTH_FILES.some((known) => known === options.depthAs))
    throw new UsageFault(`--depth-as ${options.depthAs}: there are ${DEPTH_FILES.join(', ')}`);
  const request = handoffRequestSchema.safeParse({
    kind,
    firstFrame: first,
    lastFrame: last,
    scale: readScale(options.scale),
    depth: isNumberPass(pass) ? 16 : readWhole('--depth', options.depth, 8, 16),
    pass,
    chosen: readChosen(scene, options),
    pins: options.pins,
    burnIn: options.numbers,
    sound: options.sound,
    looks: !options.plainPaint,
    depthFile: DEPTH_FILES.find((known) => known === (options.depthAs ?? 'png')),
    ...(isPlanePass(pass) || options.each
      ? { planes: 'each', names: { pattern: PLANES_PATTERN, startAt: null } }
      : {}),
    ground: readGround(options.ground),
    target: isFrames ? 'folder' : 'zip',
  });
  if (!request.success)
    throw new UsageFault(request.error.issues[0]?.message ?? 'render: these options do not go together');
  const threads =
    options.threads === undefined ? undefined : readWhole('--threads', options.threads, 1, MOST_THREADS);
  const size = scaledSize(scene, request.data.scale);
  const tooLarge = sizeFault(kind, size.widthPx, size.heightPx);
  if (tooLarge) throw new UsageFault(sizeWords(kind, size.widthPx, size.heightPx, tooLarge));
  if (HANDOFF_FORMATS[kind].made === 'film' && !filmToolPresent())
    throw new UsageFault('films need ffmpeg: sudo apt-get install ffmpeg, then try again');
  const tooMuch = pass === 'depth' ? samplesFault(scene) : null;
  if (tooMuch) throw new UsageFault(`${path}: ${tooMuch}`);
  const out = resolve(options.from, options.out);
  await told(options.out, () => mkdir(isFrames ? out : dirname(out), { recursive: true }));
  const asked = { scene, shotName: fileStem(basename(path).replace(/\.zip$/i, '')), request: request.data };
  const items = itemsOf(asked);
  const soundPath = sound && wantsSound(asked) ? `${out}.sound.part` : null;
  const write = (renderer: FrameRenderer) => async (to: string) => {
    if (sound && soundPath) await writeFile(soundPath, sound);
    await renderer.withArt(scene, () =>
      writeOutput({
        asked,
        items,
        ahead: renderer.threads + 2,
        pngOf: async (index) => {
          const item = items[index];
          if (!item) throw new Error(`There is no picture ${index}`);
          return renderer.usePicture(planOfItem(asked, item), pictureOf(asked, item), (rendered) =>
            pngOfFrame(rendered, groundOf(asked.request) !== 'clear'),
          );
        },
        path: to,
        soundPath,
        startedAt: new Date(),
        signal: new AbortController().signal,
        onPicture: () => {},
      }),
    );
  };
  try {
    return await withRenderer(
      art,
      async (renderer) => {
        const start = performance.now();
        if (isFrames) await told(options.out, () => write(renderer)(out));
        else await writeWhole(out, options.out, write(renderer));
        const seconds = (performance.now() - start) / 1000;
        const speed = (items.length / seconds).toFixed(1);
        const slower = rateWords(kind, scene.rate);
        const said = `${items.length} frames in ${options.out}, ${speed} frames a second on ${renderer.threads} threads`;
        return slower ? `${said}\n${slower}` : said;
      },
      threads,
    );
  } catch (error) {
    if (error instanceof ArtMissing) throw new UsageFault(`${path}: ${error.message}`);
    if (isDiskFull(error)) throw new UsageFault(`${options.out}: the disk is full`);
    throw error;
  } finally {
    if (soundPath) await rm(soundPath, { force: true });
  }
}
