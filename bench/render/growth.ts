import { IDENTITY } from '@keen-ridge/core/geometry';
import { BLACK, imageLayout, renderLayers } from '@keen-ridge/core/render';
import { framePlan } from '@keen-ridge/core/shot';
import { singleThreadRenderer } from '../../server/jobs/kernel-file.ts';
import { fittedExponent, median, timed } from './measure.ts';
import { benchScene } from './scenes.ts';

const MIB = 2 ** 20;

/** Exponents k of cost = c·x^k, on one thread: 1 is linear. */
export interface Growth {
  readonly planes: number;
  readonly frames: number;
  readonly pixels: number;
}

export async function growth(rounds: number): Promise<Growth> {
  const { scene, images } = benchScene('all mist', false);
  const renderer = await singleThreadRenderer();
  for (const [id, image] of images) renderer.addImage(id, image);
  const view = { widthPx: 1920, heightPx: 1080, frameToImage: IDENTITY, background: BLACK };
  const layersAt = (frame: number) => ({ layers: renderLayers(framePlan(scene, frame), view), view });
  const cost = async (work: () => void): Promise<number> => {
    const times: number[] = [];
    for (let i = 0; i < rounds; i++) times.push(await timed(work));
    return median(times);
  };
  const points = async (xs: readonly number[], workFor: (x: number) => () => void) => {
    const found: [number, number][] = [];
    for (const x of xs) found.push([x, await cost(workFor(x))]);
    return fittedExponent(found);
  };
  const whole = layersAt(12);
  const planes = await points([8, 16, 32, 64], (count) => {
    const layers = Array.from({ length: count }, (_, i) => whole.layers[i % whole.layers.length]!);
    return () => renderer.render(layers, whole.view);
  });
  const frames = await points([1, 2, 4, 8], (count) => () => {
    for (let frame = 1; frame <= count; frame++) {
      renderer.render(layersAt(frame).layers, view);
    }
  });
  // More rows of the same picture: at another scale other levels of the art would be read.
  const pixels = await points([0.25, 0.5, 1], (share) => {
    const { layers, view } = whole;
    return () => renderer.render(layers, { ...view, heightPx: Math.round(view.heightPx * share) });
  });
  return { planes, frames, pixels };
}

/** Memory that art takes once it is loaded, MiB: its levels with their borders and tile maps. */
export const artMemory = () => ({
  sixtyPlanesOf4k: (60 * imageLayout(3840, 2160).bytes) / MIB,
  oneOf24000x4000: imageLayout(24_000, 4000).bytes / MIB,
  frameAndScratch: (1920 * 1080 * 4 + 1920 * 40 + 60 * 1920 * 12) / MIB,
});
