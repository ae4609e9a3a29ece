import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type HandoffAsked, handoffRequestSchema } from '@keen-ridge/core/contract';
import { HANDOFF_KINDS, type HandoffKind } from '@keen-ridge/core/export';
import { unzipSync } from 'fflate';
import { PNG } from 'pngjs';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { collectImages } from '../art/collect.ts';
import { readArtFile } from '../art/read-art.ts';
import { keen } from '../cli/keen.ts';
import { ask, changeScene, download, finished, slidingBar, TWELVE } from '../testing/handoffs.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';

let app: TestApp;
let bar: string;
beforeAll(async () => {
  app = await startTestApp();
  bar = await slidingBar(app, TWELVE, { r: 250, g: 120, b: 40 });
});
afterAll(() => app.close());

async function made(request: HandoffAsked, ending: string): Promise<string> {
  const id = await ask(app, bar, request);
  expect(await finished(app, bar, id)).toMatchObject({ state: 'done' });
  const path = join(app.folder, `made.${ending}`);
  writeFileSync(path, await download(app, id));
  return path;
}

const probed = (path: string) => {
  const entries =
    'stream=codec_name,width,height,r_frame_rate,nb_read_frames,pix_fmt,color_range,color_space,color_primaries,color_transfer';
  const run = spawnSync(
    'ffprobe',
    ['-v', 'error', '-count_frames', '-show_entries', entries, '-of', 'json', path],
    {
      encoding: 'utf8',
    },
  );
  return JSON.parse(run.stdout).streams[0];
};

/** Every frame of a film as RGBA, decoded by ffmpeg. */
function decoded(path: string, options: readonly string[] = []): Uint8Array[] {
  const run = spawnSync(
    'ffmpeg',
    ['-v', 'error', ...options, '-i', path, '-f', 'rawvideo', '-pix_fmt', 'rgba', '-'],
    {
      maxBuffer: 2 ** 28,
    },
  );
  const size = TWELVE.widthPx * TWELVE.heightPx * 4;
  return Array.from({ length: run.stdout.length / size }, (_, i) =>
    run.stdout.subarray(i * size, (i + 1) * size),
  );
}

/** The frames themselves, from the PNG hand-off. */
async function truth(ground: string): Promise<Uint8Array[]> {
  const files = unzipSync(
    new Uint8Array(readFileSync(await made({ kind: 'png', firstFrame: 1, lastFrame: 12, ground }, 'zip'))),
  );
  return Promise.all(Object.values(files).map((png) => sharp(png).ensureAlpha().raw().toBuffer()));
}

/** Peak signal-to-noise ratio of the colours, dB; infinite where they are the same. */
function psnr(p: Uint8Array, q: Uint8Array, channels = 3): number {
  let squares = 0;
  for (let i = 0; i < p.length; i++) if (i % 4 < channels) squares += (p[i]! - q[i]!) ** 2;
  const mean = squares / ((p.length / 4) * channels);
  return mean === 0 ? Number.POSITIVE_INFINITY : 10 * Math.log10(255 ** 2 / mean);
}

const FILMS = [
  { kind: 'webm', ending: 'webm', codec: 'vp9', leastDb: 30 },
  { kind: 'webm-av1', ending: 'webm', codec: 'av1', leastDb: 30 },
  { kind: 'mp4', ending: 'mp4', codec: 'h264', leastDb: 30 },
  { kind: 'ffv1', ending: 'mkv', codec: 'ffv1', leastDb: Number.POSITIVE_INFINITY },
  { kind: 'gif', ending: 'gif', codec: 'gif', leastDb: 25 },
  { kind: 'apng', ending: 'apng', codec: 'apng', leastDb: Number.POSITIVE_INFINITY },
] as const;

