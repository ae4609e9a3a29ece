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

/** 1 at every centre that may be copied from. */
function sourcesOf({ width, height, known }: FillLevel): Uint8Array {
  const blocked = grown(known, width, height, 0);
  const isSource = new Uint8Array(width * height);
  for (let y = REACH; y < height - REACH; y++)
    for (let at = y * width + REACH, end = (y + 1) * width - REACH; at < end; at++)
      if (blocked[at] === 0) isSource[at] = 1;
  return isSource;
}

/** How many centres of a level may be copied from. */
export const sourceCount = (level: FillLevel): number => countOf(sourcesOf(level));

/** Targets and sources of a level, not matched yet. */
export function newMatches(level: FillLevel): Matches {
  const { width, height, hole } = level;
  const near = grown(hole, width, height, 1);
  const isSource = sourcesOf(level);
  return {
    source: new Int32Array(width * height).fill(-1),
    distance: new Float32Array(width * height).fill(Infinity),
    targets: indicesOf(near),
    sources: indicesOf(isSource),
    isSource,
    deep: depths(width, height, hole),
  };
}

/** 1 wherever a pixel within a patch's reach has the value. */
function grown(from: Uint8Array, width: number, height: number, value: number): Uint8Array {
  const across = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) {
      if (from[row + x] !== value) continue;
      // Where the one before it was marked as well, all but its last neighbour are marked already.
      const first = x > 0 && from[row + x - 1] === value ? x + REACH : x - REACH;
      for (let u = Math.max(0, first); u <= Math.min(width - 1, x + REACH); u++) across[row + u] = 1;
    }
  }
  const out = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let v = Math.max(0, y - REACH); v <= Math.min(height - 1, y + REACH); v++) {
      const [to, row] = [y * width, v * width];
      for (let x = 0; x < width; x++) if (across[row + x] === 1) out[to + x] = 1;
    }
  }
  return out;
}

function countOf(marked: Uint8Array): number {
  let count = 0;
  for (let at = 0; at < marked.length; at++) count += marked[at] as number;
  return count;
}

function indicesOf(marked: Uint8Array): Int32Array {
  const out = new Int32Array(countOf(marked));
  for (let at = 0, to = 0; at < marked.length; at++) if (marked[at] === 1) out[to++] = at;
  return out;
}

/** Steps from the rim, over sides and corners. */
function depths(width: number, height: number, hole: Uint8Array): Float32Array {
  const deep = new Float32Array(width * height);
  for (let at = 0; at < hole.length; at++) if (hole[at] === 1) deep[at] = Infinity;
  const relax = (at: number, x: number, y: number, sign: 1 | -1) => {
    let least = deep[at] as number;
    const sideways = x + sign >= 0 && x + sign < width;
    const upwards = y + sign >= 0 && y + sign < height;
    if (sideways) least = Math.min(least, (deep[at + sign] as number) + 1);
    if (upwards) least = Math.min(least, (deep[at + sign * width] as number) + 1);
    if (sideways && upwards) least = Math.min(least, (deep[at + sign * width + sign] as number) + Math.SQRT2);
    deep[at] = least;
  };
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) if (hole[at] === 1) relax(at, x, y, -1);
  for (let y = height - 1, at = deep.length - 1; y >= 0; y--)
    for (let x = width - 1; x >= 0; x--, at--) if (hole[at] === 1) relax(at, x, y, 1);
  return deep;
}

/** What is laid down near the rim is surer: the weight of a patch falls by this for every step inwards. */
const SURER = 1.25;
/** A match from far off costs this much, for the far end of the picture: like lies near like. */
const FAR_COST = 2500;
/** Up and down counts more than across: sky, water and ground lie in bands (common practice, no source). */
const LEVEL = 6;

