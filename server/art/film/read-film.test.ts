import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { paintedLayers } from '@keen-ridge/core/art/landing';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { faultSentence } from '../art-words.ts';
import { collectImages } from '../collect.ts';
import { decodeStored } from '../decode.ts';
import { readArtFile } from '../read-art.ts';
import { readFilm } from './read-film.ts';

const WIDTH = 48;
const HEIGHT = 32;
const FRAMES = 7;
let folder = '';
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'keen-ridge-films-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Runs ffmpeg 5 or later; what it writes to its output comes back. */
function ffmpeg(...args: readonly string[]): Uint8Array {
  const run = spawnSync('ffmpeg', ['-v', 'error', '-y', ...args], { maxBuffer: 2 ** 28 });
  if (run.status !== 0) throw new Error(run.stderr.toString());
  return new Uint8Array(run.stdout);
}

/** A moving test picture with an edge of alpha that runs across it. */
const PICTURE = `testsrc2=size=${WIDTH}x${HEIGHT}:rate=30:duration=${FRAMES / 30},format=rgba,geq=r='r(X,Y)':g='g(X,Y)':b='b(X,Y)':a='if(lt(X,8+4*N),0,if(lt(X,20+4*N),128,255))'`;

interface Kind {
  readonly file: string;
  readonly codec: string;
  /** The decoder that keeps its alpha. */
  readonly decoder?: string;
  readonly alpha: boolean;
}
const KINDS: readonly Kind[] = [
  {
    file: 'vp9.webm',
    codec: '-c:v libvpx-vp9 -pix_fmt yuva420p -auto-alt-ref 0 -crf 12 -b:v 0',
    decoder: 'libvpx-vp9',
    alpha: true,
  },
  { file: 'h264.mp4', codec: '-c:v libx264 -pix_fmt yuv420p -crf 12', alpha: false },
  { file: 'prores.mov', codec: '-c:v prores_ks -profile:v 4444 -pix_fmt yuva444p10le', alpha: true },
  { file: 'png.mov', codec: '-c:v png -pix_fmt rgba', alpha: true },
  { file: 'ffv1.mkv', codec: '-c:v ffv1 -level 3 -pix_fmt bgra', alpha: true },
];

function makeFilm({ file, codec }: Pick<Kind, 'file' | 'codec'>, ...more: readonly string[]): string {
  const path = join(folder, file);
  ffmpeg('-f', 'lavfi', '-i', PICTURE, ...more, ...codec.split(' '), path);
  return path;
}

/** What a film gives, with the pixels of its frames. */
async function read(path: string) {
  const { sink, images } = collectImages();
  const told: number[] = [];
  const result = await readFilm('film', path, { sink, onProgress: (done) => told.push(done) });
  if (!result.ok) throw new Error(result.error.detail);
  const [painting] = result.value;
  const node = painting!.nodes[0]!;
  if (node.kind !== 'layer' || !node.frames) throw new Error('It does not move');
  const pixels: Uint8Array[] = [];
  for (const { art } of node.frames) {
    const image = await decodeStored(images.get(art.id)!.png);
    if (!image.ok) throw new Error(image.error.detail);
    pixels.push(new Uint8Array(image.value.data));
  }
  return { painting: painting!, node, pixels, told };
}

