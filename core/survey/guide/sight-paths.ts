import type { ArtSight, FrameOnArt } from './sight.ts';

/** All cells of one kind as SVG path data (SVG 2, section 9.3), in art px from the canvas' upper left corner. */
export function cellsPath({ cells, columns, rows, cellPx }: ArtSight, kind: number): string {
  const parts: string[] = [];
  for (let row = 0; row < rows; row++) {
    let from = -1;
    for (let column = 0; column <= columns; column++) {
      const is = column < columns && cells[row * columns + column] === kind;
      if (is && from < 0) from = column;
      if (is || from < 0) continue;
      const [x, y, wide] = [from * cellPx, row * cellPx, (column - from) * cellPx];
      parts.push(`M${x} ${y}h${wide}v${cellPx}h${-wide}z`);
      from = -1;
    }
  }
  return parts.join('');
}

/** The outline of the frame on the art, as SVG path data in art px from the canvas' upper left corner. */
export const framePath = ({ canvas }: Pick<ArtSight, 'canvas'>, { corners }: FrameOnArt): string =>
  `M${corners.map(({ x, y }) => `${x + canvas.xPx} ${y + canvas.yPx}`).join('L')}z`;

/** The frames that are outlined, in their order, each once. */
export function framesOf({ first, worst, last }: ArtSight): (FrameOnArt & { readonly isWorst: boolean })[] {
  const byNumber = new Map([first, last, worst].flatMap((at) => (at ? [[at.frame, at] as const] : [])));
  return [...byNumber.values()]
    .sort((p, q) => p.frame - q.frame)
    .map((at) => ({ ...at, isWorst: at.frame === worst?.frame }));
}
