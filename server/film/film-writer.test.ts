import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { FilmWriter, outputReason } from './film-writer.ts';

const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-film-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const FORMAT = {
  kind: 'ffv1',
  widthPx: 640,
  heightPx: 360,
  rate: { num: 24, den: 1 },
  alpha: false,
} as const;

/** Writes frames until the encoder gives up; what it gave up with. */
async function failure(
  path: string,
  format: ConstructorParameters<typeof FilmWriter>[1] = FORMAT,
): Promise<unknown> {
  const film = new FilmWriter(path, format);
  const frame = new Uint8Array(format.widthPx * format.heightPx * 4);
  try {
    for (let i = 0; i < 400; i++) {
      crypto.getRandomValues(frame.subarray(0, 65_536));
      await film.write(frame);
    }
    await film.finish();
    return null;
  } catch (error) {
    return error;
  } finally {
    await film.abort();
  }
}

describe('an encoder that gives up', () => {
  it('is told by its own words, not by the broken pipe that it leaves', async () => {
    const error = await failure(join(folder, 'no such folder', 'a.mkv'));
    expect(error).toBeInstanceOf(Error);
    expect(outputReason(error)).toMatch(/^The film encoder stopped: .*No such file or directory/);
  });

  it('for want of room is told as a full disk', async () => {
    expect(outputReason(await failure('/dev/full'))).toMatch(/^The disk is full\./);
  });
});

/** The pixels of a film's frames as another process decodes them, RGBA. */
const decoded = (path: string, decoder: readonly string[] = []): Buffer => {
  const raw = [...decoder, '-i', path, '-f', 'rawvideo', '-pix_fmt', 'rgba', 'pipe:1'];
  const { stdout, status, stderr } = spawnSync('ffmpeg', ['-v', 'error', ...raw], { maxBuffer: 2 ** 28 });
  expect([status, String(stderr)]).toEqual([0, '']);
  return stdout;
};

async function film(path: string, format: ConstructorParameters<typeof FilmWriter>[1], frames: Uint8Array[]) {
  const writer = new FilmWriter(path, format);
  for (const frame of frames) await writer.write(frame);
  await writer.finish();
}

describe('films', () => {
  it('of odd sizes repeat their last column and row: no black comes into the paint', async () => {
    const [widthPx, heightPx] = [95, 63];
    const path = join(folder, 'odd.mp4');
    const white = new Uint8Array(widthPx * heightPx * 4).fill(255);
    await film(path, { kind: 'mp4', widthPx, heightPx, rate: { num: 24, den: 1 }, alpha: false }, [
      white,
      white,
    ]);
    const pixels = decoded(path);
    expect(pixels.length).toBe(2 * 96 * 64 * 4);
    // All of it is white, the padding too.
    expect(Math.min(...pixels.subarray(0, 96 * 64 * 4))).toBeGreaterThanOrEqual(250);
  });

  it('that stay clear have the colour of the paint at its edges, not black', async () => {
    const [widthPx, heightPx] = [96, 64];
    const rgba = new Uint8Array(widthPx * heightPx * 4);
    // A red square whose sides lie on odd px, so that chroma is shared across them.
    for (let y = 17; y < 43; y++)
      for (let x = 31; x < 67; x++) rgba.set([220, 40, 40, 255], (y * widthPx + x) * 4);
    const path = join(folder, 'clear.webm');
    await film(path, { kind: 'webm', widthPx, heightPx, rate: { num: 24, den: 1 }, alpha: true }, [
      rgba,
      rgba,
    ]);
    const pixels = decoded(path, ['-c:v', 'libvpx-vp9']);
    let worst = 0;
    for (let y = 17; y < 43; y++)
      for (const x of [31, 66]) worst = Math.max(worst, 220 - pixels[(y * widthPx + x) * 4]!);
    expect(worst).toBeLessThanOrEqual(16);
    expect(pixels[3]).toBe(0);
  });

  it('GIF shows 50 frames a second at most: no delay is under two hundredths', async () => {
    const path = join(folder, 'fast.gif');
    const grey = (v: number) => new Uint8Array(32 * 32 * 4).map((_, i) => (i % 4 === 3 ? 255 : v));
    const frames = Array.from({ length: 12 }, (_, i) => grey(20 * i));
    await film(
      path,
      { kind: 'gif', widthPx: 32, heightPx: 32, rate: { num: 60, den: 1 }, alpha: false },
      frames,
    );
    const bytes = readFileSync(path);
    // Graphic control extensions: 21 F9 04, packed, then the delay in hundredths of a second (GIF89a, section 23).
    const delays: number[] = [];
    for (let i = 0; i < bytes.length - 6; i++)
      if (bytes[i] === 0x21 && bytes[i + 1] === 0xf9 && bytes[i + 2] === 4)
        delays.push(bytes.readUInt16LE(i + 4));
    expect(delays).toHaveLength(10);
    expect(Math.min(...delays)).toBeGreaterThanOrEqual(2);
  });
});
