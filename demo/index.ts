import { createHash } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { PaintedLayer } from '@keen-ridge/core/edits/art';
import { CART, cart, PONY, ponyDrawings, WHEEL, wheelDrawings } from './cart/pony.ts';
import { paintStrips } from './cart/strips.ts';
import { pngOf, toOpenRaster, zipOfDrawings } from './paint/openraster.ts';
import { paintLayers } from './paint-demo.ts';
import { FLICKER, flicker } from './railway/car.ts';
import { pine } from './railway/pine.ts';
import { paintRailway, RAILWAY } from './railway/psd.ts';

export { CART_SHOT, type CartArt, cartScene } from './cart/stage.ts';
export { NET_LOFT_SHOT, netLoftScene } from './net-loft/stage.ts';
export { RAILWAY_SHOT, type RailwayArt, railwayScene } from './railway/stage.ts';
export { DEMO_PRODUCTION, DEMO_SHOT, demoScene } from './stage-demo.ts';

/** The lamp of 020 as it flickers: each of its drawings held on threes, over the car where it lies in the painting. */
export const lampFlicker = (light: PaintedLayer): PaintedLayer => ({
  ...light,
  name: 'Lamp flicker',
  group: 'Railway',
  moving: {
    exposures: (light.moving?.exposures ?? []).map((exposure) => ({ ...exposure, hold: 3 })),
    rate: null,
  },
  xPx: FLICKER.x,
  yPx: FLICKER.y,
  paintingWidthPx: RAILWAY.widthPx,
  paintingHeightPx: RAILWAY.heightPx,
});

const HERE = fileURLToPath(new URL('.', import.meta.url));
/** Files of no stroke: a change of the staging alone needs no new painting. */
const UNPAINTED = new Set(['stage-demo.ts', 'stage.ts', 'left-so.ts', 'demo.test.ts', 'index.ts']);
const CACHE = join(HERE, '../.cache/demo');
export const DEMO_FILE = 'quay-at-lamp-lighting.ora';

/** Changes with every line of the painting's script, so that a repainted demo is never served from the cache. */
function fingerprint(): string {
  const hash = createHash('sha256');
  for (const folder of ['.', 'paint', 'layers', 'railway', 'cart']) {
    for (const name of readdirSync(join(HERE, folder)).sort()) {
      if (name.endsWith('.ts') && !UNPAINTED.has(name)) hash.update(readFileSync(join(HERE, folder, name)));
    }
  }
  return hash.digest('hex').slice(0, 16);
}

/** What `make` paints, from the cache where this very script has painted it before. */
async function painted(extension: string, make: () => Promise<Uint8Array>): Promise<Uint8Array> {
  const path = join(CACHE, `${fingerprint()}.${extension}`);
  try {
    return new Uint8Array(readFileSync(path));
  } catch (error) {
    if (!(error instanceof Error && 'code' in error && error.code === 'ENOENT')) throw error;
  }
  const bytes = await make();
  mkdirSync(CACHE, { recursive: true });
  writeFileSync(`${path}.${process.pid}`, bytes);
  renameSync(`${path}.${process.pid}`, path);
  return bytes;
}

export interface DemoFile {
  readonly fileName: string;
  readonly bytes: Uint8Array;
}

/** The painting of 010, an OpenRaster file. */
export const paintDemo = async (): Promise<DemoFile> => ({
  fileName: DEMO_FILE,
  bytes: await painted('ora', paintLayers),
});

/** The art of 020: a layered PSD, a zip of the lamp's numbered drawings, and the pine for the shelf. */
export async function paintRailwayFiles(): Promise<{ psd: DemoFile; lamp: DemoFile; pine: DemoFile }> {
  const psd = await painted('psd', paintRailway);
  const lamp = await painted('lamp.zip', async () => zipOfDrawings('car-lamp', await flicker()));
  const pinePng = await painted('pine.png', async () => pngOf(await pine()));
  return {
    psd: { fileName: 'cliff-railway.psd', bytes: psd },
    lamp: { fileName: 'car-lamp.zip', bytes: lamp },
    pine: { fileName: 'pine.png', bytes: pinePng },
  };
}

/** Where the drawings of 030 lie in its painting, which is as large as the frame, px. */
const inFrame = ({ x, y }: { readonly x: number; readonly y: number }) => ({
  xPx: x,
  yPx: y,
  paintingWidthPx: 1920,
  paintingHeightPx: 1080,
});
export const CART_PLACES = { cart: inFrame(CART), pony: inFrame(PONY), wheels: inFrame(WHEEL) };

/** The art of 030: strips that meet themselves, a cart, and zips of the drawings of the walk and the wheels. */
export async function paintCartFiles(): Promise<{
  strips: DemoFile;
  cart: DemoFile;
  pony: DemoFile;
  wheels: DemoFile;
}> {
  const size = { widthPx: 1920, heightPx: 1080 };
  const strips = await painted('strips.ora', async () => toOpenRaster(await paintStrips(), size));
  const cartPng = await painted('cart.png', async () => pngOf(await cart()));
  const pony = await painted('pony.zip', async () => zipOfDrawings('pony', await ponyDrawings()));
  const wheels = await painted('wheels.zip', async () => zipOfDrawings('wheels', await wheelDrawings()));
  return {
    strips: { fileName: 'sea-wall-strips.ora', bytes: strips },
    cart: { fileName: 'mail-cart.png', bytes: cartPng },
    pony: { fileName: 'pony.zip', bytes: pony },
    wheels: { fileName: 'wheels.zip', bytes: wheels },
  };
}