/** Mean squared difference of the patch at `target` from that at `source`; given up past `limit`. */
export function patchDistance(level: FillLevel, target: number, source: number, limit: number): number {
  const { width, height, colour } = level;
  const tx = target % width;
  const ty = (target - tx) / width;
  const [left, right] = [Math.max(-REACH, -tx), Math.min(REACH, width - 1 - tx)];
  const [top, bottom] = [Math.max(-REACH, -ty), Math.min(REACH, height - 1 - ty)];
  const most = limit * (2 * REACH + 1) ** 2;
  const apart = (source - target) * 3;
  let sum = 0;
  for (let dy = top; dy <= bottom; dy++) {
    const end = (target + dy * width + right) * 3;
    for (let p = (target + dy * width + left) * 3; p <= end; p += 3) {
      const q = p + apart;
      const red = (colour[p] as number) - (colour[q] as number);
      const green = (colour[p + 1] as number) - (colour[q + 1] as number);
      const blue = (colour[p + 2] as number) - (colour[q + 2] as number);
      sum += red * red + green * green + blue * blue;
    }
    if (sum > most) return Infinity;
  }
  return sum / ((right - left + 1) * (bottom - top + 1));
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
  const [tx, sx] = [target % width, source % width];
  const across = tx - sx;
  const down = (target - tx - source + sx) / width;
  return (FAR_COST * (across * across + LEVEL * down * down)) / (width * width + height * height);
}

/** At most so many distances are looked at for the usual one. */
const MOST_SORTED = 40_000;

/** The distance that three of four targets keep within. */
function usualDistance({ targets, distance }: Matches): number {
  const step = Math.max(1, Math.floor(targets.length / MOST_SORTED));
  const some = new Float32Array(Math.ceil(targets.length / step));
  for (let i = 0; i < some.length; i++) some[i] = distance[targets[i * step] as number] as number;
  return Math.max(1, some.sort()[Math.floor(some.length * 0.75)] ?? 1);
}

/** Colours the hole: each pixel the mean of what the patches that cover it would put there, like ones counting more. */
export function vote(level: FillLevel, matches: Matches): void {
  const { targets, source, distance, deep } = matches;
  const { width, height, colour, hole } = level;
  const first = targets[0];
  const last = targets.at(-1);
  if (first === undefined || last === undefined) return;
  // Sums are kept for the rows that the hole touches alone: it is small beside what is looked at round it.
  const from = Math.max(0, Math.floor(first / width) - REACH) * width;
  const to = Math.min(height, Math.floor(last / width) + REACH + 1) * width;
  const sums = new Float64Array((to - from) * 4);
  const usual = usualDistance(matches);
  for (let k = 0; k < targets.length; k++) {
    const target = targets[k] as number;
    const at = source[target] as number;
    if (at < 0) continue;
    const sure = SURER ** -Math.min(60, deep[target] as number);
    const weight = (Math.exp(-(distance[target] as number) / (2 * usual)) + 1e-6) * sure;
    const tx = target % width;
    const ty = (target - tx) / width;
    const [left, right] = [Math.max(-REACH, -tx), Math.min(REACH, width - 1 - tx)];
    const [top, bottom] = [Math.max(-REACH, -ty), Math.min(REACH, height - 1 - ty)];
    for (let dy = top; dy <= bottom; dy++) {
      const row = target + dy * width;
      for (let dx = left; dx <= right; dx++) {
        if (hole[row + dx] === 0) continue;
        const q = (at + dy * width + dx) * 3;
        const s = (row + dx - from) * 4;
        sums[s] = (sums[s] as number) + weight * (colour[q] as number);
        sums[s + 1] = (sums[s + 1] as number) + weight * (colour[q + 1] as number);
        sums[s + 2] = (sums[s + 2] as number) + weight * (colour[q + 2] as number);
        sums[s + 3] = (sums[s + 3] as number) + weight;
      }
    }
  }
  for (let at = from; at < to; at++) {
    const s = (at - from) * 4;
    const weight = sums[s + 3] as number;
    if (hole[at] === 0 || weight === 0) continue;
    for (let c = 0; c < 3; c++) colour[at * 3 + c] = (sums[s + c] as number) / weight;
  }
}

/** The matches of a coarser level as a start for the next finer one. */
export function refineMatches(coarse: Matches, coarseLevel: FillLevel, level: FillLevel): Matches {
  const matches = newMatches(level);
  const { width } = level;
  for (let k = 0; k < matches.targets.length; k++) {
    const target = matches.targets[k] as number;
    const x = target % width;
    const y = (target - x) / width;
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
