import { speedAtDepth } from '@keen-ridge/core/stage';

/** Depth along the Stand: logarithm of the distance from home, so that equal steps are equal ratios of speed. */
export interface StandScale {
  readonly yAt: (depthSpx: number) => number;
  readonly depthAt: (y: number) => number;
}

/** What the Stand shows even when no plane stands there: from twice and a bit the datum's speed to a twelfth. */
const NEAREST_SPEED = 2.3;
const FARTHEST_SPEED = 1 / 13;
/** Room left beyond the outermost planes. */
const BEYOND = 1.12;

/** A scale over [top, bottom] px that holds every depth given. */
export function standScale(
  depthsSpx: readonly number[],
  homeDistanceSpx: number,
  top: number,
  bottom: number,
): StandScale {
  const speeds = depthsSpx.map((depth) => speedAtDepth(depth, homeDistanceSpx));
  const nearest = Math.log(Math.max(NEAREST_SPEED, ...speeds.map((speed) => speed * BEYOND)));
  const farthest = Math.log(Math.min(FARTHEST_SPEED, ...speeds.map((speed) => speed / BEYOND)));
  const pxPerLog = (bottom - top) / (nearest - farthest);
  return {
    yAt: (depthSpx) => top + (nearest - Math.log(speedAtDepth(depthSpx, homeDistanceSpx))) * pxPerLog,
    depthAt: (y) => homeDistanceSpx * (Math.exp((y - top) / pxPerLog - nearest) - 1),
  };
}

/** The same range by true distance: equal steps are equal depths. */
export function trueScale(
  depthsSpx: readonly number[],
  homeDistanceSpx: number,
  top: number,
  bottom: number,
): StandScale {
  const ends = [NEAREST_SPEED, 1 / NEAREST_SPEED].map((speed) => homeDistanceSpx * (1 / speed - 1));
  const nearest = Math.min(...ends, ...depthsSpx);
  const farthest = Math.max(...ends, ...depthsSpx);
  const room = (farthest - nearest) * 0.04;
  const [first, pxPerSpx] = [nearest - room, (bottom - top) / (farthest - nearest + 2 * room)];
  return {
    yAt: (depthSpx) => top + (depthSpx - first) * pxPerSpx,
    depthAt: (y) => Math.max(-0.99 * homeDistanceSpx, first + (y - top) / pxPerSpx),
  };
}

const TICK_SPEEDS = [
  8, 4, 3, 2, 1.5, 1, 0.75, 0.5, 0.33, 0.25, 0.15, 0.1, 0.07, 0.05, 0.03, 0.02, 0.01,
] as const;
/** Marks nearer than this to the one before are left out, px. */
const LEAST_TICK_GAP = 14;

/** Speeds that are marked along a scale, with their depths and places. */
export function speedTicks(
  scale: StandScale,
  homeDistanceSpx: number,
  top: number,
  bottom: number,
): { speed: number; depthSpx: number; y: number }[] {
  const ticks = TICK_SPEEDS.map((speed) => {
    const depthSpx = homeDistanceSpx * (1 / speed - 1);
    return { speed, depthSpx, y: scale.yAt(depthSpx) };
  }).filter(({ y }) => y >= top && y <= bottom);
  const datum = ticks.find(({ speed }) => speed === 1)?.y ?? Number.NEGATIVE_INFINITY;
  let last = Number.NEGATIVE_INFINITY;
  return ticks.filter(({ speed, y }) => {
    const kept = speed === 1 || (y - last >= LEAST_TICK_GAP && Math.abs(y - datum) >= LEAST_TICK_GAP);
    if (kept) last = y;
    return kept;
  });
}

/** How near, px, a dragged bar must come to another's place to take its depth. */
const SNAP_PX = 5;

/** The depth that a bar dragged to `y` takes: that of the nearest of `depthsSpx` within reach, else its own. */
export function snappedDepth(
  scale: StandScale,
  y: number,
  depthsSpx: readonly number[],
): { readonly depthSpx: number; readonly snapped: boolean } {
  const near = depthsSpx
    .map((depthSpx) => ({ depthSpx, off: Math.abs(scale.yAt(depthSpx) - y) }))
    .filter(({ off }) => off <= SNAP_PX)
    .sort((p, q) => p.off - q.off)[0];
  return near ? { depthSpx: near.depthSpx, snapped: true } : { depthSpx: scale.depthAt(y), snapped: false };
}

/**
 * Places for labels of a given height, as near as can be to where they belong, in order and never overlapping.
 * `wanted` ascends. Groups that collide are centred on the mean of what they wanted, kept within [top, bottom] where
 * there is room for all.
 */
export function spreadLabels(
  wanted: readonly number[],
  height: number,
  top: number,
  bottom: number,
): number[] {
  const groups: { first: number; count: number; at: number }[] = [];
  wanted.forEach((y, i) => {
    groups.push({ first: i, count: 1, at: y });
    for (
      let last = groups.at(-1)!, before = groups.at(-2);
      before && before.at + before.count * height > last.at;
    ) {
      const count = before.count + last.count;
      const mean =
        wanted.slice(before.first, before.first + count).reduce((sum, w, k) => sum + w - k * height, 0) /
        count;
      groups.splice(-2, 2, { first: before.first, count, at: Math.max(top, mean) });
      last = groups.at(-1)!;
      before = groups.at(-2);
    }
  });
  // Whole px: in a crowd, one label that moves would shift all the others by a hair, and each would be drawn anew.
  const places = groups.flatMap(({ count, at }) =>
    Array.from({ length: count }, (_, k) => Math.round(at) + k * height),
  );
  const over = (places.at(-1) ?? 0) - bottom;
  if (over <= 0) return places;
  for (
    let i = places.length - 1, limit = bottom;
    i >= 0 && (places[i] as number) > limit;
    i--, limit -= height
  )
    places[i] = limit;
  return places;
}
