import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ArtFault } from '@keen-ridge/core/art';
import { raster } from '@keen-ridge/core/image';
import { fail, ok, type Result } from '@keen-ridge/core/units';
import { tooLarge, tooLargeFault } from '../decode.ts';
import { type KeptImage, keepImage } from '../keep-image.ts';
import { movingFault } from '../moving-limits.ts';
import { paintingOfOne } from '../one-layer.ts';
import type { ReadOptions, ReadResult } from '../read-options.ts';
import { type FilmFacts, filmFacts, ONLY_FILMS } from './film-facts.ts';

/** A film whose bytes are at hand: it is laid down first, since its index may lie at its end. */
export async function readFilmBytes(
  fileName: string,
  bytes: Uint8Array,
  options: ReadOptions,
): Promise<ReadResult> {
  const folder = await mkdtemp(join(tmpdir(), 'keen-ridge-film-'));
  try {
    const path = join(folder, 'film');
    await writeFile(path, bytes);
    return await readFilm(fileName, path, options);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/**
 * A film becomes a painting of one layer with frames, at the film's own rate, with its alpha and without its sound. One
 * frame is held at a time.
 */
export async function readFilm(fileName: string, path: string, options: ReadOptions): Promise<ReadResult> {
  const facts = await filmFacts(path);
  if (!facts.ok) return facts;
  const { widthPx, heightPx, rate, expectedFrames } = facts.value;
  if (tooLarge(widthPx, heightPx)) return tooLargeFault(widthPx, heightPx);
  const tooMany = movingFault(widthPx, heightPx, expectedFrames);
  if (tooMany) return tooMany;
  const read = await framesOf(path, facts.value, options);
  if (!read.ok) return read;
  const [first] = read.value;
  if (!first) return fail({ code: 'damaged', detail: 'no frame of the film can be read' });
  const delayMs = (1000 * rate.den) / rate.num;
  const frames = read.value.map(({ art }) => ({ art, delayMs }));
  return ok([paintingOfOne(fileName, first, { frames, rate, notKept: [...facts.value.notKept] })]);
}

/** Decodes a film to straight RGBA and keeps every frame. */
async function framesOf(
  path: string,
  { widthPx, heightPx, expectedFrames, decoder, stream }: FilmFacts,
  { sink, onProgress }: ReadOptions,
): Promise<Result<KeptImage[], ArtFault>> {
  const input = [...ONLY_FILMS, ...(decoder ? ['-c:v', decoder] : []), '-i', path];
  const output = `-map 0:${stream} -an -sn -dn -fps_mode passthrough -f rawvideo -pix_fmt rgba pipe:1`.split(
    ' ',
  );
  const decoding = spawn('ffmpeg', ['-v', 'error', '-nostdin', '-xerror', ...input, ...output], {
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  const ended = once(decoding, 'close');
  let said = '';
  decoding.stderr.on('data', (text) => {
    said = `${said}${text}`.slice(-2000);
  });
  const bytes = widthPx * heightPx * 4;
  const kept: KeptImage[] = [];
  let frame = new Uint8Array(bytes);
  let filled = 0;
  try {
    for await (const chunk of decoding.stdout as AsyncIterable<Uint8Array>) {
      let from = 0;
      while (from < chunk.length) {
        const part = chunk.subarray(from, from + bytes - filled);
        frame.set(part, filled);
        filled += part.length;
        from += part.length;
        if (filled < bytes) continue;
        const over = movingFault(widthPx, heightPx, kept.length + 1);
        if (over) return over;
        onProgress?.(kept.length, Math.max(expectedFrames, kept.length + 1), `frame ${kept.length + 1}`);
        kept.push(await keepImage(raster(widthPx, heightPx, 'straight', frame), null, sink));
        // The sink may use up the pixels.
        frame = new Uint8Array(bytes);
        filled = 0;
      }
    }
    const [code] = await ended;
    if (code !== 0 || filled > 0)
      return fail({ code: 'damaged', detail: `frame ${kept.length + 1} cannot be decoded${saidAs(said)}` });
    // A film that was cut off ends like any other; only what it says of itself tells.
    if (said !== '' && kept.length < expectedFrames)
      return fail({
        code: 'damaged',
        detail: `it breaks off after frame ${kept.length} of ${expectedFrames}${saidAs(said)}`,
      });
    return ok(kept);
  } finally {
    decoding.kill('SIGKILL');
  }
}

/** The last line of what the decoder said, without where the file lies. */
const saidAs = (said: string): string => {
  const line = said.trim().split('\n').at(-1) ?? '';
  const words = line
    .replace(/\[[^\]]*\]/g, '')
    .replace(/\/\S+/g, 'the file')
    .trim();
  return words === '' ? '' : ` (${words.slice(0, 200)})`;
};
