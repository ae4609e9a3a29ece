import { LRUCache } from 'lru-cache';

// A blur on a grid of px has the variance of the blur that is meant, from none on: a bell or a disc that is merely sampled
// does nothing while it is narrower than a px, and then sets in at once.

/** How many standard deviations a bell reaches. */
const REACH = 3.2;

/** Blurs that were asked for last: the room for one is counted before it is made, and most keep their width from frame to frame. */
const BLURS_KEPT = 64;

function remembered<V extends object>(make: (width: number) => V): (width: number) => V {
  const known = new LRUCache<number, V>({ max: BLURS_KEPT });
  return (width) => {
    const there = known.get(width);
    if (there) return there;
    const made = make(width);
    known.set(width, made);
    return made;
  };
}

/**
 * Half a Gaussian of standard deviation `sigmaPx`, the middle first: weights that add up to 1 with both sides, and whose
 * variance is sigmaPx². Empty for 0.
 */
export const bellOf = remembered((sigmaPx: number): readonly number[] => {
  if (!(sigmaPx > 0)) return [];
  const reach = Math.ceil(REACH * sigmaPx);
  const bell = (sigma: number): number[] => {
    const values = Array.from({ length: reach + 1 }, (_, k) => Math.exp(-(k * k) / (2 * sigma * sigma)));
    const sum = values.reduce((total, value, k) => total + (k === 0 ? 1 : 2) * value, 0);
    return values.map((value) => value / sum);
  };
  const variance = (weights: readonly number[]) =>
    weights.reduce((sum, weight, k) => sum + 2 * k * k * weight, 0);
  return bell(solve((sigma) => variance(bell(sigma)), sigmaPx * sigmaPx, 0.01, 2 * sigmaPx + 1));
});

/** A row of a disc: whole px to either side of the middle, −1 for less than one, and the share of the next. */
export interface DiscRow {
  readonly whole: number;
  readonly share: number;
}

export interface Disc {
  readonly rows: readonly DiscRow[];
  readonly areaPx: number;
}

/** Heights within a row at which the width of a disc is taken. */
const LINES = 16;

function rowsOf(radiusPx: number, stretch: number): DiscRow[] {
  const rows = Math.ceil(radiusPx - 0.5);
  return Array.from({ length: 2 * rows + 1 }, (_, i) => {
    let half = 0;
    for (let k = 0; k < LINES; k++) {
      const y = i - rows - 0.5 + (k + 0.5) / LINES;
      half += (stretch * Math.sqrt(Math.max(0, radiusPx * radiusPx - y * y))) / LINES;
    }
    // A row that reaches to half·2 px covers its middle px, `whole` more to either side, and shares of the next two.
    const whole = Math.floor(half - 0.5);
    return { whole, share: half - 0.5 - whole };
  });
}

/** Px² of a disc by its rows, and its variance along both axes. */
function momentsOf(rows: readonly DiscRow[]) {
  const middle = (rows.length - 1) / 2;
  let [areaPx, across, down] = [0, 0, 0];
  rows.forEach(({ whole, share }, i) => {
    const wide = 2 * whole + 1 + 2 * share;
    areaPx += wide;
    down += wide * (i - middle) ** 2;
    // 1² + 2² + … + whole², on both sides, and the next ones by their share.
    across += (whole * (whole + 1) * (2 * whole + 1)) / 3 + 2 * share * (whole + 1) ** 2;
  });
  return { areaPx, across: across / areaPx, down: down / areaPx };
}

/**
 * A disc on the grid, by its rows from top to bottom, and its area: its variance along both axes is that of a disc of
 * `radiusPx`, a quarter of its square. No rows for a radius of 0.
 */
export const discOf = remembered((radiusPx: number): Disc => {
  if (!(radiusPx > 0)) return { rows: [], areaPx: 0 };
  const variance = (radiusPx * radiusPx) / 4;
  const radius = solve((r) => momentsOf(rowsOf(r, 1)).down, variance, 0.5, radiusPx + 1);
  // A row is one as wide as the disc is on average there, which takes a little off across.
  const stretch = solve((by) => momentsOf(rowsOf(radius, by)).across, variance, 0.5, 2);
  const rows = rowsOf(radius, stretch);
  return { rows, areaPx: momentsOf(rows).areaPx };
});

/** Where a rising function reaches `value`, by halving. */
function solve(rising: (x: number) => number, value: number, from: number, to: number): number {
  let [low, high] = [from, to];
  for (let i = 0; i < 48; i++) {
    const middle = (low + high) / 2;
    if (rising(middle) < value) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
