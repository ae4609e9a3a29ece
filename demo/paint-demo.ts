import { boats } from './layers/boats.ts';
import { ground } from './layers/ground.ts';
import { headland } from './layers/headland.ts';
import { houses } from './layers/houses.ts';
import { island } from './layers/island.ts';
import { lamplighter } from './layers/lamplighter.ts';
import { posts } from './layers/posts.ts';
import { ropes } from './layers/ropes.ts';
import { sky } from './layers/sky.ts';
import { water } from './layers/water.ts';
import type { Canvas } from './paint/canvas.ts';
import { toOpenRaster } from './paint/openraster.ts';

/** On top first. */
const LAYERS: readonly (readonly [string, () => Promise<Canvas>])[] = [
  ['Ropes and nets', ropes],
  ['Mooring posts', posts],
  ['Lamplighter', lamplighter],
  ['Quay ground', ground],
  ['Quay houses', houses],
  ['Moored boats', boats],
  ['Harbour water', water],
  ['Island and light', island],
  ['Far headland', headland],
  ['Sky card', sky],
];

/** Paints the whole of *Quay at lamp-lighting* as an OpenRaster file; some ten seconds of work. */
export async function paintLayers(): Promise<Uint8Array> {
  const layers = [];
  for (const [name, paint] of LAYERS) layers.push({ name, canvas: await paint() });
  return toOpenRaster(layers);
}
