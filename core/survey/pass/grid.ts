/** Output px of a cell of the frame, either way. */
export const CELL_PX = 4;

/** The frame as cells; those at the right and lower border may be smaller. */
export interface Grid {
  readonly columns: number;
  readonly rows: number;
  readonly widthPx: number;
  readonly heightPx: number;
  /** Output px of a cell that lie within the frame, by column and by row. */
  readonly columnPx: Float32Array;
  readonly rowPx: Float32Array;
  /** The middle of what of a cell lies within the frame, output px. */
  readonly columnMid: Float32Array;
  readonly rowMid: Float32Array;
}

const sizes = (count: number, px: number): Float32Array =>
  Float32Array.from({ length: count }, (_, i) => Math.min(CELL_PX, px - i * CELL_PX));

const middles = (of: Float32Array): Float32Array => of.map((px, i) => i * CELL_PX + px / 2);

export function gridOf({ widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number }): Grid {
  const [columns, rows] = [Math.ceil(widthPx / CELL_PX), Math.ceil(heightPx / CELL_PX)];
  const [columnPx, rowPx] = [sizes(columns, widthPx), sizes(rows, heightPx)];
  const [columnMid, rowMid] = [middles(columnPx), middles(rowPx)];
  return { columns, rows, widthPx, heightPx, columnPx, rowPx, columnMid, rowMid };
}

/** The cell that a point of the frame (output px) lies in; −1 outside of the frame. */
export function cellAt({ columns, widthPx, heightPx }: Grid, x: number, y: number): number {
  if (!(x >= 0 && y >= 0 && x < widthPx && y < heightPx)) return -1;
  return Math.floor(y / CELL_PX) * columns + Math.floor(x / CELL_PX);
}
