import { Random } from '../../server/testing/mutations/random.ts';
import { pause } from './asking.ts';
import { type WorkReport, whileAtWork } from './at-work.ts';
import { House, VICTIMS, type Victim } from './house.ts';

export interface KillReport extends WorkReport {
  readonly kills: Readonly<Record<Victim, number>>;
}

/** While people work a process of the program is killed at random moments, `count` times. */
export async function killAtRandom(
  { count, seed }: { readonly count: number; readonly seed: number },
  say: (line: string) => void = () => {},
): Promise<KillReport> {
  const random = new Random(seed);
  const house = new House();
  const kills: Record<Victim, number> = { server: 0, worker: 0, database: 0, connection: 0 };
  try {
    await house.open();
    const report = await whileAtWork(house, async (unrefused) => {
      for (let i = 0; i < count; i++) {
        await unrefused(pause(200 + random.next() * 1800));
        const victim = random.pick(VICTIMS);
        kills[victim] += 1;
        await unrefused(house.kill(victim, () => random.next()));
        say(`${i + 1}/${count}: ${victim}`);
      }
    });
    return { ...report, kills };
  } finally {
    await house.close();
  }
}
