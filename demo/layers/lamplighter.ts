import { brushOver, loosenEdges } from '../paint/brush.ts';
import { type Canvas, drawShapes, glow, lightOn } from '../paint/canvas.ts';
import { ellipse, gradient, line, path, polygon, rect } from '../paint/shapes.ts';

const AREA = { x: 1340, y: 270, width: 620, height: 770 };
const LAMP = { x: 1690, y: 420 };

function lampPost(): string {
  const { x, y } = LAMP;
  return (
    ellipse(x, 1004, 52, 12, '#12152a', 'opacity="0.6"') +
    polygon(
      [
        [x - 30, 1004],
        [x - 20, 958],
        [x + 20, 958],
        [x + 30, 1004],
      ],
      '#20243a',
    ) +
    rect(x - 9, 492, 18, 470, 'url(#iron)') +
    rect(x - 15, 884, 30, 16, '#2a2f48') +
    rect(x - 14, 560, 28, 10, '#2a2f48') +
    line(`M${x - 58},574 Q${x - 20},556 ${x},576 Q${x + 20},556 ${x + 58},574`, '#20243a', 7) +
    polygon(
      [
        [x - 22, 494],
        [x - 36, y - 30],
        [x + 36, y - 30],
        [x + 22, 494],
      ],
      '#ffdc9a',
    ) +
    line(
      `M${x - 22},494 L${x - 36},${y - 30} M${x + 22},494 L${x + 36},${y - 30} M${x},494 L${x},${y - 30}`,
      '#23263a',
      5,
    ) +
    polygon(
      [
        [x - 44, y - 30],
        [x, y - 78],
        [x + 44, y - 30],
      ],
      '#20243a',
    ) +
    ellipse(x, y - 82, 7, 9, '#20243a') +
    rect(x - 25, 492, 50, 9, '#20243a')
  );
}

/** A figure in a long coat, seen from behind and to the side, reaching up with the lighting pole. */
function figure(): string {
  const x = 1516;
  return (
    ellipse(x + 6, 1006, 84, 14, '#12152a', 'opacity="0.65"') +
    line(`M${x + 26},720 L${LAMP.x - 26},462`, '#3b2c2a', 7) +
    path(
      `M${x - 30},1000 L${x - 26},930 L${x + 2},930 L${x},1000 Z M${x + 14},1000 L${x + 10},930 L${x + 40},930 L${x + 46},1000 Z`,
      '#161a2c',
    ) +
    path(
      `M${x - 44},1006 Q${x - 10},988 ${x + 4},1006 Z M${x + 8},1006 Q${x + 46},988 ${x + 66},1006 Z`,
      '#11131f',
    ) +
    path(
      `M${x - 24},668 Q${x - 62},700 ${x - 66},800 Q${x - 80},890 ${x - 84},952 Q${x - 10},976 ${x + 66},950 Q${x + 52},860 ${x + 44},790 Q${x + 44},700 ${x + 22},668 Z`,
      'url(#coat)',
    ) +
    line(`M${x - 4},690 Q${x - 14},820 ${x - 20},954`, '#171a30', 4, 'opacity="0.8"') +
    line(`M${x - 62},806 Q${x - 6},826 ${x + 45},800`, '#6c4a34', 11) +
    path(
      `M${x + 6},686 Q${x + 52},690 ${x + 74},664 L${x + 92},626 L${x + 74},614 L${x + 52},648 Q${x + 30},664 ${x + 2},664 Z`,
      '#33365a',
    ) +
    ellipse(x + 84, 618, 14, 13, '#c08a64') +
    path(
      `M${x - 46},706 Q${x - 66},760 ${x - 46},812 L${x - 24},808 Q${x - 36},756 ${x - 18},712 Z`,
      '#262a4a',
    ) +
    path(
      `M${x - 34},668 Q${x - 2},694 ${x + 32},666 L${x + 24},650 Q${x - 2},664 ${x - 24},650 Z`,
      '#a2543c',
    ) +
    ellipse(x + 4, 634, 27, 30, '#b07e5e') +
    path(
      `M${x - 26},636 Q${x - 30},600 ${x + 2},600 Q${x + 20},602 ${x + 16},622 Q${x - 4},626 ${x - 10},650 Z`,
      '#2b2230',
    ) +
    path(`M${x - 42},616 Q${x + 4},596 ${x + 48},618 Q${x + 6},632 ${x - 42},616 Z`, '#1d2036') +
    path(
      `M${x - 26},610 Q${x - 22},570 ${x + 6},568 Q${x + 32},572 ${x + 30},612 Q${x + 2},600 ${x - 26},610 Z`,
      '#262a44',
    ) +
    path(`M${x - 76},880 L${x - 118},884 L${x - 112},944 L${x - 72},942 Z`, '#3a2e34') +
    line(`M${x - 110},884 Q${x - 92},846 ${x - 74},880`, '#2a2430', 5)
  );
}

export async function lamplighter(): Promise<Canvas> {
  const defs =
    gradient(
      'iron',
      [
        [0, '#1a1e33'],
        [0.6, '#3c425e'],
        [1, '#1a1e33'],
      ],
      'x1="0" y1="0" x2="1" y2="0"',
    ) +
    gradient(
      'coat',
      [
        [0, '#222645'],
        [0.55, '#2d3158'],
        [1, '#4a4460'],
      ],
      'x1="0" y1="0" x2="1" y2="0"',
    );
  const drawn = await drawShapes(AREA, lampPost() + figure(), defs);
  const painted = brushOver(loosenEdges(drawn, 29, 1.6, 18), 53, [
    { length: 36, width: 11, cover: 1.3, opacity: 0.34, stray: 0.2, direction: () => 82, wander: 18 },
    { length: 16, width: 4, cover: 1.4, opacity: 0.4, stray: 0.28, direction: () => 80, wander: 34 },
  ]);
  lightOn(painted, LAMP.x - 40, 600, 330, [255, 182, 104], 0.72, 1.2);
  glow(painted, LAMP.x, LAMP.y + 14, 240, [255, 196, 112], 0.4);
  glow(painted, LAMP.x, LAMP.y + 14, 96, [255, 216, 144], 0.6);
  glow(painted, LAMP.x, LAMP.y + 18, 26, [255, 250, 226], 1);
  return painted;
}
