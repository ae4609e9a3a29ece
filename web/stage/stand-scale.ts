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

const TICK_SPEEDS = [
  8, 4, 3, 2, 1.5, 1, 0.75, 0.5, 0.33, 0.25, 0.15, 0.1, 0.07, 0.05, 0.03, 0.02, 0.01,
] as const;

/** Speeds that are marked along a scale, with their places. */
export function speedTicks(
  scale: StandScale,
  homeDistanceSpx: number,
  top: number,
  bottom: number,
): { speed: number; y: number }[] {
  return TICK_SPEEDS.map((speed) => ({ speed, y: scale.yAt(homeDistanceSpx * (1 / speed - 1)) })).filter(
    ({ y }) => y >= top && y <= bottom,
  );
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
  const places = groups.flatMap(({ count, at }) => Array.from({ length: count }, (_, k) => at + k * height));
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
