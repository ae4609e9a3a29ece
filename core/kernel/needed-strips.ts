import { type Affine, mapBox } from '../geometry/index.ts';
import { TILE_PX } from '../image/index.ts';

/** A part of a group's picture: columns [x0, x1), rows [y0, y1), px of that picture; it begins where a tile does. What no part holds is empty in the tile map. */
export interface NeededStrip {
  readonly x0: number;
  readonly x1: number;
  readonly y0: number;
  readonly y1: number;
}

/** Columns that are made at a time: as many as assembly/blur.ts takes. Whole tiles, as the rows of a strip are. */
export const STRIP_PX = 128;

/** Px of a group's picture that a px of the image may read to either side, with what rounding adds. */
const READ_PX = 4;

interface Size {
  readonly widthPx: number;
  readonly heightPx: number;
}

/** The whole picture of a group, strip by strip. */
export const allStrips = ({ widthPx, heightPx }: Size): NeededStrip[] =>
  Array.from({ length: Math.ceil(widthPx / STRIP_PX) }, (_, i) => ({
    x0: i * STRIP_PX,
    x1: Math.min(widthPx, (i + 1) * STRIP_PX),
    y0: 0,
    y1: heightPx,
  }));

/** Rows between two parts of a strip that are made with them: to begin anew costs as much. */
const JOINED_PX = 64;

/**
 * What of a group's picture is read where nothing nearer hides it. `covered`: for each tile of the image that it is laid
 * over in (32 × 32 px, row by row), not 0 where it is hidden. A strip comes in as many parts as are seen, or not at all.
 */
export function neededStrips(
  group: Size & { readonly imageToGroup: Affine },
  image: Size,
  covered: Uint8Array,
): NeededStrip[] {
  const columns = Math.ceil(image.widthPx / TILE_PX);
  const tileRows = Math.ceil(group.heightPx / TILE_PX);
  const strips = allStrips(group);
  const seen = strips.map(() => new Uint8Array(tileRows));
  covered.forEach((hidden, i) => {
    if (hidden) return;
    const [x, y] = [(i % columns) * TILE_PX, Math.floor(i / columns) * TILE_PX];
    const read = mapBox(group.imageToGroup, { x0: x, y0: y, x1: x + TILE_PX, y1: y + TILE_PX });
    const first = Math.max(0, Math.floor((read.x0 - READ_PX) / STRIP_PX));
    const last = Math.floor((read.x1 + READ_PX) / STRIP_PX);
    const top = Math.max(0, Math.floor((read.y0 - READ_PX) / TILE_PX));
    for (const rows of seen.slice(first, last + 1))
      rows.fill(1, top, Math.ceil((read.y1 + READ_PX) / TILE_PX));
  });
  return strips.flatMap((strip, i) =>
    runsOf(seen[i]!).map(({ from, to }) => ({
      ...strip,
      y0: from * TILE_PX,
      y1: Math.min(group.heightPx, to * TILE_PX),
    })),
  );
}

/** Where marks follow one another, with short gaps between them. */
function runsOf(marks: Uint8Array): { from: number; to: number }[] {
  const runs: { from: number; to: number }[] = [];
  marks.forEach((mark, i) => {
    const last = runs.at(-1);
    if (mark === 0) return;
    if (last && (i - last.to) * TILE_PX <= JOINED_PX) last.to = i + 1;
    else runs.push({ from: i, to: i + 1 });
  });
  return runs;
}

/** Rows of the picture as drawn that blurs reaching `reachPx` up and down read for the strips. */
export function rowsRead(
  strips: readonly NeededStrip[],
  reachPx: number,
  heightPx: number,
): { readonly top: number; readonly bottom: number } {
  const top = Math.min(...strips.map(({ y0 }) => y0));
  const bottom = Math.max(...strips.map(({ y1 }) => y1));
  return { top: Math.max(0, top - reachPx), bottom: Math.min(heightPx, bottom + reachPx) };
}