describe('films', () => {
  it('are all looked at here', () => {
    const seen = new Set<HandoffKind>([...FILMS.map(({ kind }) => kind), 'png', 'contact-sheet']);
    expect([...HANDOFF_KINDS].filter((kind) => !seen.has(kind))).toEqual([]);
    expect(HANDOFF_KINDS).toHaveLength(8);
  });

  it.each(FILMS)(
    '$kind holds every frame, near enough: ffmpeg decodes it',
    async ({ kind, ending, codec, leastDb }) => {
      const ground = '#203040';
      const path = await made({ kind, firstFrame: 1, lastFrame: 12, ground }, ending);
      const facts = probed(path);
      expect(facts).toMatchObject({ codec_name: codec, width: 96, height: 64, nb_read_frames: '12' });
      const [num, den] = String(facts.r_frame_rate).split('/').map(Number);
      // GIF counts in hundredths of a second, WebM in thousandths.
      expect(Math.abs(num! / den! / 24 - 1)).toBeLessThan(kind === 'gif' ? 0.05 : 0.002);
      if (codec === 'vp9' || codec === 'av1' || codec === 'h264')
        expect(facts).toMatchObject({
          color_range: 'tv',
          color_space: 'bt709',
          color_primaries: 'bt709',
          color_transfer: 'bt709',
        });
      const frames = decoded(path);
      const wanted = await truth(ground);
      expect(frames).toHaveLength(12);
      for (const [i, frame] of frames.entries())
        expect(psnr(frame, wanted[i]!)).toBeGreaterThanOrEqual(leastDb);
    },
  );

  it('the lossless ones keep alpha bit for bit, and VP9 keeps where it is clear', async () => {
    const wanted = await truth('clear');
    for (const [kind, ending] of [
      ['ffv1', 'mkv'],
      ['apng', 'apng'],
    ] as const) {
      const frames = decoded(await made({ kind, firstFrame: 1, lastFrame: 12, ground: 'clear' }, ending));
      for (const [i, frame] of frames.entries()) {
        // Where nothing is left of the alpha the colour means nothing.
        const seen = (pixels: Uint8Array) => pixels.map((v, k) => (pixels[k | 3] === 0 ? 0 : v));
        expect(Buffer.from(seen(frame))).toEqual(Buffer.from(seen(wanted[i]!)));
      }
    }
    const clear = await made({ kind: 'webm', firstFrame: 1, lastFrame: 12, ground: 'clear' }, 'webm');
    const frames = decoded(clear, ['-c:v', 'libvpx-vp9']);
    for (const [i, frame] of frames.entries()) {
      const alpha = (pixels: Uint8Array) => pixels.map((v, k) => (k % 4 === 3 ? v : 0));
      expect(psnr(alpha(frame), alpha(wanted[i]!), 4)).toBeGreaterThan(30);
    }
  });

  it('MP4 has the exact rate 24000/1001', async () => {
    await changeScene(app, bar, (scene) => ({ ...scene, rate: { num: 24_000, den: 1001 } }));
    try {
      expect(probed(await made({ kind: 'mp4', firstFrame: 1, lastFrame: 12 }, 'mp4'))).toMatchObject({
        r_frame_rate: '24000/1001',
      });
    } finally {
      await changeScene(app, bar, (scene) => ({ ...scene, rate: { num: 24, den: 1 } }));
    }
  });
});

