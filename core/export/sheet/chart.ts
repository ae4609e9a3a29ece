import type { Box, Point } from '../../geometry/index.ts';
import type { Scene } from '../../scene/index.ts';
import { frameOnPlane } from '../../stage/index.ts';
import { cameraPoseAt, channelAt, fieldingBox, keyedChannels, stageFrameOf } from '../../staging/index.ts';
import { extentOf } from '../../units/index.ts';
import { corners, type Mark, words } from './page.ts';

/** Fields across the frame at home: a 12-field chart, as camera stands have. Common practice, no source. */
export const FIELDS = 12;

/** Frames whose fields are drawn: the first, those with a key of the camera, the last; so many of them at most. */
const MOST_FIELDS = 9;

export function fieldFrames(scene: Scene): number[] {
  const keys = keyedChannels(scene).flatMap((ref) =>
    ref.on === 'camera' ? (channelAt(scene, ref)?.keys.map(({ frame }) => frame) ?? []) : [],
  );
  const within = [...new Set([1, ...keys, scene.lengthFrames])]
    .filter((frame) => frame >= 1 && frame <= scene.lengthFrames)
    .sort((p, q) => p - q);
  if (within.length <= MOST_FIELDS) return within;
  return Array.from(
    { length: MOST_FIELDS },
    (_, i) => within[Math.round((i * (within.length - 1)) / (MOST_FIELDS - 1))]!,
  );
}

/** What the camera sees of the datum on a frame: corners in px of the home frame, from the upper left clockwise. */
export function fieldAt(scene: Scene, frame: number): Point[] | null {
  const stage = stageFrameOf(scene);
  const seen = frameOnPlane(stage, cameraPoseAt(scene, frame), 0);
  return seen?.map(({ x, y }) => ({ x: x + stage.widthPx / 2, y: y + stage.heightPx / 2 })) ?? null;
}

/** What the sheet shows, px of the home frame: all that fielding shows, and every field that is drawn. */
export function sheetBox(scene: Scene): Box {
  const fields = fieldFrames(scene).flatMap((frame) => fieldAt(scene, frame) ?? []);
  const { x0, y0, x1, y1 } = fieldingBox(scene);
  const [left, right] = extentOf([x0, x1, ...fields.map(({ x }) => x)]);
  const [top, bottom] = extentOf([y0, y1, ...fields.map(({ y }) => y)]);
  return { x0: left, y0: top, x1: right, y1: bottom };
}

/** The painting within `room` (mm) with the chart over it: fields of the home frame, and what the camera sees on its frames. */
export function chartMarks(scene: Scene, painting: Box, room: Box): Mark[] {
  const scale = Math.min(
    (room.x1 - room.x0) / (painting.x1 - painting.x0),
    (room.y1 - room.y0) / (painting.y1 - painting.y0),
  );
  const [wide, high] = [(painting.x1 - painting.x0) * scale, (painting.y1 - painting.y0) * scale];
  const [left, top] = [(room.x0 + room.x1 - wide) / 2, (room.y0 + room.y1 - high) / 2];
  const onPage = ({ x, y }: Point): Point => ({
    x: left + (x - painting.x0) * scale,
    y: top + (y - painting.y0) * scale,
  });
  const box = { x0: left, y0: top, x1: left + wide, y1: top + high };
  return [
    { kind: 'painting', box },
    { kind: 'outline', points: corners(box), widthMm: 0.2 },
    ...fieldRules(scene, onPage).flatMap(cased),
    ...cameraFields(scene, onPage),
  ];
}

/** A line with white on both sides of it, so that it is read on dark paint and on light. */
const cased = (mark: Mark): Mark[] =>
  mark.kind === 'line' || mark.kind === 'outline'
    ? [{ kind: mark.kind, points: mark.points, widthMm: mark.widthMm + CASING_MM, white: true }, mark]
    : [mark];
const CASING_MM = 0.5;

function fieldRules({ frame: { widthPx, heightPx } }: Scene, onPage: (p: Point) => Point): Mark[] {
  const middle = { x: widthPx / 2, y: heightPx / 2 };
  const cross: Mark[] = [
    {
      kind: 'line',
      points: [
        { x: 0, y: middle.y },
        { x: widthPx, y: middle.y },
      ].map(onPage),
      widthMm: 0.1,
    },
    {
      kind: 'line',
      points: [
        { x: middle.x, y: 0 },
        { x: middle.x, y: heightPx },
      ].map(onPage),
      widthMm: 0.1,
    },
  ];
  const fields = Array.from({ length: FIELDS / 2 }, (_, i) => 2 * (i + 1)).flatMap((field): Mark[] => {
    const [x, y] = [(widthPx / 2) * (field / FIELDS), (heightPx / 2) * (field / FIELDS)];
    const box = { x0: middle.x - x, y0: middle.y - y, x1: middle.x + x, y1: middle.y + y };
    const at = onPage({ x: box.x1, y: middle.y });
    return [
      { kind: 'outline', points: corners(box).map(onPage), widthMm: 0.1, dashMm: 0.8 },
      { kind: 'shade', box: { x0: at.x - 3.4, y0: at.y - 2.8, x1: at.x - 0.4, y1: at.y - 0.4 }, grey: 1 },
      words({ x: at.x - 0.7, y: at.y - 0.8 }, String(field), { sizeMm: 2.2, anchor: 'end' }),
    ];
  });
  return [...cross, ...fields];
}

/** First and last are drawn through, keys between them dashed. */
function cameraFields(scene: Scene, onPage: (p: Point) => Point): Mark[] {
  const fields = fieldFrames(scene).flatMap((frame) => {
    const field = fieldAt(scene, frame);
    return field ? [{ frame, points: field.map(onPage) }] : [];
  });
  const outlines = fields.flatMap(({ frame, points }) => {
    const isEnd = frame === 1 || frame === scene.lengthFrames;
    return cased({ kind: 'outline', points, widthMm: 0.9, ...(isEnd ? {} : { dashMm: 2 }) });
  });
  return [...outlines, ...labelMarks(fields)];
}

const LABEL_MM = { high: 3.8, perLetter: 2, within: 0.6 } as const;

/** Frame numbers in white patches within the first corners; one that would lie on another stands beside it. */
function labelMarks(
  fields: readonly { readonly frame: number; readonly points: readonly Point[] }[],
): Mark[] {
  const taken: Box[] = [];
  return fields.flatMap(({ frame, points }): Mark[] => {
    const label = String(frame);
    const wide = 1 + LABEL_MM.perLetter * label.length;
    const corner = points[0]!;
    const y0 = corner.y + LABEL_MM.within;
    let x0 = corner.x + LABEL_MM.within;
    const meets = (box: Box) =>
      box.x0 < x0 + wide && box.x1 > x0 && box.y0 < y0 + LABEL_MM.high && box.y1 > y0;
    for (let other = taken.find(meets); other; other = taken.find(meets)) x0 = other.x1 + 0.4;
    const patch = { x0, y0, x1: x0 + wide, y1: y0 + LABEL_MM.high };
    taken.push(patch);
    return [
      { kind: 'shade', box: patch, grey: 1 },
      { kind: 'outline', points: corners(patch), widthMm: 0.1 },
      words({ x: x0 + 0.5, y: patch.y1 - 0.8 }, label, { bold: true }),
    ];
  });
}
