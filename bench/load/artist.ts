import { randomUUID } from 'node:crypto';
import { revisionsSchema, shotSchema } from '@keen-ridge/core/contract';
import { withPlane } from '@keen-ridge/core/edits/planes';
import { differenceBetween } from '@keen-ridge/core/history';
import { planeIdSchema } from '@keen-ridge/core/scene';
import { reasonOf } from '@keen-ridge/core/units';
import sharp from 'sharp';
import type { Random } from '../../server/testing/mutations/random.ts';
import { ask, pause } from '../faults/asking.ts';

/** What was measured, ms. */
export interface Times {
  readonly edits: number[];
  readonly opens: number[];
  readonly imports: number[];
  readonly faults: string[];
  /** Names of planes and the depth that was acknowledged last, by shot. */
  readonly left: Map<string, { shot: string; depthSpx: number }>;
}

/** A drag is so many edits a second, for a second. */
const EDITS_OF_A_DRAG = 10;
const BETWEEN_EDITS_MS = 100;
/** How long an artist looks, plays and thinks between two drags, ms. */
const [LOOKS_MS, LOOKS_UP_TO_MS] = [1500, 6000];
const IMPORTS_EVERY = 20;
const HANDS_OFF_EVERY = 60;

async function timed<T>(times: number[], work: () => Promise<T>): Promise<T> {
  const began = performance.now();
  const done = await work();
  times.push(performance.now() - began);
  return done;
}

export interface Desk {
  readonly url: string;
  readonly shot: string;
  /** The plane that is this artist's own. */
  readonly plane: string;
}

/** Opens a shot, drags a plane, looks, brings art in and hands off now and then, until `goesOn` says no. */
export async function artist(
  { url, shot, plane }: Desk,
  random: Random,
  times: Times,
  goesOn: () => boolean,
): Promise<void> {
  const id = planeIdSchema.parse(plane);
  await pause(random.next() * LOOKS_UP_TO_MS);
  for (let turn = 1; goesOn(); turn++) {
    try {
      const opened = await timed(times.opens, async () => shotSchema.parse(await ask(url, `/shots/${shot}`)));
      let [scene, revision] = [opened.scene, opened.revision];
      for (let i = 0; i < EDITS_OF_A_DRAG; i++) {
        const due = performance.now() + BETWEEN_EDITS_MS;
        const depthSpx = Math.round(random.next() * 4000);
        const edited = withPlane(scene, id, (one) => ({ ...one, depthSpx }));
        const patch = differenceBetween(scene, edited);
        if (patch.length === 0) continue;
        const op = { kind: 'edit', action: 'set-depth', subject: plane, patch };
        const json = { opId: randomUUID(), revision, author: { id: plane, name: plane }, op };
        const answer = await timed(times.edits, () =>
          ask(url, `/shots/${shot}/ops`, { method: 'POST', json }),
        );
        revision = revisionsSchema.parse(answer).revisions.at(-1)?.revision ?? revision;
        scene = edited;
        times.left.set(plane, { shot, depthSpx });
        await pause(due - performance.now());
      }
      if (turn % IMPORTS_EVERY === random.below(IMPORTS_EVERY)) await bringIn(url, random, times);
      if (turn % HANDS_OFF_EVERY === random.below(HANDS_OFF_EVERY))
        await ask(url, `/shots/${shot}/handoffs`, {
          method: 'POST',
          json: { kind: 'png', firstFrame: 1, lastFrame: 4 },
        });
    } catch (error) {
      times.faults.push(reasonOf(error));
    }
    await pause(LOOKS_MS + random.next() * (LOOKS_UP_TO_MS - LOOKS_MS));
  }
}

async function bringIn(url: string, random: Random, times: Times): Promise<void> {
  const background = { r: random.below(256), g: random.below(256), b: random.below(256), alpha: 1 };
  const bytes = await sharp({ create: { width: 320, height: 200, channels: 4, background } })
    .png()
    .toBuffer();
  await timed(times.imports, () => ask(url, '/art?name=a.png', { method: 'POST', bytes }));
}