describe('frames', () => {
  const zipOf = async (request: Partial<HandoffAsked>) =>
    unzipSync(
      new Uint8Array(
        readFileSync(await made({ kind: 'png', firstFrame: 1, lastFrame: 4, ...request }, 'zip')),
      ),
    );

  it('have 16 bit on request, the wide row itself and not the bytes stretched', async () => {
    const files = await zipOf({ depth: 16, lastFrame: 2 });
    const wide = PNG.sync.read(Buffer.from(files['Bar_1_0001.png']!), { skipRescale: true });
    expect(wide.depth).toBe(16);
    const values = wide.data as unknown as Uint16Array;
    const at = (32 * 96 + 48) * 4;
    // Colours of the painting come through untouched: a byte v is v·257.
    expect([...values.subarray(at, at + 4)]).toEqual([250 * 257, 120 * 257, 40 * 257, 65_535]);
  });

  it('are named by a pattern, count from a number, and have handles at both ends', async () => {
    const names = { pattern: 'bg/{shot}-{take}.{frame:6}', startAt: 1001 };
    const files = await zipOf({ names, handles: 2, take: 'Take 3' });
    expect(Object.keys(files)).toEqual(
      [1001, 1002, 1003, 1004, 1005, 1006, 1007, 1008].map((n) => `bg/Bar_1-Take_3.00${n}.png`),
    );
    // Frames before the first one are those of the move as it stands there.
    const first = await sharp(files['bg/Bar_1-Take_3.001001.png']!).raw().toBuffer();
    expect(first[(32 * 96 + 44) * 4 + 3]).toBe(255);
  });

  it('leave plane by plane, each in place', async () => {
    const files = await zipOf({ planes: 'each', names: { pattern: '{plane}/{frame:2}', startAt: null } });
    expect(Object.keys(files)).toEqual(['bar/01.png', 'bar/02.png', 'bar/03.png', 'bar/04.png']);
  });

  it('go into a folder on request', async () => {
    const id = await ask(app, bar, { kind: 'png', firstFrame: 1, lastFrame: 3, target: 'folder' });
    const progress = await finished(app, bar, id);
    if (progress.state !== 'done' || progress.folder === null) throw new Error(JSON.stringify(progress));
    expect(readdirSync(progress.folder).sort()).toEqual([
      'Bar_1_0001.png',
      'Bar_1_0002.png',
      'Bar_1_0003.png',
    ]);
    expect((await fetch(`${app.url}/api/handoffs/${id}/file`)).status).toBe(409);
    expect(existsSync(`${progress.folder}.part`)).toBe(false);
  });

  it('carry burnt-in words in the corner and nowhere else', async () => {
    await changeScene(app, bar, (scene) => ({ ...scene, frame: { widthPx: 480, heightPx: 320 } }));
    try {
      const ground = '#808080';
      const plain = await zipOf({ lastFrame: 2, ground });
      const burnt = await zipOf({ lastFrame: 2, ground, burnIn: true, take: 'A' });
      const pixels = async (png: Uint8Array) => sharp(png).ensureAlpha().raw().toBuffer();
      const [p, q] = [await pixels(plain['Bar_1_0001.png']!), await pixels(burnt['Bar_1_0001.png']!)];
      const changed = Array.from({ length: 480 * 320 }, (_, i) => i).filter((i) => p[i * 4] !== q[i * 4]);
      expect(changed.length).toBeGreaterThan(500);
      expect(Math.min(...changed.map((i) => Math.floor(i / 480)))).toBeGreaterThan(280);
      expect(Math.max(...changed.map((i) => i % 480))).toBeLessThan(240);
      // White letters, and other ones on the next frame.
      expect(changed.some((i) => q[i * 4] === 255)).toBe(true);
      const next = await pixels(burnt['Bar_1_0002.png']!);
      expect(changed.some((i) => next[i * 4] !== q[i * 4])).toBe(true);
    } finally {
      await changeScene(app, bar, (scene) => ({ ...scene, frame: { widthPx: 96, heightPx: 64 } }));
    }
  });
});

