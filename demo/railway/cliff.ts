import { brushOver, loosenEdges } from '../paint/brush.ts';
import { type Canvas, drawShapes, glow, lightOn } from '../paint/canvas.ts';
import { seeded } from '../paint/random.ts';
import { gradient, line, path, rect } from '../paint/shapes.ts';

const CLIFF = { x: 0, y: 260, width: 1330, height: 2740 };
const TRACK = { x: 560, y: 120, width: 820, height: 2880 };

/** Where the middle of the track runs at a height of the painting: straight up the cliff, leaning a little. */
export const trackX = (y: number): number => 1180 - (3000 - y) * 0.13;

/** The rim of the cliff against the sky, rough and steep. */
function rim(): string {
  const random = seeded(61);
  const points = ['M0,300'];
  for (let x = 40; x <= 620; x += 40) points.push(`L${x},${290 + random() * 70 + x * 0.02}`);
  for (let y = 380; y <= 3000; y += 60) points.push(`L${(trackX(y) + 70 + random() * 70).toFixed(0)},${y}`);
  return `${points.join(' ')} L0,3000 Z`;
}

export async function cliff(): Promise<Canvas> {
  const rock = gradient('rock', [
    [0, '#4d4a66'],
    [0.45, '#3a3a58'],
    [1, '#23263f'],
  ]);
  const random = seeded(17);
  const ledges = Array.from({ length: 90 }, () => {
    const y = 380 + random() * 2600;
    const x = random() * (trackX(y) - 330);
    const w = 60 + random() * 190;
    return path(
      `M${x},${y} l${w},${-10 - random() * 26} l${w * 0.2},${16 + random() * 20} l${-w},${20} Z`,
      random() < 0.5 ? '#5d5874' : '#2a2c46',
      'opacity="0.55"',
    );
  });
  const drawn = loosenEdges(
    await drawShapes(CLIFF, path(rim(), 'url(#rock)') + ledges.join(''), rock),
    9,
    7,
    26,
  );
  const steep = (x: number, y: number) => 68 + Math.sin(x / 70) * 22 + Math.sin(y / 130) * 16;
  const painted = brushOver(drawn, 23, [
    { length: 74, width: 24, cover: 1.3, opacity: 0.5, stray: 0.2, direction: steep, wander: 24 },
    { length: 30, width: 8, cover: 0.9, opacity: 0.45, stray: 0.24, direction: steep, wander: 34 },
  ]);
  for (const y of [620, 1240, 1860, 2480])
    lightOn(painted, trackX(y) - 40, y, 430, [255, 190, 110], 0.55, 1.1);
  return painted;
}

/** Sleepers, two rails, and iron lamps beside them. */
export async function track(): Promise<Canvas> {
  const shapes: string[] = [];
  for (let y = 150; y < 3000; y += 34) {
    const x = trackX(y);
    shapes.push(rect(x - 84, y, 168, 13, '#3c2f33'), rect(x - 84, y, 168, 4, '#57474a'));
  }
  for (const side of [-56, 56]) {
    const d = `M${trackX(3000) + side},3000 L${trackX(120) + side},120`;
    shapes.push(line(d, '#20242f', 13), line(d, '#8f97a8', 4));
  }
  for (const y of [620, 1240, 1860, 2480]) {
    const x = trackX(y) + 118;
    shapes.push(
      line(`M${x},${y + 150} L${x},${y} q0,-30 -34,-30`, '#1b1d28', 11),
      rect(x - 48, y - 30, 28, 40, '#ffd48a'),
    );
  }
  const drawn = loosenEdges(await drawShapes(TRACK, shapes.join('')), 4, 2, 12);
  const along = () => 97;
  const painted = brushOver(drawn, 41, [
    { length: 26, width: 7, cover: 1.1, opacity: 0.4, stray: 0.14, direction: along, wander: 20 },
  ]);
  for (const y of [620, 1240, 1860, 2480]) glow(painted, trackX(y) + 84, y - 8, 150, [255, 208, 130], 0.85);
  return painted;
}
