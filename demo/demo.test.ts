import { leavesOf } from '@keen-ridge/core/art';
import { readOpenRaster } from '@keen-ridge/core/art/openraster';
import { readPngHeader } from '@keen-ridge/core/art/png';
import type { PaintedLayer } from '@keen-ridge/core/edits/art';
import { IDENTITY } from '@keen-ridge/core/geometry';
import { cutEdges, paintedBox, raster } from '@keen-ridge/core/image';
import type { SingleThreadRenderer } from '@keen-ridge/core/kernel';
import { CLEAR, renderLayers } from '@keen-ridge/core/picture';
import { type ArtRef, artIdSchema, type Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { readScene } from '@keen-ridge/core/staging/check';
import { framePlan } from '@keen-ridge/core/staging/frame';
import { edgeGaps } from '@keen-ridge/core/survey';
import { testRenderer } from '@keen-ridge/core/testing';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { paintDemo } from './index.ts';
import { flicker } from './railway/car.ts';
import { demoScene } from './stage-demo.ts';

let layers: PaintedLayer[];
let scene: Scene;
let renderer: SingleThreadRenderer;

beforeAll(async () => {
  const file = readOpenRaster((await paintDemo()).bytes);
  if (!file.ok) throw new Error(file.error.detail);
  expect(file.value.notKept).toEqual([]);
  renderer = await testRenderer();
  layers = [];
  for (const [i, { layer: painted, group, opacity, hidden }] of leavesOf(file.value.nodes).entries()) {
    const { data, info } = await sharp(painted.image)
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const header = readPngHeader(painted.image);
    expect(header.ok && [header.value.widthPx, header.value.heightPx, header.value.bitDepth]).toEqual([
      info.width,
      info.height,
      8,
    ]);
    const pixels = raster(info.width, info.height, 'straight', new Uint8Array(data));
    const box = paintedBox(pixels);
    const art: ArtRef = {
      id: artIdSchema.parse(String(i).padStart(64, '0')),
      widthPx: info.width,
      heightPx: info.height,
      painted: box,
      cutEdges: cutEdges(pixels, box),
    };
    renderer.addImage(art.id, pixels);
    layers.push({
      name: painted.name,
      group,
      moving: null,
      file: 'demo.ora',
      art,
      xPx: painted.xPx,
      yPx: painted.yPx,
      opacity,
      hidden,
      paintingWidthPx: file.value.widthPx,
      paintingHeightPx: file.value.heightPx,
    });
  }
  scene = demoScene(layers);
}, 240_000);

const rendered = (frame: number) => {
  const view = { widthPx: 1920, heightPx: 1080, frameToImage: IDENTITY, background: CLEAR };
  return renderer.render(renderLayers(framePlan(scene, frame), view), view).data;
};

describe('the demo shot', () => {
  it('is a valid scene of at least eight layers, each at its own depth or on the datum', () => {
    expect(readScene(scene).ok).toBe(true);
    expect(layers.length).toBeGreaterThanOrEqual(8);
    expect(
      planesOf(scene)
        .filter((plane) => plane.depthSpx === 0)
        .map((plane) => plane.name),
    ).toEqual(['Lamp light', 'Lamplighter', 'Quay ground']);
    expect([scene.frame, scene.rate, scene.lengthFrames]).toEqual([
      { widthPx: 1920, heightPx: 1080 },
      { num: 24, den: 1 },
      120,
    ]);
  });

  it('is painted wide enough: no cut edge comes into frame from the side', () => {
    // The light of the lamp fades to nothing before it ends.
    for (const plane of planesOf(scene).filter(({ mode }) => mode === undefined)) {
      const sideways = edgeGaps(scene, plane).filter(({ side }) => side === 'left' || side === 'right');
      expect({ plane: plane.name, sideways }).toEqual({ plane: plane.name, sideways: [] });
    }
  });

  it.each([1, 30, 60, 90, 120])('has no hole at frame %i', (frame) => {
    const pixels = rendered(frame);
    let holes = 0;
    for (let i = 3; i < pixels.length; i += 4) if ((pixels[i] as number) < 255) holes += 1;
    expect(holes).toBe(0);
  });

  it('moves near planes past far ones, and rests at both ends', () => {
    const left = (frame: number, name: string) => {
      const id = planesOf(scene).find((plane) => plane.name === name)?.id;
      const placed = framePlan(scene, frame).planes.find((plane) => plane.planeId === id);
      return placed?.artToFrame?.e ?? Number.NaN;
    };
    const slide = (name: string, from: number, to: number) => Math.abs(left(to, name) - left(from, name));
    expect(slide('Ropes and nets', 1, 120)).toBeGreaterThan(2 * slide('Moored boats', 1, 120));
    expect(slide('Moored boats', 1, 120)).toBeGreaterThan(3 * slide('Sky card', 1, 120));
    expect(slide('Quay ground', 1, 2)).toBeLessThan(0.2);
    expect(slide('Quay ground', 109, 120)).toBe(0);
    expect(slide('Quay ground', 55, 56)).toBeGreaterThan(5);
  });
});

describe('the lamp of the second', () => {
  it('flickers the same however often it is painted', async () => {
    const paint = async () => (await flicker()).map(({ data }) => data);
    const [first, again] = [await paint(), await paint()];
    expect(first).toHaveLength(6);
    first.forEach((data, i) => {
      expect(Buffer.compare(Buffer.from(data.buffer), Buffer.from(again[i]!.buffer))).toBe(0);
    });
  });
});
