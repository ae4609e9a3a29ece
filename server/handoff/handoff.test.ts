import { spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { HandoffRequest } from '@keen-ridge/core/contract';
import { eq } from 'drizzle-orm';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { handoffs, shots } from '../db/schema.ts';
import { ask, download, finished, slidingBar, stateOf } from '../testing/handoffs.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';

let app: TestApp;
beforeAll(async () => {
  app = await startTestApp();
});
afterAll(() => app.close());

describe('PNG frames', () => {
  it('are numbered, in order, clear where nothing stands, and show the move', async () => {
    const shotId = await slidingBar(app, {
      widthPx: 96,
      heightPx: 64,
      rate: { num: 24, den: 1 },
      lengthFrames: 12,
    });
    const id = await ask(app, shotId, { kind: 'png', firstFrame: 3, lastFrame: 7 });
    expect(await finished(app, shotId, id)).toMatchObject({
      state: 'done',
      total: 5,
      fileName: 'Bar_1_3-7.zip',
    });
    const files = unzipSync(await download(app, id));
    expect(Object.keys(files)).toEqual([3, 4, 5, 6, 7].map((n) => `Bar_1_000${n}.png`));
    for (const [i, name] of Object.keys(files).entries()) {
      const { data, info } = await sharp(files[name]).raw().toBuffer({ resolveWithObject: true });
      expect([info.width, info.height, info.channels]).toEqual([96, 64, 4]);
      // The bar's left edge: the frame's centre, less half the bar, less 2 px for each frame after the first.
      const left = 48 - 4 - 2 * (3 + i - 1);
      const row = Array.from({ length: 96 }, (_, x) => data[(32 * 96 + x) * 4 + 3]);
      expect(row.map((alpha, x) => (alpha === 255 ? x : -1)).filter((x) => x >= 0)).toEqual(
        Array.from({ length: 8 }, (_, k) => left + k),
      );
      expect(row.filter((alpha) => alpha !== 0 && alpha !== 255)).toEqual([]);
    }
  });
});

describe('WebM', () => {
  it.each([
    ['24/1', { num: 24, den: 1 }],
    ['24000/1001', { num: 24_000, den: 1001 }],
    ['25/1', { num: 25, den: 1 }],
  ])('has every frame, the rate %s and the BT.709 tags, as ffprobe reads them', async (rateText, rate) => {
    const shotId = await slidingBar(app, { widthPx: 97, heightPx: 65, rate, lengthFrames: 9 });
    const id = await ask(app, shotId, { kind: 'webm', firstFrame: 1, lastFrame: 9 });
    expect(await finished(app, shotId, id)).toMatchObject({ state: 'done', total: 9 });
    const path = join(app.folder, 'film.webm');
    writeFileSync(path, await download(app, id));
    const entries =
      'stream=codec_name,width,height,r_frame_rate,nb_read_frames,color_range,color_space,color_primaries,color_transfer';
    const probe = spawnSync(
      'ffprobe',
      ['-v', 'error', '-count_frames', '-show_entries', entries, '-of', 'json', path],
      { encoding: 'utf8' },
    );
    expect(JSON.parse(probe.stdout).streams[0]).toMatchObject({
      codec_name: 'vp9',
      // Odd sizes are padded to even, which 4:2:0 needs.
      width: 98,
      height: 66,
      nb_read_frames: '9',
      color_range: 'tv',
      color_space: 'bt709',
      color_primaries: 'bt709',
      color_transfer: 'bt709',
    });
    const [num, den] = String(JSON.parse(probe.stdout).streams[0].r_frame_rate).split('/').map(Number);
    const [wantNum, wantDen] = rateText.split('/').map(Number);
    // WebM keeps times in whole milliseconds, so ffprobe may find a neighbour of a broadcast rate.
    expect(Math.abs(num! / den! / (wantNum! / wantDen!) - 1)).toBeLessThan(0.002);
  });
});

describe('the queue', () => {
  it('cancels what is under way and keeps nothing of it', async () => {
    const shotId = await slidingBar(app, {
      widthPx: 1280,
      heightPx: 720,
      rate: { num: 24, den: 1 },
      lengthFrames: 500,
    });
    const id = await ask(app, shotId, { kind: 'png', firstFrame: 1, lastFrame: 500 });
    for (;;) {
      const progress = await stateOf(app, shotId, id);
      if (progress.state === 'running' && progress.done > 0) break;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    await fetch(`${app.url}/api/handoffs/${id}/cancel`, { method: 'POST' });
    expect(await finished(app, shotId, id)).toEqual({ state: 'cancelled' });
    expect((await fetch(`${app.url}/api/handoffs/${id}/file`)).status).toBe(409);
  });

  it('takes up again what a killed server left running', async () => {
    const shotId = await slidingBar(app, {
      widthPx: 64,
      heightPx: 36,
      rate: { num: 24, den: 1 },
      lengthFrames: 4,
    });
    const [shot] = await app.db.select().from(shots).where(eq(shots.id, shotId));
    const [left] = await app.db
      .insert(handoffs)
      .values({
        shotId,
        scene: shot!.scene,
        shotName: 'Left',
        // As the first version of the program wrote it.
        request: { kind: 'png-zip', firstFrame: 1, lastFrame: 4 } as unknown as HandoffRequest,
        progress: { state: 'running', done: 2, total: 4, rendered: 0, secondsLeft: null },
      })
      .returning();
    expect(await finished(app, shotId, left!.id)).toMatchObject({ state: 'done', total: 4 });
  });

  it('refuses frames past the end of the shot', async () => {
    const shotId = await slidingBar(app, {
      widthPx: 64,
      heightPx: 36,
      rate: { num: 24, den: 1 },
      lengthFrames: 4,
    });
    await expect(ask(app, shotId, { kind: 'png', firstFrame: 1, lastFrame: 5 })).rejects.toThrow(
      'The shot ends at frame 4',
    );
  });
});
