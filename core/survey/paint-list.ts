import { SIDES, type Side } from '../image/index.ts';
import type { Plane, PlaneId } from '../scene/index.ts';
import { planeOf } from '../scene/records/index.ts';
import { factsOf } from '../staging/content/index.ts';
import { LEAST_MISSING_PX } from './checks/edges.ts';
import type { Finding } from './finding.ts';
import { endsAt } from './margins/edge-gaps.ts';
import type { PlaneRows } from './rows.ts';
import { standsIn } from './stands-in.ts';
import { SET_UP_FRAME, type SurveyRows } from './survey-run.ts';

/** What a plane's paint needs for this move, against what there is. */
export interface PaintNeed {
  readonly planeId: PlaneId;
  /** The art as it is, px. */
  readonly widthPx: number;
  readonly heightPx: number;
  /** It is a card or shapes, in place of paint to come. */
  readonly standsIn: boolean;
  /** Largest output px for a painted px while it is seen, as a percentage: paint it so large, and nothing is soft. */
  readonly paintPercent: number;
  /** By side of the art: art px to paint on, where missing paint shows; 0 where there is enough. */
  readonly extendPx: Readonly<Record<Side, number>>;
  /** By side of the art: px that no frame reaches; null where the art does not end there with paint. */
  readonly sparePx: Readonly<Record<Side, number | null>>;
}

const bySide = <T>(of: (side: Side) => T): Record<Side, T> => ({
  left: of('left'),
  right: of('right'),
  top: of('top'),
  bottom: of('bottom'),
});

/** The paint list of a shot: what every plane that is seen needs, in the order of the stack. */
export const paintList = (rows: SurveyRows, findings: readonly Finding[]): PaintNeed[] =>
  [...rows.planes.keys()].flatMap((planeId) => paintNeed(rows, planeId, findings) ?? []);

/** What one plane needs; null where it is never seen. What is to be painted on is what the findings of its edges say. */
export function paintNeed(
  { scene, planes }: SurveyRows,
  planeId: PlaneId,
  findings: readonly Finding[],
): PaintNeed | null {
  const [rows, plane] = [planes.get(planeId), planeOf(scene, planeId)];
  if (!rows || !plane || !rows.seenPx.some((px) => px >= 1)) return null;
  const { widthPx, heightPx } = factsOf(plane.content);
  const ratio = rows.ratio.reduce(
    (most, value, i) => (rows.seenPx[i]! >= 1 ? Math.max(most, value) : most),
    0,
  );
  const edges = findings.filter((one) => one.code === 'edge' && one.planeId === planeId);
  const asked = bySide((side) => askedOfShapes(rows, plane, side));
  const extendOf = (side: Side) =>
    edges.reduce(
      (px, one) => (one.code === 'edge' && one.artSide === side ? one.paintArtPx : px),
      Math.max(0, asked[side] ?? 0),
    );
  return {
    planeId,
    widthPx,
    heightPx,
    standsIn: standsIn(plane.content),
    paintPercent: Math.ceil(ratio * 100 - 1e-3),
    extendPx: bySide(extendOf),
    sparePx: bySide((side) => (asked[side] === null ? spareOf(rows, side) : Math.max(0, -asked[side]))),
  };
}

/**
 * Px of canvas that a move asks for beyond a side of shapes that stand in for paint, negative where some are spare. What
 * crosses the side of the frame where the shot is set up goes on there, however it was blocked in, but for what nearer
 * planes hide; null where it does not, and where the side is cut, which is surveyed like paint.
 */
function askedOfShapes(
  { shortArtPx, seenPx, missing }: PlaneRows,
  { content, repeat }: Plane,
  side: Side,
): number | null {
  const { painted, cutEdges, widthPx, heightPx } = factsOf(content);
  if (!standsIn(content) || !painted || cutEdges[side] || !endsAt(repeat, side)) return null;
  const short = shortArtPx[side];
  if (seenPx[SET_UP_FRAME - 1]! < 1 || short[SET_UP_FRAME - 1]! > 0) return null;
  const farthest = (counts: (i: number) => boolean): number =>
    short.reduce((px, value, i) => (counts(i) ? Math.max(px, value) : px), Number.NEGATIVE_INFINITY);
  const unpainted = {
    left: painted.x0,
    top: painted.y0,
    right: widthPx - painted.x1,
    bottom: heightPx - painted.y1,
  };
  const reach = Math.ceil(farthest((i) => seenPx[i]! >= 1) - unpainted[side] - 1e-4);
  if (reach <= 0) return reach;
  const shows = farthest((i) => missing[side][i]! >= LEAST_MISSING_PX);
  return Math.max(0, Math.ceil(shows - unpainted[side] - 1e-4));
}

/** What is left of a side where the frame comes nearest to it. */
function spareOf({ shortArtPx, inside }: PlaneRows, side: Side): number | null {
  let least: number | null = null;
  shortArtPx[side].forEach((px, i) => {
    if (Number.isNaN(inside[side][i]!)) return;
    const spare = Math.floor(Math.max(0, -px) + 1e-4);
    least = least === null ? spare : Math.min(least, spare);
  });
  return least;
}

const cell = (value: string | number): string => {
  const text = String(value);
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
};

/** A table as CSV, RFC 4180. */
export const csvOf = (rows: readonly (readonly (string | number)[])[]): string =>
  rows
    .map((row) => row.map(cell).join(','))
    .join('\r\n')
    .concat('\r\n');

/** The paint list as a table: a line a plane, its sides by the art's own. */
export function paintListCsv(needs: readonly PaintNeed[], nameOf: (id: PlaneId) => string): string {
  const head = ['plane', 'width px', 'height px', 'paint at %'];
  const sides = SIDES.flatMap((side) => [`paint on ${side} px`, `spare ${side} px`]);
  const lines = needs.map((need) => [
    nameOf(need.planeId),
    need.widthPx,
    need.heightPx,
    need.paintPercent,
    ...SIDES.flatMap((side) => [need.extendPx[side], need.sparePx[side] ?? '']),
  ]);
  return csvOf([[...head, ...sides], ...lines]);
}
