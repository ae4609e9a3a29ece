import { brushOver } from '../paint/brush.ts';
import { type Canvas, drawShapes } from '../paint/canvas.ts';
import { seeded } from '../paint/random.ts';
import { line } from '../paint/shapes.ts';

const AREA = { x: 0, y: 0, width: 760, height: 1180 };

/** A wind-bent pine, kept on the shelf and used wherever a foreground is bare. */
export async function pine(): Promise<Canvas> {
  const random = seeded(43);
  const shapes = [
    line('M90,1240 C150,900 120,640 330,330 C380,250 430,190 520,120', '#141726', 46),
    line('M330,330 C420,300 520,330 640,290', '#141726', 24),
    line('M210,560 C330,520 420,560 560,520', '#161a2b', 22),
    line('M150,780 C260,760 330,800 440,780', '#161a2b', 18),
  ];
  const tufts: readonly (readonly [number, number, number])[] = [
    [520, 130, 150],
    [640, 290, 130],
    [430, 240, 120],
    [560, 515, 130],
    [400, 545, 90],
    [440, 775, 100],
    [300, 390, 90],
  ];
  for (const [cx, cy, reach] of tufts) {
    for (let i = 0; i < 230; i++) {
      const [angle, far] = [random() * Math.PI * 2, Math.sqrt(random())];
      const [x, y] = [cx + Math.cos(angle) * reach * far, cy + Math.sin(angle) * reach * 0.42 * far];
      const lean = (random() - 0.5) * 40;
      shapes.push(
        line(
          `M${x.toFixed(0)},${y.toFixed(0)} l${lean.toFixed(0)},${(-14 - random() * 26).toFixed(0)}`,
          random() < 0.24 ? '#33405a' : random() < 0.6 ? '#1d2438' : '#10131f',
          3 + random() * 4,
        ),
      );
    }
  }
  const drawn = await drawShapes(AREA, shapes.join(''));
  return brushOver(drawn, 3, [
    { length: 22, width: 5, cover: 0.5, opacity: 0.35, stray: 0.18, direction: () => 80, wander: 50 },
  ]);
}
