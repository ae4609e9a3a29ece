import { createHash } from 'node:crypto';
import { countRows, everyNamed, everySetUp } from '../../db/backup.ts';
import type { Database } from '../../db/connection/queryable.ts';
import { sceneOf } from '../../db/shots.ts';
import { causeOf } from '../../faults/cause.ts';
import { UsageFault } from '../usage-fault.ts';

/** Faults that are told one by one. */
const MOST_TOLD = 5;

/**
 * What is in a database beside what should be: rows by table, every set-up readable, every piece of art and every sound
 * what its name says. Rejects with UsageFault, which names what is wrong.
 */
export async function checkRestored(
  db: Database,
  rows: Readonly<Record<string, number>>,
  said: string,
): Promise<string> {
  const faults: string[] = [];
  const now = await countRows(db);
  for (const [table, count] of Object.entries(rows))
    if (now[table] !== count) faults.push(`${table} has ${now[table] ?? 0} rows of ${count}`);
  let named = 0;
  for await (const { id, bytes } of everyNamed(db)) {
    named += 1;
    if (createHash('sha256').update(bytes).digest('hex') !== id)
      faults.push(`what is kept as ${id} is something else`);
  }
  let setUps = 0;
  for await (const { of, scene } of everySetUp(db)) {
    setUps += 1;
    try {
      sceneOf(scene);
    } catch (error) {
      faults.push(`${of}: ${causeOf(error)}`);
    }
  }
  if (faults.length > 0) {
    const more = faults.length > MOST_TOLD ? `, and ${faults.length - MOST_TOLD} more` : '';
    throw new UsageFault(`${said}: not all is as it was: ${faults.slice(0, MOST_TOLD).join('; ')}${more}`);
  }
  return `${said}: restored and checked: ${setUps} set-ups, ${named} pieces of art and sounds`;
}
