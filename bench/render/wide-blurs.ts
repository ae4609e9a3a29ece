import { setCamera } from '@keen-ridge/core/edits/keys';
import { setFilter } from '@keen-ridge/core/edits/look';
import { IDENTITY } from '@keen-ridge/core/geometry';
import { BLACK, renderLayers } from '@keen-ridge/core/picture';
import type { Scene } from '@keen-ridge/core/scene';
import { framePlan } from '@keen-ridge/core/staging/frame';
import { threadPool } from '../../server/threads/thread-pool.ts';
import { median, timed } from '../medians.ts';
import { benchScene } from './scenes.ts';

const VIEW = { widthPx: 1920, heightPx: 1080, frameToImage: IDENTITY, background: BLACK };
/** Wide enough for discs of 10 to 60 px on the bench's stage, whose focus is on the datum. */
const IRIS_SPX = 100;

/** How many times as long pictures take with the iris open, with glow, and with both, as without. */
export async function wideBlurs(rounds: number): Promise<Record<string, number>> {
  const { scene, images } = benchScene('solid layers with holes', false);
  const pool = await threadPool();
  for (const [id, image] of images)
    await pool.addImage(id, async () => ({ ...image, data: image.data.slice() }));
  const open = setCamera(scene, { iris: IRIS_SPX }, { frame: 1, keying: false });
  const scenes: Record<string, Scene> = {
    plain: scene,
    'iris open': open,
    glow: setFilter(scene, { glow: 0.3 }),
    'iris open and glow': setFilter(open, { glow: 0.3 }),
  };
  const times = new Map<string, number[]>(Object.keys(scenes).map((name) => [name, []]));
  const sides = Array.from({ length: pool.size * 3 }, () => new Uint8Array(VIEW.widthPx * VIEW.heightPx * 4));
  for (let round = 0; round < rounds; round++)
    for (const [name, one] of Object.entries(scenes)) {
      const layers = renderLayers(framePlan(one, 12), VIEW);
      times
        .get(name)!
        .push(await timed(() => Promise.all(sides.map((into) => pool.render(layers, VIEW, 1, { into })))));
    }
  pool.close();
  const plain = median(times.get('plain')!);
  return Object.fromEntries(
    [...times].filter(([name]) => name !== 'plain').map(([name, of]) => [name, median(of) / plain]),
  );
}
