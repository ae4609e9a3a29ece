import type { FillLevel } from './pyramid.ts';

const REACH = 3;

/** For each pixel near the hole, the place that its surroundings are most like; −1 elsewhere. */
export interface Matches {
  /** Index of the centre of the patch that is copied from. */
  readonly source: Int32Array;
  /** Mean squared difference of the patches. */
  readonly distance: Float32Array;
  /** Pixels whose patch touches the hole, in order of rows. */
  readonly targets: Int32Array;
  /** Centres that may be copied from: their whole patch is known. */
  readonly sources: Int32Array;
  readonly isSource: Uint8Array;
  /** How far each pixel lies in the hole from what is known, px. */
  readonly deep: Float32Array;
}

/** Targets and sources of a level, not matched yet. */
export function newMatches({ width, height, known, hole }: FillLevel): Matches {
  const near = new Uint8Array(width * height);
  const blocked = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      if (hole[at] === 1) spread(near, x, y, width, height);
      if (known[at] === 0) spread(blocked, x, y, width, height);
    }
  }
  const inside = (at: number) => {
    const [x, y] = [at % width, Math.floor(at / width)];
    return x >= REACH && y >= REACH && x < width - REACH && y < height - REACH;
  };
  const isSource = blocked.map((value, at) => (value === 0 && inside(at) ? 1 : 0));
  const indices = Int32Array.from({ length: width * height }, (_, i) => i);
  return {
    source: new Int32Array(width * height).fill(-1),
    distance: new Float32Array(width * height).fill(Infinity),
    targets: indices.filter((i) => near[i] === 1),
    sources: indices.filter((i) => isSource[i] === 1),
    isSource,
    deep: depths(width, height, hole),
  };
}

/** Steps from the rim, over sides and corners. */
function depths(width: number, height: number, hole: Uint8Array): Float32Array {
  const deep = Float32Array.from(hole, (v) => (v === 1 ? Infinity : 0));
  const relax = (at: number, other: number, step: number) => {
    deep[at] = Math.min(deep[at] as number, (deep[other] as number) + step);
  };
  for (const forwards of [true, false]) {
    const sign = forwards ? -1 : 1;
    for (let k = 0; k < deep.length; k++) {
      const at = forwards ? k : deep.length - 1 - k;
      const [x, y] = [at % width, Math.floor(at / width)];
      const [sideways, upwards] = [x + sign >= 0 && x + sign < width, y + sign >= 0 && y + sign < height];
      if (sideways) relax(at, at + sign, 1);
      if (upwards) relax(at, at + sign * width, 1);
      if (sideways && upwards) relax(at, at + sign * width + sign, Math.SQRT2);
    }
  }
  return deep;
}

/** What is laid down near the rim is surer: the weight of a patch falls by this for every step inwards. */
const SURER = 1.25;
/** A match from far off costs this much, for the far end of the picture: like lies near like. */
const FAR_COST = 2500;
/** Up and down counts more than across: sky, water and ground lie in bands (common practice, no source). */
const LEVEL = 6;

function spread(to: Uint8Array, x: number, y: number, width: number, height: number): void {
  for (let v = Math.max(0, y - REACH); v <= Math.min(height - 1, y + REACH); v++)
    to.fill(1, v * width + Math.max(0, x - REACH), v * width + Math.min(width - 1, x + REACH) + 1);
}

/** Mean squared difference of the patch at `target` from that at `source`; given up past `limit`. */
export function patchDistance(level: FillLevel, target: number, source: number, limit: number): number {
  const { width, height, colour } = level;
  const [tx, ty] = [target % width, Math.floor(target / width)];
  let sum = 0;
  let count = 0;
  const most = limit * (2 * REACH + 1) ** 2;
  for (let dy = -REACH; dy <= REACH; dy++) {
    const y = ty + dy;
    if (y < 0 || y >= height) continue;
    for (let dx = -REACH; dx <= REACH; dx++) {
      const x = tx + dx;
      if (x < 0 || x >= width) continue;
      const p = (y * width + x) * 3;
      const q = (source + dy * width + dx) * 3;
      const red = (colour[p] as number) - (colour[q] as number);
      const green = (colour[p + 1] as number) - (colour[q + 1] as number);
      const blue = (colour[p + 2] as number) - (colour[q + 2] as number);
      sum += red * red + green * green + blue * blue;
      count += 1;
    }
    if (sum > most) return Infinity;
  }
  return sum / count;
}

/**
 * One round of search (Barnes et al. 2009, PatchMatch): good matches spread to their neighbours, then each is tried
 * against random places ever nearer to its own. `forwards` alternates.
 */
