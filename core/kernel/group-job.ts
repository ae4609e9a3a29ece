import { TILE_PX } from '../image/index.ts';
import { bellOf, type DiscRow, discOf, type GroupLayer } from '../picture/index.ts';
import type { KernelExports } from './kernel-exports.ts';
import { levelLayout, type StoredLevel } from './memory/index.ts';
import { type NeededStrip, rowsRead, STRIP_PX } from './needed-strips.ts';

/** What is done to a group's picture between being drawn and being laid over: blurred. */
export interface GroupJob {
  readonly widthPx: number;
  readonly heightPx: number;
  /** The picture as drawn: premultiplied 15-bit lanes. */
  readonly drawnAt: number;
  /** Room for passes: `groupBytes` says how much. */
  readonly passAt: number;
  /** Half a Gaussian, the middle first, in Q15; those beside the middle doubled. Empty for none. */
  readonly weights: Uint16Array;
  /** For each row of a disc from top to bottom: whole px to either side, and the share of the next; empty for none. */
  readonly spans: readonly DiscRow[];
  /** Px of the disc. */
  readonly areaPx: number;
  /** What of it is made; the rest is left as it is, and empty in the tile map. */
  readonly strips: readonly NeededStrip[];
  readonly result: StoredLevel;
}

/** Bytes of the result and of the passes of a group. */
export function groupBytes(group: GroupLayer): { result: number; pass: number; drawn: number } {
  const { widthPx, heightPx, gaussianSigmaPx, discRadiusPx } = group;
  const { end } = passLayout(
    widthPx,
    heightPx,
    gaussianWeights(gaussianSigmaPx).length,
    discOf(discRadiusPx).rows.length,
  );
  return {
    // Rows are read two px at a time.
    drawn: widthPx * heightPx * LANES_BYTES + 16,
    pass: end,
    result: levelLayout(widthPx, heightPx, 0, LANES_BYTES).end,
  };
}

/** Px up and down that the blurs of a group read beyond what they make. */
const reachOf = (weights: number, spans: number): number =>
  Math.max(0, weights - 1) + Math.max(0, (spans - 1) / 2);

/** Rows of a group's picture that must be drawn so that the strips can be made. */
export const rowsOfGroup = (group: GroupLayer, strips: readonly NeededStrip[]) =>
  rowsRead(
    strips,
    reachOf(gaussianWeights(group.gaussianSigmaPx).length, discOf(group.discRadiusPx).rows.length),
    group.heightPx,
  );

export function groupJob(
  group: GroupLayer,
  at: { readonly drawn: number; readonly pass: number; readonly result: number },
  strips: readonly NeededStrip[],
): GroupJob {
  const { widthPx, heightPx, gaussianSigmaPx, discRadiusPx } = group;
  const { rows: spans, areaPx } = discOf(discRadiusPx);
  return {
    widthPx,
    heightPx,
    drawnAt: at.drawn,
    passAt: at.pass,
    weights: gaussianWeights(gaussianSigmaPx),
    spans,
    areaPx,
    strips,
    result: levelLayout(widthPx, heightPx, at.result, LANES_BYTES).level,
  };
}

/** Bytes of a px of four 15-bit lanes. */
const LANES_BYTES = 8;

const up = (at: number): number => Math.ceil(at / 16) * 16;

/** Where the parts of the room for passes lie, from its start: what assembly/blur.ts asks for. */
function passLayout(widthPx: number, heightPx: number, weights: number, spans: number) {
  const radius = Math.max(weights - 1, (spans - 1) / 2, 0);
  const weightsAt = 0;
  const spansAt = up(weights * 2);
  const rowAt = spansAt + up(spans * 8);
  const lanesAt = rowAt + up((widthPx + 2 * radius + 4) * 8);
  const gauss = weights > 0 ? lanesAt + widthPx * heightPx * 8 + 16 : lanesAt;
  // A row of running sums for each row of the disc and a clear one; pairs of rows; where the rows are.
  const sums = (spans + 1) * (STRIP_PX + 2 * radius + 14) * 16;
  const disc = spans > 0 ? rowAt + sums + (radius + 1) * 64 + spans * 4 : rowAt;
  return { weightsAt, spansAt, rowAt, lanesAt, end: up(Math.max(gauss, disc)) + 16 };
}

const Q15 = 32768;

/** Half a Gaussian in whole numbers; those beside the middle are doubled, since they meet the mean of the two sides. They add up to 1 exactly, so that an even colour stays as it is. */
function gaussianWeights(sigmaPx: number): Uint16Array {
  const bell = bellOf(sigmaPx);
  if (bell.length === 0) return new Uint16Array(0);
  const weights = Uint16Array.from(bell, (value, k) => Math.round((k === 0 ? 1 : 2) * value * Q15));
  const rest = Q15 - weights.reduce((total, value) => total + value, 0);
  weights[0] = Math.min(Q15 - 1, (weights[0] as number) + rest);
  return weights;
}

/** Runs the passes on whichever thread holds the kernel. */
export function runGroup(kernel: KernelExports, buffer: ArrayBufferLike, job: GroupJob): void {
  const { widthPx: w, heightPx: h, drawnAt, passAt, weights, spans, strips, result } = job;
  const { pixelsAt, strideBytes, tilesAt, tileColumns } = result;
  const layout = passLayout(w, h, weights.length, spans.length);
  const [weightsAt, spansAt, rowAt, lanesAt] = [
    passAt + layout.weightsAt,
    passAt + layout.spansAt,
    passAt + layout.rowAt,
    passAt + layout.lanesAt,
  ];
  const [soft, round] = [weights.length > 0, spans.length > 0];
  const bytes = w * LANES_BYTES;
  if (soft) {
    new Uint16Array(buffer, weightsAt, weights.length).set(weights);
    const radius = weights.length - 1;
    const [to, stride] = round ? [drawnAt, bytes] : [pixelsAt, strideBytes];
    const made = rowsRead(strips, reachOf(0, spans.length), h);
    const { top, bottom } = rowsRead(strips, reachOf(weights.length, spans.length), h);
    kernel.blurAcross(
      drawnAt + top * bytes,
      lanesAt + top * bytes,
      w,
      bottom - top,
      weightsAt,
      radius,
      rowAt,
    );
    kernel.blurDown(lanesAt, to, w, h, stride, weightsAt, radius, rowAt, made.top, made.bottom);
  }
  const radius = (spans.length - 1) / 2;
  if (round) {
    const view = new DataView(buffer);
    spans.forEach(({ whole, share }, i) => {
      view.setInt32(spansAt + 8 * i, whole, true);
      view.setFloat32(spansAt + 8 * i + 4, share, true);
    });
  }
  new Uint8Array(buffer, tilesAt, tileColumns * Math.ceil(h / TILE_PX)).fill(0);
  for (const { x0, x1, y0, y1 } of strips) {
    const [columns, from] = [x1 - x0, pixelsAt + y0 * strideBytes + x0 * LANES_BYTES];
    if (round) {
      const room = [1 / job.areaPx, rowAt] as const;
      kernel.blurDisc(drawnAt, pixelsAt, w, h, strideBytes, spansAt, radius, ...room, x0, columns, y0, y1);
    }
    if (!soft && !round)
      kernel.copyRows(drawnAt + y0 * bytes + x0 * LANES_BYTES, from, columns, y1 - y0, bytes, strideBytes);
    const tiles = tilesAt + (y0 / TILE_PX) * tileColumns + x0 / TILE_PX;
    kernel.mapTiles(from, strideBytes, columns, y1 - y0, tiles, tileColumns);
  }
}
