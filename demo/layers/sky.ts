import { brushOver } from '../paint/brush.ts';
import { type Canvas, drawShapes, glow, layOver } from '../paint/canvas.ts';
import { layeredNoise, seeded } from '../paint/random.ts';
import { gradient, rect } from '../paint/shapes.ts';

const AREA = { x: 420, y: 0, width: 2360, height: 760 };

/** Long banks of cloud, dark above and lit by the sunk sun from below. */
function clouds(sky: Canvas): void {
  const [shape, wisps] = [layeredNoise(11, 5), layeredNoise(23, 4)];
  for (let y = 0; y < sky.height; y++) {
    for (let x = 0; x < sky.width; x++) {
      const [px, py] = [(x + sky.x) / 520, (y + sky.y) / 92];
      const bank = shape(px + wisps(px * 2, py) * 0.35, py * 0.9);
      const above = shape(px + wisps(px * 2, py) * 0.35, (py - 0.16) * 0.9);
      const band = Math.exp(-(((y - 330) / 190) ** 2)) * 0.9 + 0.25;
      const cover = Math.max(0, Math.min(1, (bank + 0.08) * 3.2)) * band;
      const under = Math.max(0, Math.min(1, (bank - above) * 3 + 0.35));
      const low = Math.min(1, Math.max(0, (y - 80) / 470));
      const sun = Math.exp(-(((x + sky.x - 1880) / 620) ** 2));
      const lit = under * (0.25 + 0.75 * low) * (0.45 + 0.75 * sun);
      layOver(
        sky.data,
        (y * sky.width + x) * 4,
        [62 + lit * 190 + low * 26, 66 + lit * 104 + low * 16, 104 + lit * 34 + low * 8],
        cover * (0.32 + 0.5 * low * (1 - lit * 0.2)),
      );
    }
  }
}

function stars(sky: Canvas): void {
  const random = seeded(91);
  for (let i = 0; i < 130; i++) {
    const [x, y] = [Math.floor(random() * sky.width), Math.floor(random() ** 1.6 * 270)];
    layOver(sky.data, (y * sky.width + x) * 4, [235, 238, 255], 0.25 + random() * 0.55);
    if (random() < 0.2) glow(sky, x + sky.x, y + sky.y, 5, [225, 232, 255], 0.5);
  }
}

export async function sky(): Promise<Canvas> {
  const dusk = gradient('dusk', [
    [0, '#14203c'],
    [0.26, '#26386a'],
    [0.5, '#56609a'],
    [0.66, '#a0809f'],
    [0.76, '#df9c86'],
    [0.84, '#f5bd83'],
    [1, '#ffd79a'],
  ]);
  const ground = await drawShapes(AREA, rect(AREA.x, AREA.y, AREA.width, AREA.height, 'url(#dusk)'), dusk);
  glow(ground, 1880, 640, 760, [255, 196, 120], 0.62, 0.55);
  clouds(ground);
  const along = (x: number, y: number) => Math.sin(x / 310) * 7 + Math.sin(y / 60) * 5;
  const painted = brushOver(ground, 5, [
    { length: 150, width: 34, cover: 1.6, opacity: 0.5, stray: 0.12, direction: along, wander: 9 },
    { length: 84, width: 14, cover: 1.4, opacity: 0.5, stray: 0.14, direction: along, wander: 12 },
    { length: 44, width: 6, cover: 0.8, opacity: 0.45, stray: 0.16, direction: along, wander: 16 },
  ]);
  stars(painted);
  return painted;
}
