import { Random } from '../../server/testing/mutations/random.ts';
import { pause } from './asking.ts';
import { faultsOf } from './check.ts';
import { House, VICTIMS, type Victim } from './house.ts';
import { type Acknowledged, author, handOff, importer, newShot } from './people.ts';

const AUTHORS = ['ana', 'bo', 'cy'] as const;

export interface KillReport {
  readonly kills: Readonly<Record<Victim, number>>;
  readonly edits: number;
  readonly art: number;
  readonly handoffs: number;
  readonly seconds: number;
  /** What was lost, half-way or left behind. */
  readonly faults: readonly string[];
}

/**
 * Three authors edit one shot, two bring pictures in and one hands off, while a process of the program is killed at random
 * moments, `count` times; then everything that was acknowledged is looked for.
 */
export async function killAtRandom(
  { count, seed }: { readonly count: number; readonly seed: number },
  say: (line: string) => void = () => {},
): Promise<KillReport> {
  const random = new Random(seed);
  const house = new House();
  const began = performance.now();
  const kills: Record<Victim, number> = { server: 0, worker: 0, database: 0, connection: 0 };
  const kept: Acknowledged = { edits: new Map(), art: new Map(), handoffs: [], waits: [] };
  try {
    await house.open();
    const shot = await newShot(house, AUTHORS);
    let working = true;
    const goesOn = () => working;
    const people = Promise.all([
      ...AUTHORS.map((name) => author(house, shot, name, kept, goesOn)),
      importer(house, 1, kept, goesOn),
      importer(house, 2, kept, goesOn),
      handOff(house, shot, kept, goesOn),
    ]);
    // Whoever is refused ends all of it at once.
    const refused = people.then(
      () => new Promise<never>(() => {}),
      (error: unknown) => Promise.reject(error),
    );
    for (let i = 0; i < count; i++) {
      await Promise.race([pause(200 + random.next() * 1800), refused]);
      const victim = random.pick(VICTIMS);
      kills[victim] += 1;
      await Promise.race([house.kill(victim, () => random.next()), refused]);
      say(`${i + 1}/${count}: ${victim}`);
    }
    await pause(1000);
    working = false;
    await people;
    const faults = await faultsOf(house, shot, kept);
    const edits = [...kept.edits.values()].reduce((sum, of) => sum + of.length, 0);
    const seconds = (performance.now() - began) / 1000;
    return { kills, edits, art: kept.art.size, handoffs: kept.handoffs.length, seconds, faults };
  } finally {
    await house.close();
  }
}
