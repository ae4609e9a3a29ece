import { killAtRandom } from './kills.ts';

const numberOf = (text: string | undefined, usual: number): number =>
  text === undefined ? usual : Number(text);

/** Kills at random moments; KEEN_RIDGE_KILLS and KEEN_RIDGE_SEED say how many and which. */
export async function benchFaults(json: boolean): Promise<void> {
  const count = numberOf(process.env.KEEN_RIDGE_KILLS, 40);
  const seed = numberOf(process.env.KEEN_RIDGE_SEED, 1);
  const report = await killAtRandom({ count, seed }, json ? undefined : (line) => console.log(line));
  if (json) {
    console.log(JSON.stringify(report, null, 2));
    return;
  }
  const { kills, edits, art, handoffs, seconds, faults } = report;
  console.log(
    `faults: ${count} kills (${Object.entries(kills)
      .map(([what, times]) => `${times} of the ${what}`)
      .join(
        ', ',
      )}) in ${seconds.toFixed(0)} s; ${edits} edits, ${art} pictures and ${handoffs} hand-offs were acknowledged`,
  );
  console.log(faults.length === 0 ? 'nothing was lost, half-way or left behind' : faults.join('\n'));
}
