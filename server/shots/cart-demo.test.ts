import { runSpeedAt } from '@keen-ridge/core/edits/runs';
import { measureSeam } from '@keen-ridge/core/image';
import type { Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { readScene } from '@keen-ridge/core/staging/check';
import { loopReport } from '@keen-ridge/core/staging/loop';
import { CART_PLACES, type CartArt, cartScene, paintCartFiles } from '@keen-ridge/demo';
import { unzipSync } from 'fflate';
import { beforeAll, describe, expect, it } from 'vitest';
import { decodeStored } from '../art/decode.ts';
import { demoReader } from '../testing/demo-reader.ts';

let scene: Scene;
let demo: Awaited<ReturnType<typeof demoReader>>;
let files: Awaited<ReturnType<typeof paintCartFiles>>;

beforeAll(async () => {
  demo = await demoReader();
  files = await paintCartFiles();
  const one = async (name: 'cart' | 'pony' | 'wheels'): Promise<CartArt['cart']> => ({
    ...(await demo.read(files[name]))[0]!,
    name,
    ...CART_PLACES[name],
  });
  const strips = await demo.read(files.strips);
  const [cart, pony, wheels] = [await one('cart'), await one('pony'), await one('wheels')];
  scene = cartScene({ strips, cart, pony, wheels });
}, 240_000);

describe('the third demo shot', () => {
  it('is a running world of strips, with a pony and wheels that ride on the cart and a sky on the camera', () => {
    expect(readScene(scene)).toEqual({ ok: true, value: scene });
    const mounts = Object.fromEntries(planesOf(scene).map(({ name, mount }) => [name, mount.on]));
    expect(mounts).toMatchObject({ pony: 'plane', wheels: 'plane', cart: 'stage', 'Evening card': 'camera' });
    const strips = planesOf(scene).filter(({ repeat }) => repeat === 'across');
    expect(strips.map(({ name }) => name)).toEqual(['Thistles', 'Road', 'Sea wall', 'Sea', 'Far headland']);
    // One number drives them, changed by little so that the loop closes; depth makes the rest.
    for (const strip of strips) {
      const speed = runSpeedAt(scene, strip, 1).datum.x;
      expect(Math.abs(speed / -16 - 1)).toBeLessThan(0.02);
    }
  });

  it('closes: the frame after the last is the first, to the pixel, and so is the next', () => {
    expect(loopReport(scene).map((item) => 'closed' in item && item.closed)).toEqual(Array(7).fill(true));
    expect(scene.lengthFrames).toBe(192);
    for (const frame of [1, 2]) {
      const [first, again] = [demo.rendered(scene, frame), demo.rendered(scene, frame + 192)];
      expect(again.every((value, i) => value === first[i])).toBe(true);
    }
    const [first, middle] = [demo.rendered(scene, 1), demo.rendered(scene, 97)];
    expect(middle.some((value, i) => Math.abs(value - (first[i] as number)) > 60)).toBe(true);
  });

  it('has no hole on the way, and no strip whose seam is seen', async () => {
    for (const frame of [1, 60, 150]) {
      const pixels = demo.rendered(scene, frame);
      let holes = 0;
      for (let i = 3; i < pixels.length; i += 4) if ((pixels[i] as number) < 254) holes += 1;
      expect({ frame, holes }).toEqual({ frame, holes: 0 });
    }
    const layers = Object.entries(unzipSync(files.strips.bytes)).filter(([name]) => name.endsWith('.png'));
    expect(layers).toHaveLength(5);
    for (const [name, png] of layers) {
      const image = await decodeStored(png);
      if (!image.ok) throw new Error(name);
      expect({ name, visible: measureSeam(image.value, 'across').visible }).toEqual({ name, visible: false });
    }
  });
});