export function searchOnce(
  level: FillLevel,
  matches: Matches,
  random: () => number,
  { forwards, spreadOnly }: { forwards: boolean; spreadOnly: boolean },
): void {
  const { width, height } = level;
  const { targets, sources, source, distance, isSource } = matches;
  const step = forwards ? -1 : 1;
  const take = (target: number, candidate: number): void => {
    if (candidate < 0 || candidate >= isSource.length || isSource[candidate] === 0) return;
    const away = farCost(level, target, candidate);
    const d = away + patchDistance(level, target, candidate, (distance[target] as number) - away);
    if (d < (distance[target] as number)) {
      distance[target] = d;
      source[target] = candidate;
    }
  };
  for (let k = 0; k < targets.length; k++) {
    const target = targets[forwards ? k : targets.length - 1 - k] as number;
    const x = target % width;
    const own = source[target] as number;
    distance[target] =
      own < 0 ? Infinity : farCost(level, target, own) + patchDistance(level, target, own, Infinity);
    if (x + step >= 0 && x + step < width) {
      const beside = source[target + step] as number;
      if (beside >= 0) take(target, beside - step);
    }
    const above = target + step * width;
    if (above >= 0 && above < source.length && (source[above] as number) >= 0)
      take(target, (source[above] as number) - step * width);
    if (spreadOnly) continue;
    if ((source[target] as number) < 0)
      take(target, sources[Math.floor(random() * sources.length)] as number);
    for (let radius = Math.max(width, height); radius >= 1; radius /= 2) {
      const best = source[target] as number;
      const from = best < 0 ? target : best;
      const u = Math.round((from % width) + (2 * random() - 1) * radius);
      const v = Math.round(Math.floor(from / width) + (2 * random() - 1) * radius);
      if (u >= 0 && v >= 0 && u < width && v < height) take(target, v * width + u);
    }
    if ((source[target] as number) < 0)
      take(target, sources[Math.floor(random() * sources.length)] as number);
  }
}

function farCost({ width, height }: FillLevel, target: number, source: number): number {
  const across = (target % width) - (source % width);
  const down = Math.floor(target / width) - Math.floor(source / width);
  return (FAR_COST * (across * across + LEVEL * down * down)) / (width * width + height * height);
}

/** Colours the hole: each pixel the mean of what the patches that cover it would put there, like ones counting more. */
export function vote(level: FillLevel, { targets, source, distance, deep }: Matches): void {
  const { width, height, colour, hole } = level;
  const sums = new Float64Array(width * height * 4);
  const sorted = Float32Array.from(targets, (t) => distance[t] as number).sort();
  const usual = Math.max(1, sorted[Math.floor(sorted.length * 0.75)] ?? 1);
  for (const target of targets) {
    const from = source[target] as number;
    if (from < 0) continue;
    const sure = SURER ** -Math.min(60, deep[target] as number);
    const weight = (Math.exp(-(distance[target] as number) / (2 * usual)) + 1e-6) * sure;
    const [tx, ty] = [target % width, Math.floor(target / width)];
    for (let dy = -REACH; dy <= REACH; dy++) {
      const y = ty + dy;
      if (y < 0 || y >= height) continue;
      for (let dx = -REACH; dx <= REACH; dx++) {
        const x = tx + dx;
        const at = y * width + x;
        if (x < 0 || x >= width || hole[at] === 0) continue;
        const q = (from + dy * width + dx) * 3;
        for (let c = 0; c < 3; c++)
          sums[at * 4 + c] = (sums[at * 4 + c] as number) + weight * (colour[q + c] as number);
        sums[at * 4 + 3] = (sums[at * 4 + 3] as number) + weight;
      }
    }
  }
  for (let at = 0; at < hole.length; at++) {
    const weight = sums[at * 4 + 3] as number;
    if (hole[at] === 0 || weight === 0) continue;
    for (let c = 0; c < 3; c++) colour[at * 3 + c] = (sums[at * 4 + c] as number) / weight;
  }
}

/** The matches of a coarser level as a start for the next finer one. */
export function refineMatches(coarse: Matches, coarseLevel: FillLevel, level: FillLevel): Matches {
  const matches = newMatches(level);
  const { width } = level;
  for (const target of matches.targets) {
    const [x, y] = [target % width, Math.floor(target / width)];
    const above = coarse.source[(y >> 1) * coarseLevel.width + (x >> 1)] ?? -1;
    if (above < 0) continue;
    const u = (above % coarseLevel.width) * 2 + (x & 1);
    const v = Math.floor(above / coarseLevel.width) * 2 + (y & 1);
    const candidate = v * width + u;
    if (u < width && v < level.height && matches.isSource[candidate] === 1)
      matches.source[target] = candidate;
  }
  return matches;
}
