import { mutateFiles, type Outcome } from '../../server/testing/mutations/run.ts';
import { startProgram } from '../interact/program.ts';

const numberOf = (text: string | undefined, usual: number): number =>
  text === undefined ? usual : Number(text);

/** Files that are nearly right, sent to the real program; KEEN_RIDGE_MUTATIONS and KEEN_RIDGE_SEED say how many and which. */
export async function benchMutations(json: boolean): Promise<void> {
  const count = numberOf(process.env.KEEN_RIDGE_MUTATIONS, 10_000);
  const seed = numberOf(process.env.KEEN_RIDGE_SEED, 1);
  const program = await startProgram();
  const outcomes: Outcome[] = [];
  try {
    await mutateFiles(program.url, { count, seed, abreast: 4 }, (one) => {
      outcomes.push(one);
      if (!json && outcomes.length % 5000 === 0) console.log(`${outcomes.length}/${count}`);
    });
  } finally {
    await program.stop();
  }
  const faults = outcomes.filter(({ fault }) => fault !== null);
  const told = {
    sent: outcomes.length,
    taken: outcomes.filter(({ status }) => status >= 200 && status < 300).length,
    slowestMs: Math.round(Math.max(...outcomes.map(({ ms }) => ms))),
    faults,
  };
  if (json) console.log(JSON.stringify(told, null, 2));
  else {
    console.log(
      `mutations: ${told.sent} files, ${told.taken} taken, the slowest ${told.slowestMs} ms, ${faults.length} faults`,
    );
    for (const { seed: of, name, fault } of faults.slice(0, 40))
      console.log(`  ${name} of seed ${of}: ${fault}`);
  }
}
