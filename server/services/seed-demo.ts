import { paintedLayers } from '@keen-ridge/core/contract';
import { DEMO_PRODUCTION, DEMO_SHOT, demoScene, paintDemo } from '@keen-ridge/demo';
import { eq } from 'drizzle-orm';
import { collectImages } from '../art/collect.ts';
import type { ImageSink } from '../art/keep-image.ts';
import { readArtFile } from '../art/read-art.ts';
import type { Database } from '../db/database.ts';
import { facts, productions, shots } from '../db/schema.ts';
import { keepArt } from '../storage/art-store.ts';
import type { LevelsFiles } from '../storage/levels-file.ts';

const SEEDED = 'demo-seeded';

/** Puts the demo production on the wall, once: deleting it later does not bring it back. */
export async function seedDemo(db: Database, levels: LevelsFiles): Promise<void> {
  const [seeded] = await db.select().from(facts).where(eq(facts.key, SEEDED));
  if (seeded) return;
  const { fileName, bytes } = await paintDemo();
  const { sink, images } = collectImages();
  const withLevels: ImageSink = { ...sink, pixels: (artId, image) => levels.write(artId, image) };
  const read = await readArtFile(fileName, bytes, { sink: withLevels });
  if (!read.ok) throw new Error(`The demo painting cannot be read: ${read.error.detail}`);
  const layers = read.value.flatMap((painting) => paintedLayers(painting, { num: 24, den: 1 }));
  await db.transaction(async (tx) => {
    const first = await tx
      .insert(facts)
      .values({ key: SEEDED, value: 'yes' })
      .onConflictDoNothing()
      .returning();
    if (first.length === 0) return;
    for (const { image, png } of images.values()) await keepArt(tx, image.art, image.look, png);
    const [production] = await tx.insert(productions).values({ name: DEMO_PRODUCTION }).returning();
    await tx
      .insert(shots)
      .values({ productionId: production!.id, name: DEMO_SHOT, scene: demoScene(layers) });
  });
}
