import { asPaintings, type ImportedPainting, paintedLayers } from '@keen-ridge/core/art/landing';
import { type PaintedLayer, planeFromLayer } from '@keen-ridge/core/edits/art';
import { planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import {
  CART_PLACES,
  CART_SHOT,
  type CartArt,
  cartScene,
  DEMO_PRODUCTION,
  DEMO_SHOT,
  type DemoFile,
  demoScene,
  lampFlicker,
  NET_LOFT_SHOT,
  netLoftScene,
  paintCartFiles,
  paintDemo,
  paintRailwayFiles,
  RAILWAY_SHOT,
  railwayScene,
} from '@keen-ridge/demo';
import { collectImages } from '../art/collect.ts';
import type { ImageSink } from '../art/keep-image.ts';
import { readArtFile } from '../art/read-art.ts';
import { keepArt } from '../db/art.ts';
import type { Database } from '../db/connection/queryable.ts';
import { isKnown, noteOnce } from '../db/facts.ts';
import { insertPiece } from '../db/kept/shelf.ts';
import { insertShot, productionCalled } from '../db/wall.ts';
import type { LevelsFiles } from '../storage/levels-file.ts';

const RATE = { num: 24, den: 1 };
const SEEDED = 'demo-seeded';
/** The other shots came with later versions: a wall that was seeded before gets them too. */
const SEEDED_RAILWAY = 'demo-railway-seeded';

const SEEDED_CART = 'demo-cart-seeded';
const SEEDED_NET_LOFT = 'demo-net-loft-seeded';

/** Puts the demo production on the wall, each shot once: deleting it later does not bring it back. */
export async function seedDemo(db: Database, levels: LevelsFiles): Promise<void> {
  await seedOnce(db, SEEDED, () => readQuay(levels), DEMO_SHOT);
  await seedOnce(db, SEEDED_RAILWAY, () => readRailway(levels), RAILWAY_SHOT);
  await seedOnce(db, SEEDED_CART, () => readCart(levels), CART_SHOT);
  await seedOnce(db, SEEDED_NET_LOFT, () => readNetLoft(levels), NET_LOFT_SHOT);
}

interface DemoShot {
  readonly scene: Scene;
  readonly images: ReturnType<typeof collectImages>['images'];
  readonly shelf?: PaintedLayer;
}

async function seedOnce(
  db: Database,
  key: string,
  make: () => Promise<DemoShot>,
  name: string,
): Promise<void> {
  if (await isKnown(db, key)) return;
  const { scene, images, shelf } = await make();
  await db.transaction(async (tx) => {
    if (!(await noteOnce(tx, key))) return;
    for (const { image, png } of images.values()) await keepArt(tx, image.art, image.likeness, png);
    // Null where the artist has deleted the production since.
    const productionId = await productionCalled(tx, DEMO_PRODUCTION);
    if (!productionId) return;
    await insertShot(tx, { productionId, name, scene });
    if (!shelf) return;
    const { content } = planeFromLayer(planeIdSchema.parse('shelf'), shelf);
    await insertPiece(tx, { productionId, name: shelf.name, content, from: name });
  });
}

/** Reads demo files into `images`, with their levels made beside. */
function reader(levels: LevelsFiles) {
  const { sink, images } = collectImages();
  const withLevels: ImageSink = { ...sink, pixels: (artId, image) => levels.write(artId, image) };
  const read = async ({ fileName, bytes }: DemoFile): Promise<ImportedPainting[]> => {
    const result = await readArtFile(fileName, bytes, { sink: withLevels });
    if (!result.ok) throw new Error(`The demo file ${fileName} cannot be read: ${result.error.detail}`);
    return asPaintings(result.value, RATE);
  };
  return { images, read };
}

const layersOf = (paintings: readonly ImportedPainting[]): PaintedLayer[] =>
  paintings.flatMap((painting) => paintedLayers(painting, RATE));

async function readQuay(levels: LevelsFiles): Promise<DemoShot> {
  const { images, read } = reader(levels);
  return { images, scene: demoScene(layersOf(await read(await paintDemo()))) };
}

/** Staged of two layers of the quay and of shapes that stand for paint to come. */
async function readNetLoft(levels: LevelsFiles): Promise<DemoShot> {
  const { images, read } = reader(levels);
  return { images, scene: netLoftScene(layersOf(await read(await paintDemo()))) };
}

async function readRailway(levels: LevelsFiles): Promise<DemoShot> {
  const { images, read } = reader(levels);
  const { psd, lamp, pine } = await paintRailwayFiles();
  const layers = layersOf(await read(psd));
  const [light] = layersOf(await read(lamp));
  const [tree] = layersOf(await read(pine));
  if (!light || !tree) throw new Error('The demo art of the railway is incomplete');
  const shelf = { ...tree, name: 'Pine' };
  return { images, scene: railwayScene({ layers, flicker: lampFlicker(light), pine: shelf }), shelf };
}

async function readCart(levels: LevelsFiles): Promise<DemoShot> {
  const { images, read } = reader(levels);
  const files = await paintCartFiles();
  const strips = layersOf(await read(files.strips));
  const [cart] = layersOf(await read(files.cart));
  const [pony] = layersOf(await read(files.pony));
  const [wheels] = layersOf(await read(files.wheels));
  if (!cart || !pony || !wheels) throw new Error('The demo art of the mail cart is incomplete');
  return { images, scene: cartScene(cartArt(strips, { cart, pony, wheels })) };
}

/** The pieces in their places; the pony walks on twos. */
function cartArt(
  strips: readonly PaintedLayer[],
  { cart, pony, wheels }: Pick<CartArt, 'cart' | 'pony' | 'wheels'>,
): CartArt {
  const steps = (pony.moving?.exposures ?? []).map((exposure) => ({ ...exposure, hold: 2 }));
  return {
    strips,
    cart: { ...cart, name: 'Mail cart', ...CART_PLACES.cart },
    pony: { ...pony, name: 'Pony', moving: { exposures: steps, rate: null }, ...CART_PLACES.pony },
    wheels: { ...wheels, name: 'Wheels', ...CART_PLACES.wheels },
  };
}
