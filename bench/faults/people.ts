import { randomUUID } from 'node:crypto';
import { importedArtSchema } from '@keen-ridge/core/art/landing';
import { handoffListSchema, revisionsSchema, shotSchema } from '@keen-ridge/core/contract';
import { createdSchema } from '@keen-ridge/core/contract/wall';
import { addCard } from '@keen-ridge/core/edits/art';
import { setCamera } from '@keen-ridge/core/edits/keys';
import { renamePlane } from '@keen-ridge/core/edits/planes';
import { differenceBetween, type Patch } from '@keen-ridge/core/history';
import { planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import sharp from 'sharp';
import { ask, pause, Refused, untilAnswered } from './asking.ts';

/** A server as somebody reaches it. */
export interface Reached {
  readonly url: string;
}

export const FRAMES = 12;

/** A shot with a card for each author and one that a pan slides by. */
export async function newShot(house: Reached, authors: readonly string[]): Promise<string> {
  const production = createdSchema.parse(
    await ask(house.url, '/productions', { method: 'POST', json: { name: 'P' } }),
  ).id;
  const size = { widthPx: 160, heightPx: 90, rate: { num: 24, den: 1 }, lengthFrames: FRAMES };
  const json = { name: 'S', ...size };
  const { id } = createdSchema.parse(
    await ask(house.url, `/productions/${production}/shots`, { method: 'POST', json }),
  );
  const { scene, revision } = shotSchema.parse(await ask(house.url, `/shots/${id}`));
  const stops = [
    { at: 0, colour: '#102040', opacity: 1 },
    { at: 1, colour: '#f0d0a0', opacity: 1 },
  ];
  const paint = { kind: 'linear', angleDeg: 90, space: 'srgb', stops } as const;
  const carded = authors.reduce(
    (made: Scene, name, i) =>
      addCard(made, { id: planeIdSchema.parse(name), name: `${name} 0`, paint, depthSpx: i * 50 }),
    scene,
  );
  const from = setCamera(carded, { panX: 0 }, { frame: 1, keying: true });
  const moved = setCamera(from, { panX: 60 }, { frame: FRAMES, keying: true });
  await send(house, id, revision, {
    name: authors[0]!,
    opId: randomUUID(),
    patch: differenceBetween(scene, moved),
  });
  return id;
}

const send = async (
  house: Reached,
  shot: string,
  revision: number,
  { name, opId, patch }: { name: string; opId: string; patch: Patch },
) => {
  const op = { kind: 'edit', action: 'rename-plane', subject: name, patch };
  const json = { opId, revision, author: { id: name, name }, op };
  return revisionsSchema.parse(await ask(house.url, `/shots/${shot}/ops`, { method: 'POST', json }))
    .revisions;
};

/** What was acknowledged to somebody, and what must therefore be there at the end. */
export interface Acknowledged {
  /** Ops by author, oldest first. */
  readonly edits: Map<string, { opId: string; name: string }[]>;
  readonly art: Map<string, string>;
  readonly handoffs: string[];
  /** Milliseconds from an edit to its answer, where nothing was killed in between. */
  readonly waits: number[];
}

/** Whether people got enough done for a fault to have had something to take: however slow the machine is. */
export const meansSomething = (kept: Acknowledged): boolean =>
  [...kept.edits.values()].every((of) => of.length > 10) && kept.art.size > 5 && kept.handoffs.length > 0;

/** Renames a plane of their own again and again, each edit sent until it is answered. */
export async function author(
  house: Reached,
  shot: string,
  name: string,
  kept: Acknowledged,
  goesOn: () => boolean,
): Promise<void> {
  const mine: { opId: string; name: string }[] = [];
  kept.edits.set(name, mine);
  let shotNow = await untilAnswered(
    async () => shotSchema.parse(await ask(house.url, `/shots/${shot}`)),
    goesOn,
  );
  for (let count = 1; goesOn() && shotNow; count++) {
    const wanted = `${name} ${count}`;
    const { scene, revision } = shotNow;
    const edited = renamePlane(scene, planeIdSchema.parse(name), wanted);
    const edit = { name, opId: randomUUID(), patch: differenceBetween(scene, edited) };
    const began = performance.now();
    const taken = await untilAnswered(
      () => send(house, shot, revision, edit),
      () => true,
    );
    if (!taken) return;
    kept.waits.push(performance.now() - began);
    mine.push({ opId: edit.opId, name: wanted });
    // Only one's own plane is named by one: what others did to theirs does not matter to the next edit.
    shotNow = { ...shotNow, scene: edited, revision: taken.at(-1)?.revision ?? revision };
    await pause(60);
  }
}

/** Brings in pictures that nobody has brought in before. */
export async function importer(
  house: Reached,
  seed: number,
  kept: Acknowledged,
  goesOn: () => boolean,
): Promise<void> {
  for (let count = 0; goesOn(); count++) {
    const [r, g] = [(seed * 7 + count) % 256, (count * 13) % 256];
    const background = { r, g, b: seed % 256, alpha: 1 };
    const png = await sharp({ create: { width: 64, height: 48, channels: 4, background } })
      .png()
      .toBuffer();
    try {
      const answer = await ask(house.url, `/art?name=a${count}.png`, { method: 'POST', bytes: png });
      for (const { nodes } of importedArtSchema.parse(answer).paintings)
        for (const node of nodes)
          if (node.kind === 'layer') kept.art.set(node.art.id, JSON.stringify(background));
    } catch (error) {
      // What was not answered may be there or not; nothing was promised.
      if (error instanceof Refused) throw error;
    }
    await pause(200);
  }
}

/** Hands off, one after another, and waits for none. */
export async function handOff(
  house: Reached,
  shot: string,
  kept: Acknowledged,
  goesOn: () => boolean,
): Promise<void> {
  while (goesOn()) {
    try {
      const json = { kind: 'png', firstFrame: 1, lastFrame: FRAMES };
      kept.handoffs.push(
        createdSchema.parse(await ask(house.url, `/shots/${shot}/handoffs`, { method: 'POST', json })).id,
      );
    } catch (error) {
      if (error instanceof Refused) throw error;
    }
    await pause(2500);
  }
}

export const handoffsOf = async (house: Reached, shot: string) =>
  handoffListSchema.parse(await ask(house.url, `/shots/${shot}/handoffs`)).handoffs;
