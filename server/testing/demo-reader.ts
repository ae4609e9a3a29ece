import { asPaintings, paintedLayers } from '@keen-ridge/core/art/landing';
import type { PaintedLayer } from '@keen-ridge/core/edits/art';
import { IDENTITY } from '@keen-ridge/core/geometry';
import { raster } from '@keen-ridge/core/image';
import { CLEAR, renderLayers } from '@keen-ridge/core/picture';
import type { Scene } from '@keen-ridge/core/scene';
import { framePlan } from '@keen-ridge/core/staging/frame';
import { testRenderer } from '@keen-ridge/core/testing';
import type { DemoFile } from '@keen-ridge/demo';
import sharp from 'sharp';
import { collectImages } from '../art/collect.ts';
import { readArtFile } from '../art/read-art.ts';

const RATE = { num: 24, den: 1 };

/** Reads demo files as an import would, and renders frames of scenes that use them. Throws on anything not kept. */
export async function demoReader() {
  const { sink, images } = collectImages();
  const renderer = await testRenderer();
  return {
    images,
    async read({ fileName, bytes }: DemoFile): Promise<PaintedLayer[]> {
      const result = await readArtFile(fileName, bytes, { sink });
      if (!result.ok) throw new Error(result.error.detail);
      const lost = result.value.flatMap(({ notKept }) => notKept);
      if (lost.length > 0) throw new Error(JSON.stringify(lost));
      for (const [id, { png, image }] of images) {
        const data = await sharp(png).ensureAlpha().raw().toBuffer();
        const { widthPx, heightPx } = image.art;
        renderer.addImage(id, raster(widthPx, heightPx, 'straight', new Uint8Array(data)));
      }
      return asPaintings(result.value, RATE).flatMap((painting) => paintedLayers(painting, RATE));
    },
    /** Straight from the kernel, premultiplied. */
    rendered(scene: Scene, frame: number) {
      const { widthPx, heightPx } = scene.frame;
      const view = { widthPx, heightPx, frameToImage: IDENTITY, background: CLEAR };
      return renderer.render(renderLayers(framePlan(scene, frame), view), view).data;
    },
  };
}
