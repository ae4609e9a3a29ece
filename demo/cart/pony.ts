import { type Canvas, drawShapes, glow } from '../paint/canvas.ts';
import { ellipse, line, path, rect } from '../paint/shapes.ts';

/** The drawings of the walk, and where they lie in the painting. */
export const PONY = { x: 1010, y: 560, width: 520, height: 420, drawings: 8 } as const;
/** The wheel turns by one spoke over its drawings. */
export const WHEEL = { x: 560, y: 720, width: 480, height: 240, drawings: 4, spokes: 8, radius: 74 } as const;
export const CART = { x: 470, y: 430, width: 660, height: 480 } as const;
const GROUND = 946;

const COAT = '#8a6a52';
const SHADE = '#5f4740';

/** One leg of two bones that swings from the hip; `lift` bends the knee. */
function leg(x: number, y: number, swing: number, lift: number, colour: string): string {
  const knee = { x: x + swing * 46, y: y + 82 - lift * 10 };
  const hoof = { x: x + swing * 78 - lift * 26, y: Math.min(GROUND - 6, GROUND - 6 - lift * 34) };
  return (
    line(`M${x},${y} L${knee.x},${knee.y} L${hoof.x},${hoof.y}`, colour, 24, 'stroke-linejoin="round"') +
    path(`M${hoof.x - 16},${hoof.y - 6} l34,0 l6,18 l-42,0 Z`, '#2a2330')
  );
}

/** The pony in one phase of its walk, 0 to 1: the legs follow one another by quarters. */
function ponyAt(phase: number): Promise<Canvas> {
  const gait = (offset: number) => {
    const turn = 2 * Math.PI * (phase + offset);
    return { swing: Math.sin(turn), lift: Math.max(0, Math.cos(turn)) };
  };
  const bob = Math.sin(4 * Math.PI * phase) * 4;
  const [hindFar, foreFar, hindNear, foreNear] = [0.5, 0.25, 0, 0.75].map(gait) as [
    ReturnType<typeof gait>,
    ReturnType<typeof gait>,
    ReturnType<typeof gait>,
    ReturnType<typeof gait>,
  ];
  const y = 752 + bob;
  const nod = bob * 1.6;
  const shapes = [
    leg(1150, y + 36, hindFar.swing, hindFar.lift, SHADE),
    leg(1346, y + 30, foreFar.swing, foreFar.lift, SHADE),
    path(
      `M1112,${y - 20} Q1070,${y + 40} ${1064 + nod},${y + 120} Q1092,${y + 60} 1126,${y + 20} Z`,
      '#3a2c30',
    ),
    ellipse(1246, y, 140, 66, COAT),
    path(
      `M1330,${y - 46} Q1392,${y - 120} ${1420 + nod * 0.4},${y - 168 + nod} L${1468 + nod * 0.4},${y - 130 + nod} Q1420,${y - 40} 1368,${y + 34} Z`,
      COAT,
    ),
    path(
      `M${1404},${y - 172 + nod} L${1462},${y - 168 + nod} L${1512},${y - 98 + nod} L${1488},${y - 80 + nod} L${1424},${y - 120 + nod} Z`,
      COAT,
    ),
    path(
      `M1330,${y - 52} Q1384,${y - 130} ${1410},${y - 186 + nod} Q1360,${y - 150} 1318,${y - 46} Z`,
      '#3a2c30',
    ),
    path(`M${1420},${y - 172 + nod} l6,-34 l18,32 Z`, SHADE),
    ellipse(1456, y - 136 + nod, 5, 5, '#17131c'),
    line(`M1344,${y - 40} Q1332,${y + 10} 1346,${y + 44}`, '#2c2530', 12),
    line(`M1130,${y + 6} L1350,${y - 6}`, '#2c2530', 8),
    leg(1170, y + 40, hindNear.swing, hindNear.lift, COAT),
    leg(1362, y + 34, foreNear.swing, foreNear.lift, COAT),
  ];
  return drawShapes(PONY, shapes.join(''));
}

export const ponyDrawings = (): Promise<Canvas[]> =>
  Promise.all(Array.from({ length: PONY.drawings }, (_, i) => ponyAt(i / PONY.drawings)));

/** Both wheels, turned on by a share of the angle between two spokes; they roll to the east. */
function wheelsAt(share: number): Promise<Canvas> {
  const { radius, spokes } = WHEEL;
  const wheel = (cx: number) => {
    const cy = GROUND - radius;
    const bars = Array.from({ length: spokes }, (_, i) => {
      const angle = ((i + share) / spokes) * 2 * Math.PI;
      const [dx, dy] = [Math.cos(angle) * radius, Math.sin(angle) * radius];
      return line(`M${cx},${cy} L${(cx + dx).toFixed(1)},${(cy + dy).toFixed(1)}`, '#8d5f3c', 8);
    });
    return (
      bars.join('') +
      `<circle cx="${cx}" cy="${cy}" r="${radius - 5}" fill="none" stroke="#4c3328" stroke-width="13"/>` +
      `<circle cx="${cx}" cy="${cy}" r="15" fill="#3a2a26"/>`
    );
  };
  return drawShapes(WHEEL, wheel(660) + wheel(920));
}

export const wheelDrawings = (): Promise<Canvas[]> =>
  Promise.all(Array.from({ length: WHEEL.drawings }, (_, i) => wheelsAt(i / WHEEL.drawings)));

/** The cart with its sacks, its lantern and the one who drives it; the wheels are drawings of their own. */
export async function cart(): Promise<Canvas> {
  const shapes = [
    line('M950,800 L1330,790', '#4c3328', 13),
    path('M560,840 L1010,840 L1040,690 L540,690 Z', '#7d4a3c'),
    ...[720, 760, 800].map((y) => line(`M552,${y} L1028,${y}`, '#5b352f', 5)),
    rect(548, 682, 490, 16, '#a06a4c'),
    path('M590,690 q10,-92 82,-88 q70,-4 74,88 Z', '#b09a78'),
    path('M690,690 q16,-120 96,-112 q76,2 78,112 Z', '#9a8466'),
    line('M700,620 q40,20 84,0', '#6d5c48', 5),
    path('M896,690 q-14,-100 20,-150 q40,-34 74,8 q26,60 20,142 Z', '#2f3a5c'),
    ellipse(954, 506, 30, 34, '#d9a47c'),
    path('M912,496 q44,-52 88,0 l10,10 l-108,0 Z', '#22263c'),
    line('M980,590 Q1030,640 1080,660', '#2f3a5c', 22),
    line('M1084,660 Q1200,640 1340,730', '#2c2530', 5),
    line('M560,690 L560,560', '#3a2a26', 9),
    path('M540,560 l42,0 l-7,-54 l-28,0 Z', '#ffdf9a'),
    path('M534,508 l54,0 l-27,-26 Z', '#3a2a26'),
  ];
  const painted = await drawShapes(CART, shapes.join(''));
  glow(painted, 561, 532, 120, [255, 214, 140], 0.8);
  return painted;
}
