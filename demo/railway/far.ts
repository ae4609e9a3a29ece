import { brushOver, loosenEdges } from '../paint/brush.ts';
import { type Canvas, drawShapes, glow, layOver } from '../paint/canvas.ts';
import { layeredNoise, seeded } from '../paint/random.ts';
import { gradient, path, pick, polygon, rect, ridge } from '../paint/shapes.ts';

const TERRACES = { x: 980, y: 1560, width: 1220, height: 1440 };
const SEA = { x: 0, y: 1690, width: 2200, height: 1310 };
const COAST = { x: 0, y: 1430, width: 2200, height: 760 };
const BANKS = { x: 0, y: 420, width: 2200, height: 980 };

/** Houses in steps down to the water, windows lit. */
export async function terraces(): Promise<Canvas> {
  const random = seeded(29);
  const shapes: string[] = [];
  const lights: [number, number][] = [];
  for (let row = 0; row < 7; row++) {
    const y = 1700 + row * 185;
    const from = 1800 - row * 118;
    shapes.push(
      path(
        `M${from - 60},3000 L${from - 40},${y + 60} Q${from + 200},${y} 2200,${y - 40} L2200,3000 Z`,
        pick(random, ['#39405f', '#333a58', '#3f4363']),
      ),
    );
    for (let x = from; x < 2200; x += 96 + random() * 34) {
      const [w, h] = [76 + random() * 26, 90 + random() * 50];
      const top = y - 8 - random() * 20;
      shapes.push(rect(x, top - h + 60, w, h, pick(random, ['#5b5476', '#6a5a78', '#4c4f76', '#735f74'])));
      shapes.push(
        polygon(
          [
            [x - 8, top - h + 62],
            [x + w / 2, top - h + 18],
            [x + w + 8, top - h + 62],
          ],
          pick(random, ['#5c3446', '#463049', '#6b3d45']),
        ),
      );
      for (const dx of [0.2, 0.6]) {
        if (random() < 0.3) continue;
        shapes.push(rect(x + w * dx, top - h + 88, 15, 22, '#ffcf86'));
        lights.push([x + w * dx + 7, top - h + 99]);
      }
    }
  }
  const drawn = loosenEdges(await drawShapes(TERRACES, shapes.join('')), 6, 3, 16);
  const painted = brushOver(drawn, 31, [
    { length: 36, width: 11, cover: 1.2, opacity: 0.45, stray: 0.16, direction: () => 3, wander: 24 },
  ]);
  for (const [x, y] of lights) glow(painted, x, y, 46, [255, 196, 120], 0.5);
  return painted;
}

export async function sea(): Promise<Canvas> {
  const depth = gradient('sea', [
    [0, '#c98f8e'],
    [0.08, '#7d6f9b'],
    [0.35, '#3b4880'],
    [1, '#18224a'],
  ]);
  const drawn = await drawShapes(SEA, rect(SEA.x, SEA.y, SEA.width, SEA.height, 'url(#sea)'), depth);
  const painted = brushOver(drawn, 13, [
    { length: 120, width: 12, cover: 1.2, opacity: 0.42, stray: 0.16, direction: () => 0, wander: 4 },
    { length: 48, width: 5, cover: 0.8, opacity: 0.5, stray: 0.24, direction: () => 0, wander: 5 },
  ]);
  for (let k = 0; k < 60; k++)
    glow(
      painted,
      1480 + Math.sin(k * 2.1) * (8 + k * 1.6),
      1700 + k * 15,
      30 + k * 0.5,
      [255, 214, 150],
      0.5 - k * 0.006,
      0.16,
    );
  return painted;
}

export async function coast(): Promise<Canvas> {
  const far = gradient('coast', [
    [0, '#75739f'],
    [0.36, '#b48d9a'],
    [1, '#8f78a0'],
  ]);
  const drawn = loosenEdges(
    await drawShapes(COAST, path(ridge(71, 0, 2200, 1450, 2190, 210, 300), 'url(#coast)'), far),
    5,
    4,
    22,
  );
  return brushOver(drawn, 19, [
    {
      length: 58,
      width: 16,
      cover: 1.3,
      opacity: 0.45,
      stray: 0.14,
      direction: (x) => Math.sin(x / 90) * 20,
      wander: 18,
    },
  ]);
}

/** Long thin banks of cloud on nothing: the sky itself is a card. */
export async function banks(): Promise<Canvas> {
  const canvas = await drawShapes(BANKS, '');
  const [shape, wisps] = [layeredNoise(5, 5), layeredNoise(15, 4)];
  for (let y = 0; y < canvas.height; y++) {
    const low = y / canvas.height;
    const fade = Math.min(1, low * 5) * Math.min(1, (1 - low) * 4);
    for (let x = 0; x < canvas.width; x++) {
      const [px, py] = [x / 560, y / 84];
      const bank = shape(px + wisps(px * 2, py) * 0.3, py * 0.9);
      const above = shape(px + wisps(px * 2, py) * 0.3, (py - 0.2) * 0.9);
      const cover = Math.max(0, Math.min(1, (bank - 0.02) * 3)) * fade;
      const lit = Math.max(0, Math.min(1, (bank - above) * 3 + 0.3)) * low;
      layOver(
        canvas.data,
        (y * canvas.width + x) * 4,
        [86 + lit * 168, 82 + lit * 92, 124 + lit * 16],
        cover * 0.75,
      );
    }
  }
  return canvas;
}