describe('the command line', () => {
  it('gives the same bytes as the server, on any number of threads', async () => {
    const wanted = unzipSync(
      new Uint8Array(readFileSync(await made({ kind: 'png', firstFrame: 3, lastFrame: 5 }, 'zip'))),
    );
    const pack = join(app.folder, 'Bar_1.zip');
    writeFileSync(
      pack,
      new Uint8Array(await (await fetch(`${app.url}/api/shots/${bar}/package`)).arrayBuffer()),
    );
    for (const threads of ['1', '3']) {
      const out = join(app.folder, `threads-${threads}`);
      const said = await keen(
        ['render', pack, '--frames', '3-5', '--out', out, '--threads', threads],
        app.folder,
        () => {},
      );
      expect(said).toMatch(new RegExp(`^3 frames in .* [0-9.]+ frames a second on ${threads} threads$`));
      expect(readdirSync(out).sort()).toEqual(Object.keys(wanted));
      for (const [name, bytes] of Object.entries(wanted))
        expect(new Uint8Array(readFileSync(join(out, name)))).toEqual(bytes);
    }
    const film = join(app.folder, 'keen.mkv');
    await keen(['render', pack, '--as', 'ffv1', '--out', film], app.folder, () => {});
    expect(probed(film)).toMatchObject({ codec_name: 'ffv1', nb_read_frames: '12' });
    await expect(keen(['render', pack, '--as', 'mov', '--out', film], app.folder, () => {})).rejects.toThrow(
      '--as mov: there are png, webm',
    );
  });
});

describe('sheets and stills', () => {
  it('a contact sheet shows frames evenly apart, each with its number', async () => {
    const path = await made({ kind: 'contact-sheet', firstFrame: 1, lastFrame: 12 }, 'png');
    const { width, height } = await sharp(path).metadata();
    // Twelve pictures of 96 × 64 in four columns and three rows.
    expect([width, height]).toEqual([24 + 4 * (96 + 24), 78 + 3 * (64 + 26 + 24)]);
    const dark = (await sharp(path).greyscale().raw().toBuffer()).filter((v) => v < 60).length;
    expect(dark).toBeGreaterThan(200);
  });

  it('a still is the frame, as PNG, lossless WebP, or OpenRaster with its planes', async () => {
    const [wanted] = await truth('clear');
    const still = async (format: string) =>
      new Uint8Array(
        await (await fetch(`${app.url}/api/shots/${bar}/still?frame=1&format=${format}`)).arrayBuffer(),
      );
    const pixels = async (bytes: Uint8Array) => sharp(bytes).ensureAlpha().raw().toBuffer();
    expect(await pixels(await still('png'))).toEqual(wanted);
    expect(psnr(await pixels(await still('webp')), wanted!, 4)).toBe(Number.POSITIVE_INFINITY);
    const ora = await still('openraster');
    const { sink, images } = collectImages();
    const read = await readArtFile('still.ora', ora, { sink });
    expect(read.ok && read.value[0]?.nodes).toMatchObject([{ name: 'bar' }]);
    expect(images.size).toBe(1);
    const files = unzipSync(ora);
    expect(Object.keys(files)[0]).toBe('mimetype');
    expect(await pixels(files['mergedimage.png']!)).toEqual(wanted);
  });
});

describe('what cannot be', () => {
  it.each([
    [{ kind: 'mp4', depth: 16 }, 'has no 16 bit'],
    [{ kind: 'webm', planes: 'each' }, 'only frames leave plane by plane'],
    [{ kind: 'png', names: { pattern: 'same', startAt: null } }, 'the name needs {frame}'],
    [{ kind: 'png', names: { pattern: '../{frame}', startAt: null } }, '“..” cannot stand in a file name'],
    [{ kind: 'png', names: { pattern: '{camera}_{frame}', startAt: null } }, '{camera} is not known'],
    [{ kind: 'png', handles: 5 }, 'frames before 0 need a number'],
    [{ kind: 'gif', lastFrame: 6000 }, 'more than the 5000'],
    [{ kind: 'png', firstFrame: 5, lastFrame: 4 }, 'the last frame lies before the first'],
  ] as const)('%j is refused with a reason', (part, reason) => {
    const read = handoffRequestSchema.safeParse({ firstFrame: 1, lastFrame: 12, ...part });
    expect(read.success ? '' : read.error.issues.map(({ message }) => message).join()).toContain(reason);
  });
});
