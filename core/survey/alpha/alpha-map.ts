/** How much paint an art has, coarser and coarser: level 0 first, each half as fine as the one before. */
export interface AlphaMap {
  /** The art's own size, art px. */
  readonly widthPx: number;
  readonly heightPx: number;
  readonly levels: readonly SpannedLevel[];
}

/** Alpha, 0 to 255, row by row, each the mean over its texel. The texels divide the art evenly. */
export interface AlphaLevel {
  readonly columns: number;
  readonly rows: number;
  readonly data: Uint8Array;
}

/** A level that knows where its rows have any paint. */
export interface SpannedLevel extends AlphaLevel {
  /** By row: the first column with paint, and the one after the last; both 0 where the row is clear. */
  readonly from: Int32Array;
  readonly to: Int32Array;
  /** By row: 1 where everything from the first to the last column with paint is opaque. */
  readonly solid: Uint8Array;
}

function spanned(level: AlphaLevel): SpannedLevel {
  const { columns, rows, data } = level;
  const [from, to] = [new Int32Array(rows), new Int32Array(rows)];
  const solid = new Uint8Array(rows);
  for (let row = 0; row < rows; row++) {
    const start = row * columns;
    let first = 0;
    while (first < columns && data[start + first] === 0) first += 1;
    if (first === columns) continue;
    let end = columns;
    while (data[start + end - 1] === 0) end -= 1;
    from[row] = first;
    to[row] = end;
    let column = first;
    while (column < end && data[start + column] === 255) column += 1;
    if (column === end) solid[row] = 1;
  }
  return { ...level, from, to, solid };
}

/** Largest side of the finest level that is kept: a texel of a 4K art is then 4 px, a cell of the frame at its own size. */
export const FINEST_ALPHA_PX = 1024;

const HALF = 0.5;

/** Half as fine: means over two by two texels, of those that there are at odd borders. */
export function halvedAlpha({ columns, rows, data }: AlphaLevel): AlphaLevel {
  const [width, height] = [Math.ceil(columns / 2), Math.ceil(rows / 2)];
  const out = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    const [y0, y1] = [2 * y, Math.min(rows - 1, 2 * y + 1)];
    for (let x = 0; x < width; x++) {
      const [x0, x1] = [2 * x, Math.min(columns - 1, 2 * x + 1)];
      const sum =
        data[y0 * columns + x0]! +
        data[y0 * columns + x1]! +
        data[y1 * columns + x0]! +
        data[y1 * columns + x1]!;
      out[y * width + x] = sum / 4 + HALF;
    }
  }
  return { columns: width, rows: height, data: out };
}

/** An art's alpha with all its coarser levels, from the finest one that is known. */
export function alphaMapOf(widthPx: number, heightPx: number, finest: AlphaLevel): AlphaMap {
  const levels = [finest];
  while (levels.at(-1)!.columns > 1 || levels.at(-1)!.rows > 1) levels.push(halvedAlpha(levels.at(-1)!));
  return { widthPx, heightPx, levels: levels.map(spanned) };
}

/** Straight or premultiplied RGBA to the finest level of its alpha, halved until it fits. */
export function finestAlphaOf(rgba: ArrayLike<number>, widthPx: number, heightPx: number): AlphaLevel {
  const data = new Uint8Array(widthPx * heightPx);
  for (let i = 0; i < data.length; i++) data[i] = rgba[4 * i + 3]!;
  let level: AlphaLevel = { columns: widthPx, rows: heightPx, data };
  while (Math.max(level.columns, level.rows) > FINEST_ALPHA_PX) level = halvedAlpha(level);
  return level;
}

/** The coarsest level whose texels are no larger than `artPx` either way. */
export function levelFor(map: AlphaMap, artPx: number): SpannedLevel {
  let chosen = map.levels[0]!;
  for (const level of map.levels) {
    if (Math.max(map.widthPx / level.columns, map.heightPx / level.rows) > artPx) break;
    chosen = level;
  }
  return chosen;
}

/** Alpha at a point of the art (art px), 0 to 255; 0 outside of it. */
export function alphaAt(map: AlphaMap, level: AlphaLevel, x: number, y: number): number {
  if (!(x >= 0 && y >= 0 && x < map.widthPx && y < map.heightPx)) return 0;
  const column = Math.floor((x / map.widthPx) * level.columns);
  const row = Math.floor((y / map.heightPx) * level.rows);
  return level.data[row * level.columns + column]!;
}