describe('films', () => {
  // Reference: ffmpeg's own raw output, run apart from ours and read as one block.
  it.each(KINDS)('$file: every frame is as ffmpeg gives it raw, with its alpha', async (kind) => {
    const path = makeFilm(kind);
    const { painting, node, pixels, told } = await read(path);
    const decoder = kind.decoder ? ['-c:v', kind.decoder] : [];
    const raw = ffmpeg(...decoder, '-i', path, '-f', 'rawvideo', '-pix_fmt', 'rgba', 'pipe:1');
    expect([painting.widthPx, painting.heightPx, node.rate, told.length]).toEqual([
      WIDTH,
      HEIGHT,
      { num: 30, den: 1 },
      FRAMES,
    ]);
    expect(pixels).toHaveLength(FRAMES);
    expect(Buffer.compare(Buffer.concat(pixels), Buffer.from(raw))).toBe(0);
    const alphas = pixels.flatMap((data) => [...data.filter((_, i) => i % 4 === 3)]);
    expect(Math.min(...alphas) < 8).toBe(kind.alpha);
    expect(painting.notKept).toEqual([]);
  });

  it('run at their own rate on a shot of another one, and on the shot’s where it is the same', async () => {
    const { painting } = await read(makeFilm({ file: 'rate.mov', codec: '-c:v png' }));
    const rateOn = (num: number) => paintedLayers(painting, { num, den: 1 })[0]?.moving;
    expect(rateOn(24)?.rate).toEqual({ num: 30, den: 1 });
    expect(rateOn(30)?.rate).toBeNull();
    expect(rateOn(24)?.exposures.map(({ hold }) => hold)).toEqual(Array(FRAMES).fill(1));
  });

  it('hold a picture that stays as one exposure', async () => {
    const path = join(folder, 'still.mkv');
    ffmpeg('-f', 'lavfi', '-i', 'color=red:size=16x16:rate=12:duration=1', '-c:v', 'ffv1', path);
    const { painting } = await read(path);
    expect(
      paintedLayers(painting, { num: 24, den: 1 })[0]?.moving?.exposures.map(({ hold }) => hold),
    ).toEqual([12]);
  });

  it('with a cover give their own frames, not the cover', async () => {
    const cover = join(folder, 'cover.png');
    ffmpeg('-f', 'lavfi', '-i', 'color=red:size=20x20', '-frames:v', '1', cover);
    const film = makeFilm({ file: 'plain.mkv', codec: '-c:v ffv1' });
    const path = join(folder, 'covered.mp4');
    // The cover comes first, as it does in files that were bought.
    const streams = '-map 1 -map 0 -c:v:0 png -c:v:1 libx264 -disposition:v:0 attached_pic'.split(' ');
    ffmpeg('-i', film, '-i', cover, ...streams, path);
    const { painting, pixels } = await read(path);
    expect([painting.widthPx, painting.heightPx, pixels.length]).toEqual([WIDTH, HEIGHT, FRAMES]);
  });

  it('are refused with a word of its own where ffmpeg is missing', async () => {
    const film = readFileSync(makeFilm({ file: 'alright.mkv', codec: '-c:v ffv1' }));
    const { PATH } = process.env;
    process.env.PATH = folder;
    try {
      const result = await readArtFile('alright.mkv', film, collectImages());
      expect(result).toMatchObject({ ok: false, error: { code: 'no-decoder' } });
      expect(result.ok || faultSentence('alright.mkv', result.error)).toContain('install');
    } finally {
      process.env.PATH = PATH;
    }
  });

  it('leave their sound out, and say so', async () => {
    const sound = ['-f', 'lavfi', '-i', 'sine=duration=0.2', '-shortest'];
    const { painting } = await read(
      makeFilm({ file: 'sound.mov', codec: '-c:v png -c:a pcm_s16le' }, ...sound),
    );
    expect(painting.notKept).toEqual(['Its sound was left out.']);
  });

  it('that are cut off, no film, sound alone, or too long are refused with the reason', async () => {
    const whole = readFileSync(makeFilm({ file: 'whole.mkv', codec: '-c:v ffv1 -level 3 -slicecrc 1' }));
    const refused = async (name: string, bytes: Uint8Array) => {
      const result = await readArtFile(name, bytes, collectImages());
      return result.ok ? null : result.error;
    };
    const cut = await refused('cut.mkv', whole.subarray(0, whole.length * 0.6));
    expect(cut).toMatchObject({ code: 'damaged' });
    expect(cut?.detail).not.toContain(folder);
    expect(
      await refused('not.mp4', Buffer.from('\0\0\0\x20ftypisom and then nothing of the kind')),
    ).toMatchObject({
      code: 'damaged',
      detail: 'it begins like a film and cannot be read as one',
    });
    const path = join(folder, 'alone.mkv');
    ffmpeg('-f', 'lavfi', '-i', 'sine=duration=0.2', '-c:a', 'flac', path);
    expect(await refused('alone.mkv', readFileSync(path))).toMatchObject({ code: 'no-layers' });
    const long = join(folder, 'long.mkv');
    ffmpeg('-f', 'lavfi', '-i', 'color=red:size=16x16:rate=1000:duration=6', '-c:v', 'ffv1', long);
    expect(await refused('long.mkv', readFileSync(long))).toMatchObject({
      code: 'too-large',
      detail: 'its 6000 frames are more than the 5000 of a plane',
    });
  });
});
