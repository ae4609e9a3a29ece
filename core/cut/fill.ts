import { type Raster, raster } from '../image/index.ts';
import { seededRandom } from '../units/index.ts';
import { type Matches, newMatches, refineMatches, searchOnce, sourceCount, vote } from './patch-match.ts';
import { coarser, type FillLevel, fillSmoothly } from './pyramid.ts';

/** How much of the surroundings is looked at, as a multiple of the hole's size and at least so many px. */
const SURROUNDINGS = 1.2;
const LEAST_SURROUNDINGS_PX = 80;
/** Coarsest level: the hole is a few patches across. */
const SMALLEST_SIDE_PX = 24;
/** Holes of more pixels than this are searched at a coarser level, and only refined at the finer ones. */
const MOST_SEARCHED_PX = 60_000;
/** Of more than this the finer paint is only copied from where the coarser one was found. */
const MOST_REFINED_PX = 300_000;
const ROUNDS = 5;
const FEWEST_SOURCES = 40;

/**
 * Fills a hole from its surroundings, from coarse to fine: at each scale the hole is matched patch by patch with what
 * is known and coloured from the matches, several times over (Wexler et al. 2007 with the search of Barnes et al.
 * 2009). `hole` holds the alpha to fill each pixel up to, 0 where nothing is to be filled. Seeded: the same picture
 * gives the same filling. Where nothing is known round the hole it stays as it is.
 */
export function fillHole(
  image: Raster<'straight'>,
  hole: Uint8Array,
  onProgress: (share: number) => void = () => {},
  onCoarse: (coarse: CoarseFill) => void = () => {},
): Raster<'straight'> {
  const window = windowOf(image, hole);
  if (!window) return image;
  const levels = pyramidOf(cropLevel(image, hole, window));
  const coarsest = levels.at(-1) as FillLevel;
  let matches = newMatches(coarsest);
  if (matches.sources.length === 0) return image;
  fillSmoothly(coarsest);
  const random = seededRandom(1);
  const work = levels.map((level) => level.hole.reduce((sum, v) => sum + v, 0) + 1);
  const total = work.reduce((sum, v) => sum + v, 0);
  let done = 0;
  for (let i = levels.length - 1; i >= 0; i--) {
    const level = levels[i] as FillLevel;
    if (i < levels.length - 1) matches = startLevel(matches, levels[i + 1] as FillLevel, level);
    const heavy = (work[i] as number) > MOST_SEARCHED_PX;
    const rounds = (work[i] as number) > MOST_REFINED_PX ? 0 : heavy ? 1 : ROUNDS;
    for (let round = 0; round < rounds; round++) {
      searchOnce(level, matches, random, { forwards: true, spreadOnly: heavy });
      searchOnce(level, matches, random, { forwards: false, spreadOnly: heavy });
      vote(level, matches);
      onProgress((done + ((work[i] as number) * (round + 1)) / rounds) / total);
    }
    done += work[i] as number;
    onProgress(done / total);
    if (i > 0) onCoarse(coarseOf(level, window, 2 ** i));
  }
  return pasted(image, hole, levels[0] as FillLevel, window);
}

/** The filling as far as it is known: coarse, clear beside the hole, and where it lies in the image that is filled. */
export interface CoarseFill {
  readonly image: Raster<'straight'>;
  /** Px of the image: its upper left corner, and how many one px of it stands for. */
  readonly left: number;
  readonly top: number;
  readonly pxEach: number;
}

function coarseOf(level: FillLevel, { left, top }: Window, pxEach: number): CoarseFill {
  const image = raster(level.width, level.height, 'straight');
  for (let at = 0; at < level.hole.length; at++) {
    if (level.hole[at] === 0) continue;
    for (let c = 0; c < 3; c++) image.data[at * 4 + c] = Math.round(level.colour[at * 3 + c] as number);
    image.data[at * 4 + 3] = 255;
  }
  return { image, left, top, pxEach };
}

/** The finer level begins with the coarser one's matches, and with the colours that they vote for. */
function startLevel(coarse: Matches, coarseLevel: FillLevel, level: FillLevel): Matches {
  const matches = refineMatches(coarse, coarseLevel, level);
  for (let at = 0; at < level.hole.length; at++) {
    if (level.hole[at] === 0) continue;
    const x = at % level.width;
    const y = (at - x) / level.width;
    const from = ((y >> 1) * coarseLevel.width + (x >> 1)) * 3;
    for (let c = 0; c < 3; c++) level.colour[at * 3 + c] = coarseLevel.colour[from + c] as number;
  }
  for (const target of matches.targets) matches.distance[target] = 0;
  vote(level, matches);
  return matches;
}

interface Window {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

function windowOf({ widthPx, heightPx }: Raster, hole: Uint8Array): Window | null {
  let [x0, y0, x1, y1] = [widthPx, heightPx, 0, 0];
  for (let at = 0; at < hole.length; at++) {
    if (hole[at] === 0) continue;
    const x = at % widthPx;
    const y = (at - x) / widthPx;
    x0 = Math.min(x0, x);
    y0 = Math.min(y0, y);
    x1 = Math.max(x1, x + 1);
    y1 = Math.max(y1, y + 1);
  }
  if (x1 <= x0) return null;
  const around = (size: number) => Math.max(LEAST_SURROUNDINGS_PX, Math.ceil(size * SURROUNDINGS));
  const [left, top] = [Math.max(0, x0 - around(x1 - x0)), Math.max(0, y0 - around(y1 - y0))];
  const right = Math.min(widthPx, x1 + around(x1 - x0));
  const bottom = Math.min(heightPx, y1 + around(y1 - y0));
  return { left, top, width: right - left, height: bottom - top };
}

function cropLevel(image: Raster, hole: Uint8Array, { left, top, width, height }: Window): FillLevel {
  const level: FillLevel = {
    width,
    height,
    colour: new Float32Array(width * height * 3),
    known: new Uint8Array(width * height),
    hole: new Uint8Array(width * height),
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const from = (y + top) * image.widthPx + x + left;
      const to = y * width + x;
      level.hole[to] = hole[from] === 0 ? 0 : 1;
      level.known[to] = level.hole[to] === 0 && image.data[from * 4 + 3] === 255 ? 1 : 0;
      for (let c = 0; c < 3; c++) level.colour[to * 3 + c] = image.data[from * 4 + c] as number;
    }
  }
  return level;
}

/** Finest first, down to where the hole is only a few patches across or nothing could be copied any more. */
function pyramidOf(finest: FillLevel): FillLevel[] {
  const levels = [finest];
  for (;;) {
    const last = levels.at(-1) as FillLevel;
    if (Math.min(last.width, last.height) < 2 * SMALLEST_SIDE_PX) return levels;
    const next = coarser(last);
    if (sourceCount(next) < FEWEST_SOURCES) return levels;
    levels.push(next);
  }
}

function pasted(
  image: Raster,
  hole: Uint8Array,
  level: FillLevel,
  { left, top }: Window,
): Raster<'straight'> {
  const out = raster(image.widthPx, image.heightPx, 'straight', Uint8Array.from(image.data));
  for (let at = 0; at < level.hole.length; at++) {
    if (level.hole[at] === 0) continue;
    const to = (Math.floor(at / level.width) + top) * image.widthPx + (at % level.width) + left;
    for (let c = 0; c < 3; c++) out.data[to * 4 + c] = Math.round(level.colour[at * 3 + c] as number);
    out.data[to * 4 + 3] = hole[to] as number;
  }
  return out;
}
