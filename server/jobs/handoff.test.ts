import { spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  createdSchema,
  type HandoffRequest,
  handoffListSchema,
  paintedLayers,
} from '@keen-ridge/core/contract';
import {
  addPlanes,
  type NewScene,
  newScene,
  planeFromLayer,
  planeIdSchema,
  type Scene,
  setCamera,
} from '@keen-ridge/core/document';
import { EASE_PRESETS } from '@keen-ridge/core/timing';
import { eq } from 'drizzle-orm';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { collectImages } from '../art/collect.ts';
import { readArtFile } from '../art/read-art.ts';
import { handoffs, shots } from '../db/schema.ts';
import { makeProduction, makeShot } from '../services/wall.ts';
import { keepArt } from '../storage/art-store.ts';
import { solidPng } from '../testing/art.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';

let app: TestApp;
beforeAll(async () => {
  app = await startTestApp();
});
afterAll(() => app.close());

/** A white bar 8 px wide that an even pan slides 2 px a frame to the left, on nothing. */
async function slidingBar(size: NewScene): Promise<string> {
  const png = await solidPng(8, 60, { r: 255, g: 255, b: 255 });
  const { sink, images } = collectImages();
  const read = await readArtFile('bar.png', png, { sink });
  if (!read.ok) throw new Error(read.error.detail);
  for (const { image } of images.values()) await keepArt(app.db, image.art, image.look, png);
  const [layer] = paintedLayers(read.value[0]!, size.rate);
  const plane = planeFromLayer(planeIdSchema.parse('bar'), layer!);
  const staged = addPlanes(newScene(size), [plane]);
  const last = size.lengthFrames;
  const keyed = setCamera(
    setCamera(staged, { panX: 0 }, { frame: 1, keying: true }),
    { panX: 2 * (last - 1) },
    { frame: last, keying: true },
  );
  const keys = keyed.camera.panX.keys.map((key) => ({ ...key, ease: EASE_PRESETS.linear }));
  const scene: Scene = { ...keyed, camera: { ...keyed.camera, panX: { ...keyed.camera.panX, keys } } };
  const production = await makeProduction(app.db, 'Test');
  const id = await makeShot(app.db, production, { name: 'Bar / 1', ...size, rate: { ...size.rate } });
  await app.db.update(shots).set({ scene }).where(eq(shots.id, id));
  return id;
}

async function ask(shotId: string, request: HandoffRequest): Promise<string> {
  const response = await fetch(`${app.url}/api/shots/${shotId}/handoffs`, {
    method: 'POST',
    body: JSON.stringify(request),
    headers: { 'Content-Type': 'application/json' },
  });
  if (!response.ok) throw new Error(await response.text());
  return createdSchema.parse(await response.json()).id;
}
const stateOf = async (shotId: string, id: string) => {
  const { handoffs: list } = handoffListSchema.parse(
    await (await fetch(`${app.url}/api/shots/${shotId}/handoffs`)).json(),
  );
  const found = list.find((handoff) => handoff.id === id);
  if (!found) throw new Error(`No hand-off ${id}`);
  return found.progress;
};
async function finished(shotId: string, id: string) {
  for (;;) {
    const progress = await stateOf(shotId, id);
    if (progress.state !== 'queued' && progress.state !== 'running') return progress;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}
const download = async (id: string) =>
  new Uint8Array(await (await fetch(`${app.url}/api/handoffs/${id}/file`)).arrayBuffer());

describe('PNG frames', () => {
  it('are numbered, in order, clear where nothing stands, and show the move', async () => {
    const shotId = await slidingBar({
      widthPx: 96,
      heightPx: 64,
      rate: { num: 24, den: 1 },
      lengthFrames: 12,
    });
    const id = await ask(shotId, { kind: 'png-zip', firstFrame: 3, lastFrame: 7 });
    expect(await finished(shotId, id)).toMatchObject({ state: 'done', total: 5, fileName: 'Bar_1_3-7.zip' });
    const files = unzipSync(await download(id));
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
    const shotId = await slidingBar({ widthPx: 97, heightPx: 65, rate, lengthFrames: 9 });
    const id = await ask(shotId, { kind: 'webm', firstFrame: 1, lastFrame: 9 });
    expect(await finished(shotId, id)).toMatchObject({ state: 'done', total: 9 });
    const path = join(app.folder, 'film.webm');
    writeFileSync(path, await download(id));
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
    const shotId = await slidingBar({
      widthPx: 1280,
      heightPx: 720,
      rate: { num: 24, den: 1 },
      lengthFrames: 500,
    });
    const id = await ask(shotId, { kind: 'png-zip', firstFrame: 1, lastFrame: 500 });
    for (;;) {
      const progress = await stateOf(shotId, id);
      if (progress.state === 'running' && progress.done > 0) break;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    await fetch(`${app.url}/api/handoffs/${id}/cancel`, { method: 'POST' });
    expect(await finished(shotId, id)).toEqual({ state: 'cancelled' });
    expect((await fetch(`${app.url}/api/handoffs/${id}/file`)).status).toBe(409);
  });

  it('takes up again what a killed server left running', async () => {
    const shotId = await slidingBar({
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
        request: { kind: 'png-zip', firstFrame: 1, lastFrame: 4 },
        progress: { state: 'running', done: 2, total: 4 },
      })
      .returning();
    await app.runner.start();
    expect(await finished(shotId, left!.id)).toMatchObject({ state: 'done', total: 4 });
  });

  it('refuses frames past the end of the shot', async () => {
    const shotId = await slidingBar({
      widthPx: 64,
      heightPx: 36,
      rate: { num: 24, den: 1 },
      lengthFrames: 4,
    });
    await expect(ask(shotId, { kind: 'png-zip', firstFrame: 1, lastFrame: 5 })).rejects.toThrow(
      'The shot ends at frame 4',
    );
  });
});
