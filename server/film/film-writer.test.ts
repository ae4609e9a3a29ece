import { mkdtempSync, rmSync } from 'node:fs';
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
