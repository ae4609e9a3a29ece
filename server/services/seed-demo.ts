import { DEMO_PRODUCTION, DEMO_SHOT, demoScene, paintDemo } from '@keen-ridge/demo';
import { eq } from 'drizzle-orm';
import type { Database } from '../db/database.ts';
import { facts, productions, shots } from '../db/schema.ts';
import { keepArt } from '../storage/art-store.ts';
import { readArtFile } from './read-art.ts';

const SEEDED = 'demo-seeded';

/** Puts the demo production on the wall, once: deleting it later does not bring it back. */
export async function seedDemo(db: Database): Promise<void> {
  const [seeded] = await db.select().from(facts).where(eq(facts.key, SEEDED));
  if (seeded) return;
  const { fileName, bytes } = await paintDemo();
  const read = await readArtFile(fileName, bytes);
  if (!read.ok) throw new Error(`The demo painting cannot be read: ${read.error.detail}`);
  await db.transaction(async (tx) => {
    const first = await tx
      .insert(facts)
      .values({ key: SEEDED, value: 'yes' })
      .onConflictDoNothing()
      .returning();
    if (first.length === 0) return;
    for (const { art, png } of read.value.layers) await keepArt(tx, art, png);
    const [production] = await tx.insert(productions).values({ name: DEMO_PRODUCTION }).returning();
    await tx
      .insert(shots)
      .values({ productionId: production!.id, name: DEMO_SHOT, scene: demoScene(read.value.layers) });
  });
}
