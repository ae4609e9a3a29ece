import { paintedLayers } from '@keen-ridge/core/art/landing';
import { type Handoff, type HandoffAsked, handoffListSchema } from '@keen-ridge/core/contract';
import { createdSchema } from '@keen-ridge/core/contract/wall';
import { planeFromLayer } from '@keen-ridge/core/edits/art';
import { setCamera } from '@keen-ridge/core/edits/keys';
import { addPlanes } from '@keen-ridge/core/edits/planes';
import { type NewScene, newScene, planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { keysOf, recordOf } from '@keen-ridge/core/scene/records';
import { EASE_PRESETS } from '@keen-ridge/core/timing';
import { eq } from 'drizzle-orm';
import { collectImages } from '../art/collect.ts';
import { readArtFile } from '../art/read-art.ts';
import { keepArt } from '../db/art.ts';
import { shots } from '../db/schema.ts';
import { makeProduction, makeShot } from '../db/wall.ts';
import { solidPng } from './art.ts';
import type { TestApp } from './test-app.ts';

export const TWELVE = { widthPx: 96, heightPx: 64, rate: { num: 24, den: 1 }, lengthFrames: 12 } as const;

/** A white bar 8 px wide that an even pan slides 2 px a frame to the left, on nothing. */
export const slidingBar = async (
  app: TestApp,
  size: NewScene,
  colour = { r: 255, g: 255, b: 255 },
): Promise<string> => slidingPicture(app, size, await solidPng(8, 60, colour));

/** A picture in the middle of the frame at first, that an even pan slides 2 px a frame to the left, on nothing. */
export async function slidingPicture(app: TestApp, size: NewScene, png: Uint8Array): Promise<string> {
  const { sink, images } = collectImages();
  const read = await readArtFile('bar.png', png, { sink });
  if (!read.ok) throw new Error(read.error.detail);
  for (const { image } of images.values()) await keepArt(app.db, image.art, image.likeness, png);
  const [layer] = paintedLayers(read.value[0]!, size.rate);
  const plane = planeFromLayer(planeIdSchema.parse('bar'), layer!);
  const staged = addPlanes(newScene(size), [plane]);
  const last = size.lengthFrames;
  const keyed = setCamera(
    setCamera(staged, { panX: 0 }, { frame: 1, keying: true }),
    { panX: 2 * (last - 1) },
    { frame: last, keying: true },
  );
  const keys = keysOf(keyed.camera.panX).map((key) => ({ ...key, ease: EASE_PRESETS.linear }));
  const scene: Scene = { ...keyed, camera: { ...keyed.camera, panX: recordOf({ value: 0, keys }) } };
  const production = await makeProduction(app.db, 'Test');
  const id = await makeShot(app.db, production, { name: 'Bar / 1', ...size, rate: { ...size.rate } });
  await app.db.update(shots).set({ scene }).where(eq(shots.id, id));
  return id;
}

export async function changeScene(
  app: TestApp,
  shotId: string,
  change: (scene: Scene) => Scene,
): Promise<void> {
  const [shot] = await app.db.select().from(shots).where(eq(shots.id, shotId));
  await app.db
    .update(shots)
    .set({ scene: change(shot!.scene) })
    .where(eq(shots.id, shotId));
}

export async function ask(app: TestApp, shotId: string, request: HandoffAsked): Promise<string> {
  const response = await fetch(`${app.url}/api/shots/${shotId}/handoffs`, {
    method: 'POST',
    body: JSON.stringify(request),
    headers: { 'Content-Type': 'application/json' },
  });
  if (!response.ok) throw new Error(await response.text());
  return createdSchema.parse(await response.json()).id;
}

export async function handoffOf(app: TestApp, shotId: string, id: string): Promise<Handoff> {
  const { handoffs } = handoffListSchema.parse(
    await (await fetch(`${app.url}/api/shots/${shotId}/handoffs`)).json(),
  );
  const found = handoffs.find((handoff) => handoff.id === id);
  if (!found) throw new Error(`No hand-off ${id}`);
  return found;
}

export const stateOf = async (app: TestApp, shotId: string, id: string) =>
  (await handoffOf(app, shotId, id)).progress;

export const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

export async function finished(app: TestApp, shotId: string, id: string) {
  for (;;) {
    const progress = await stateOf(app, shotId, id);
    if (progress.state !== 'queued' && progress.state !== 'running') return progress;
    await pause(50);
  }
}

export async function underWay(app: TestApp, shotId: string, id: string, frames = 1): Promise<void> {
  for (;;) {
    const progress = await stateOf(app, shotId, id);
    if (progress.state === 'running' && progress.done >= frames) return;
    if (progress.state !== 'queued' && progress.state !== 'running')
      throw new Error(`It is over already: ${JSON.stringify(progress)}`);
    await pause(20);
  }
}

export const download = async (app: TestApp, id: string): Promise<Uint8Array> =>
  new Uint8Array(await (await fetch(`${app.url}/api/handoffs/${id}/file`)).arrayBuffer());
