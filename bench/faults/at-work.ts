import { pause } from './asking.ts';
import { faultsOf } from './check.ts';
import type { House } from './house.ts';
import { type Acknowledged, author, handOff, importer, meansSomething, newShot } from './people.ts';

const AUTHORS = ['ana', 'bo', 'cy'] as const;

export interface WorkReport {
  readonly edits: number;
  readonly art: number;
  readonly handoffs: number;
  readonly seconds: number;
  /** What was lost, half-way or left behind. */
  readonly faults: readonly string[];
}

/** Waits for something, unless somebody at work is refused meanwhile: then it rejects at once. */
export type Unrefused = <T>(work: Promise<T>) => Promise<T>;

/**
 * Three authors edit one shot, two bring pictures in and one hands off in an open house, while `happens` and until
 * what they got done means something; then everything that was acknowledged is looked for.
 */
export async function whileAtWork(
  house: House,
  happens: (unrefused: Unrefused) => Promise<void>,
): Promise<WorkReport> {
  const began = performance.now();
  const kept: Acknowledged = { edits: new Map(), art: new Map(), handoffs: [], waits: [] };
  const shot = await newShot(house, AUTHORS);
  let working = true;
  const goesOn = () => working;
  const people = Promise.all([
    ...AUTHORS.map((name) => author(house, shot, name, kept, goesOn)),
    importer(house, 1, kept, goesOn),
    importer(house, 2, kept, goesOn),
    handOff(house, shot, kept, goesOn),
  ]);
  const refused = people.then(
    () => new Promise<never>(() => {}),
    (error: unknown) => Promise.reject(error),
  );
  try {
    const unrefused: Unrefused = (work) => Promise.race([work, refused]);
    await happens(unrefused);
    do await unrefused(pause(1000));
    while (!meansSomething(kept));
  } finally {
    working = false;
  }
  await people;
  const faults = await faultsOf(house, shot, kept);
  const edits = [...kept.edits.values()].reduce((sum, of) => sum + of.length, 0);
  const seconds = (performance.now() - began) / 1000;
  return { edits, art: kept.art.size, handoffs: kept.handoffs.length, seconds, faults };
}
