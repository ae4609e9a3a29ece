import { depthAtSpeed, speedAtDepth } from './placement.ts';

export const SPREAD_STEPS = ['speed', 'distance', 'ratio'] as const;
/** What runs in even steps from the nearest plane to the farthest: speed r, depth z, or the logarithm of the distance. */
export type SpreadStep = (typeof SPREAD_STEPS)[number];

export interface Spread {
  /** Speeds at home of the nearest and the farthest plane, 1 on the datum; both positive. */
  readonly nearestSpeed: number;
  readonly farthestSpeed: number;
  readonly step: SpreadStep;
  /** 0 leaves everything on the datum, 1 reaches both speeds; between and beyond by the logarithm of the distance. */
  readonly strength: number;
}

/** Depths for `count` planes in order, near to far, stage px. A single plane takes the nearest speed. */
export function spreadDepths(
  count: number,
  { nearestSpeed, farthestSpeed, step, strength }: Spread,
  homeDistanceSpx: number,
): number[] {
  const [near, far] = [nearestSpeed, farthestSpeed].map((speed) => depthAtSpeed(speed, homeDistanceSpx)) as [
    number,
    number,
  ];
  const between = (from: number, to: number, share: number) => from + (to - from) * share;
  return Array.from({ length: count }, (_, i) => {
    const share = count > 1 ? i / (count - 1) : 0;
    const depth = {
      speed: () => depthAtSpeed(between(nearestSpeed, farthestSpeed, share), homeDistanceSpx),
      distance: () => between(near, far, share),
      ratio: () => depthAtSpeed(nearestSpeed * (farthestSpeed / nearestSpeed) ** share, homeDistanceSpx),
    }[step]();
    return strength === 1 ? depth : scaledDepth(depth, strength, homeDistanceSpx);
  });
}

/** The depth at the distance D·(d/D)^strength: all depths grow and shrink about the datum, and none turns over. */
export const scaledDepth = (depthSpx: number, strength: number, homeDistanceSpx: number): number =>
  depthAtSpeed(speedAtDepth(depthSpx, homeDistanceSpx) ** strength, homeDistanceSpx);
