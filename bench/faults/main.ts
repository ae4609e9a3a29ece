import type { WorkReport } from './at-work.ts';
import { setClockBack } from './clocks.ts';
import { breakDisks, disksCanBeMade } from './disks.ts';
import { killAtRandom } from './kills.ts';

const numberOf = (text: string | undefined, usual: number): number =>
  text === undefined ? usual : Number(text);

const timesOf = (counts: Readonly<Record<string, number>>): string =>
  Object.entries(counts)
    .map(([what, times]) => `${times} × ${what}`)
    .join(', ');

/**
 * Kills at random moments (KEEN_RIDGE_KILLS and KEEN_RIDGE_SEED say how many and which), a clock that is set, and disks
 * that are full or cannot be written, where they can be made; all of it while people work.
 */
export async function benchFaults(json: boolean): Promise<void> {
  const count = numberOf(process.env.KEEN_RIDGE_KILLS, 20);
  const seed = numberOf(process.env.KEEN_RIDGE_SEED, 1);
  const say = json ? undefined : (line: string) => console.log(line);
  const tell = (what: string, { edits, art, handoffs, seconds, faults }: WorkReport) => {
    say?.(
      `faults: ${what} in ${seconds.toFixed(0)} s; ${edits} edits, ${art} pictures and ${handoffs} hand-offs were acknowledged; ${
        faults.length === 0 ? 'nothing was lost, half-way or left behind' : faults.join('; ')
      }`,
    );
  };
  const kills = await killAtRandom({ count, seed }, say);
  tell(`kills (${timesOf(kills.kills)})`, kills);
  const clock = await setClockBack();
  tell('a clock set back by an hour and forward by two', clock);
  const disks = disksCanBeMade() ? await breakDisks(2, say) : null;
  if (disks) tell(`disks (${timesOf(disks.rounds)})`, disks);
  else say?.('Disks that break can be made by root alone: not tried.');
  if (json) console.log(JSON.stringify({ kills, clock, disks }, null, 2));
}
