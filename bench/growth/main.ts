import { artMemory, growth } from './growth.ts';

const ROUNDS = 2;

/** `npm run bench -- growth`: how the cost of a picture grows with planes, frames and px, and what loaded art takes. */
export async function benchGrowth(json: boolean): Promise<void> {
  const exponents = await growth(ROUNDS);
  const memory = {
    '60 planes of 3840 × 2160': await artMemory(60, 3840, 2160),
    'one of 24 000 × 4000': await artMemory(1, 24_000, 4000),
  };
  if (json) {
    console.log(JSON.stringify({ bench: 'growth', rounds: ROUNDS, exponents, memory }, null, 2));
    return;
  }
  const k = Object.entries(exponents).map(([name, value]) => `${name} ${value.toFixed(2)}`);
  console.log(`cost grows with the power of: ${k.join(', ')} (1 is linear)`);
  for (const [art, { arenaMib, processMib }] of Object.entries(memory))
    console.log(
      `memory of ${art}: ${arenaMib.toFixed(0)} MiB, the process with a frame ${processMib.toFixed(0)} MiB`,
    );
}
