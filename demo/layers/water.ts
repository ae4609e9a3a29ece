import { brushOver } from '../paint/brush.ts';
import { type Canvas, drawShapes, layOver } from '../paint/canvas.ts';
import { layeredNoise, seeded } from '../paint/random.ts';
import { gradient, rect } from '../paint/shapes.ts';

const AREA = { x: 200, y: 622, width: 2800, height: 420 };

/** A light seen in the water: broken dashes under it, wider as they come near. */
function reflection(
  water: Canvas,
  x: number,
  from: number,
  length: number,
  width: number,
  strength: number,
  seed: number,
): void {
  const random = seeded(seed);
  for (let i = 0; i < length * 0.9; i++) {
    const down = random();
    const y = from + down * length;
    const half = (width * (0.3 + down)) / 2;
    const cx = x + (random() - 0.5) * half * 1.4;
    const dash = half * (0.25 + random() * 0.8);
    const alpha = strength * (1 - down) ** 1.2 * (0.35 + random() * 0.65);
    dashOver(water, cx, y, dash, 1 + random() * 1.6, alpha);
  }
}

function dashOver(water: Canvas, cx: number, cy: number, half: number, thick: number, alpha: number): void {
  for (
    let y = Math.max(0, Math.floor(cy - thick - water.y));
    y <= Math.min(water.height - 1, cy + thick - water.y);
    y++
  ) {
    for (
      let x = Math.max(0, Math.floor(cx - half - water.x));
      x <= Math.min(water.width - 1, cx + half - water.x);
      x++
    ) {
      const soft = 1 - ((x + water.x - cx) / half) ** 2;
      if (soft > 0) layOver(water.data, (y * water.width + x) * 4, [255, 206, 132], alpha * soft);
    }
  }
}

/** Swell: bands of sky light and deep water, closer together towards the horizon. */
function swell(water: Canvas): void {
  const noise = layeredNoise(83, 4);
  for (let y = 0; y < water.height; y++) {
    const near = y / water.height;
    const spread = 6 + near * 46;
    for (let x = 0; x < water.width; x++) {
      const wave = noise((x + water.x) / (spread * 7), y / (spread * 0.32) + 40 * Math.sqrt(near));
      const at = (y * water.width + x) * 4;
      if (wave > 0.1)
        layOver(water.data, at, [236, 172, 142], Math.min(0.5, (wave - 0.1) * 1.3) * (1 - near * 0.55));
      else if (wave < -0.08) layOver(water.data, at, [22, 36, 66], Math.min(0.55, (-wave - 0.08) * 1.5));
    }
  }
}

export async function water(): Promise<Canvas> {
  const depth = gradient('depth', [
    [0, '#e5a888'],
    [0.1, '#b58a9c'],
    [0.28, '#66709c'],
    [0.6, '#33477a'],
    [1, '#1b2b52'],
  ]);
  const base = await drawShapes(AREA, rect(AREA.x, AREA.y, AREA.width, AREA.height, 'url(#depth)'), depth);
  swell(base);
  const level = () => 0;
  const painted = brushOver(base, 37, [
    { length: 120, width: 9, cover: 1.6, opacity: 0.5, stray: 0.14, direction: level, wander: 2.5 },
    { length: 56, width: 4.5, cover: 1.4, opacity: 0.5, stray: 0.2, direction: level, wander: 4 },
  ]);
  reflection(painted, 1742, 628, 300, 90, 0.8, 3);
  const random = seeded(12);
  for (let i = 0; i < 15; i++)
    reflection(painted, 260 + i * 190 + random() * 70, 640, 110 + random() * 120, 34, 0.4, 40 + i);
  return painted;
}
