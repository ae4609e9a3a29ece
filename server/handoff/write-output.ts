import { mkdir } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { groundOf, type HandoffRequest } from '@keen-ridge/core/contract';
import {
  depthFarSpx,
  depthNote,
  HANDOFF_FORMATS,
  type HandoffItem,
  MOTION_NOTE,
} from '@keen-ridge/core/export';
import { secondsOfFrames } from '@keen-ridge/core/timing';
import { secondsIntoSound } from '@keen-ridge/core/timing/sound';
import { inOrder } from '../farm/in-order.ts';
import type { PicturesAsked } from '../farm/planned-pictures.ts';
import { contactSheet } from '../film/contact-sheet.ts';
import { type FilmSound, FilmWriter } from '../film/film-writer.ts';
import { rgbaOfPng } from '../pictures/encode-frame.ts';
import { depthNumbers, exrOfPass, motionNumbers } from '../pictures/exr.ts';
import { scaledSize } from '../pictures/frame-renderer.ts';
import { syncPath, writeSynced } from '../storage/durable.ts';
import { ZipFile } from '../storage/zip-file.ts';

export interface OutputToWrite {
  readonly asked: PicturesAsked;
  readonly items: readonly HandoffItem[];
  /** PNG of the picture with that index, as soon as it is rendered. */
  readonly pngOf: (index: number) => Promise<Uint8Array>;
  /** The same as straight RGBA, for films; from the PNG where it is left out. */
  readonly rgbaOf?: (index: number) => Promise<Uint8Array>;
  /** A file, or a folder that may not exist yet. */
  readonly path: string;
  /** File of the scene's sound, for films that want it. */
  readonly soundPath?: string | null;
  readonly startedAt: Date;
  readonly signal: AbortSignal;
  readonly onPicture: (done: number) => void;
  /** Pictures that are fetched and decoded ahead of the writer. */
  readonly ahead?: number;
}

const AHEAD = 4;

/** Writes what was asked for, picture by picture in order. Rejects with the signal's reason when it aborts. */
export function writeOutput(work: OutputToWrite): Promise<void> {
  const { request } = work.asked;
  switch (HANDOFF_FORMATS[request.kind].made) {
    case 'frames':
      return request.target === 'folder' ? writeFolder(work) : writeZip(work);
    case 'film':
      return writeFilm(work, request);
    case 'sheet':
      return writeSheet(work);
  }
}

/** Fetches pictures in order, some ahead, and writes them one after another. */
async function each(
  { items, signal, onPicture, ahead = AHEAD }: OutputToWrite,
  fetch: (index: number) => Promise<Uint8Array>,
  write: (picture: Uint8Array, item: HandoffItem) => Promise<void>,
): Promise<void> {
  let done = 0;
  await inOrder(
    items.map((_, i) => i),
    ahead,
    fetch,
    async (picture, i) => {
      await write(picture, items[i] as HandoffItem);
      onPicture(++done);
    },
    signal,
  );
}

async function writeZip(work: OutputToWrite): Promise<void> {
  const zip = new ZipFile(work.path);
  try {
    const { fetch, ending } = frameFile(work);
    await each(work, fetch, (file, { name }) => zip.add(`${name}.${ending}`, file, work.startedAt));
    for (const [name, text] of notesOf(work)) await zip.add(name, Buffer.from(text), work.startedAt);
    await zip.finish();
  } catch (error) {
    await zip.abort();
    throw error;
  }
}

async function writeFolder(work: OutputToWrite): Promise<void> {
  const folders = new Set([work.path]);
  const { fetch, ending } = frameFile(work);
  await each(work, fetch, async (file, { name }) => {
    const path = join(work.path, `${name}.${ending}`);
    for (let folder = dirname(path); folder.length > work.path.length; folder = dirname(folder))
      folders.add(folder);
    await mkdir(dirname(path), { recursive: true });
    await writeSynced(path, file);
  });
  for (const [name, text] of notesOf(work)) await writeSynced(join(work.path, name), Buffer.from(text));
  // Innermost first: a name is kept when the folder that holds it is.
  for (const folder of [...folders].sort((p, q) => q.length - p.length)) await syncPath(folder);
}

/** How a frame leaves: as it is stored, or as OpenEXR. */
function frameFile({ asked: { scene, request }, pngOf }: OutputToWrite) {
  if (request.depthFile === 'png') return { fetch: pngOf, ending: 'png' };
  const bits = request.depthFile === 'exr-half' ? 'half' : 'float';
  const numbers = request.pass === 'motion' ? motionNumbers : depthNumbers(depthFarSpx(scene));
  return { fetch: async (index: number) => exrOfPass(await pngOf(index), numbers, bits), ending: 'exr' };
}

/** What lies beside frames that would not be understood without it. */
function notesOf({ asked: { scene, request } }: OutputToWrite): [string, string][] {
  if (request.pass === 'depth') return [['depth.json', depthNote(depthFarSpx(scene))]];
  return request.pass === 'motion' ? [['motion.json', MOTION_NOTE]] : [];
}

async function writeFilm(work: OutputToWrite, request: HandoffRequest): Promise<void> {
  const { scene } = work.asked;
  if (request.kind === 'png' || request.kind === 'contact-sheet')
    throw new Error(`${request.kind} is no film`);
  const film = new FilmWriter(work.path, {
    kind: request.kind,
    ...scaledSize(scene, request.scale),
    rate: scene.rate,
    alpha: groundOf(request) === 'clear',
    sound: soundOf(work),
  });
  const abort = () => void film.abort();
  work.signal.addEventListener('abort', abort);
  try {
    const rgbaOf = work.rgbaOf ?? (async (index: number) => rgbaOfPng(await work.pngOf(index)));
    await each(work, rgbaOf, (rgba) => film.write(rgba));
    await film.finish();
  } catch (error) {
    await film.abort();
    work.signal.throwIfAborted();
    throw error;
  } finally {
    work.signal.removeEventListener('abort', abort);
  }
}

/** The sound as it lies under the frames of the film. */
function soundOf({ asked: { scene, request }, soundPath, items }: OutputToWrite): FilmSound | null {
  const { sound, rate } = scene;
  const [first] = items;
  if (!wantsSound({ scene, request }) || !sound || !soundPath || !first) return null;
  return {
    path: soundPath,
    fromSeconds: secondsIntoSound(sound.startFrame, first.frame, rate),
    filmSeconds: secondsOfFrames(items.length, rate),
    volume: sound.volume,
  };
}

/** Whether a hand-off is a film that is to have the scene's sound. */
export const wantsSound = ({ scene, request }: Pick<PicturesAsked, 'scene' | 'request'>): boolean =>
  request.sound && HANDOFF_FORMATS[request.kind].sound && !!scene.sound && !scene.sound.muted;

async function writeSheet(work: OutputToWrite): Promise<void> {
  const { scene, shotName, request } = work.asked;
  const pictures: { words: string; png: Uint8Array }[] = [];
  await each(
    work,
    work.pngOf,
    async (png, { number }) => void pictures.push({ words: String(number).padStart(4, '0'), png }),
  );
  const title = [shotName, request.take].filter((part) => part !== '').join(' · ');
  await writeSynced(work.path, await contactSheet(title, pictures, scene.frame));
}
