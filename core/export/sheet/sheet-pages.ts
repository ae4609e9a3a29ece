import type { Point } from '../../geometry/index.ts';
import type { Scene } from '../../scene/index.ts';
import { secondsOfFrames } from '../../timing/index.ts';
import { rationalText } from '../../units/index.ts';
import { chartMarks, FIELDS, sheetBox } from './chart.ts';
import { type MoveRow, moveRows } from './moves.ts';
import {
  corners,
  fitted,
  HEAD_MM,
  LINE_MM,
  MARGIN_MM,
  type Mark,
  PAPERS,
  type Page,
  type Paper,
  rule,
  TEXT_MM,
  words,
} from './page.ts';
import { exposureColumns, noteLines, planeRows } from './tables.ts';

export interface SheetAsked {
  readonly shotName: string;
  readonly paper: Paper;
  /** Findings that were left so, a line each. */
  readonly leftSo: readonly string[];
}

/** Frames in a column of the exposure table, and how many pages of it there are at most. */
const FRAMES_IN_COLUMN = 32;
const MOST_EXPOSURE_PAGES = 24;

/** The camera sheet: the painting with its chart, then moves, planes and notes, then the exposures. */
export function sheetPages(scene: Scene, asked: SheetAsked): Page[] {
  const paper = PAPERS[asked.paper];
  const bodies = [
    chartBody(scene, paper),
    ...listBodies(scene, asked, paper),
    ...exposureBodies(scene, paper),
  ];
  return bodies.map((marks, i) => ({
    ...paper,
    marks: [...headMarks(scene, asked.shotName, paper, `${i + 1} / ${bodies.length}`), ...marks],
  }));
}

type Size = (typeof PAPERS)[Paper];

/** Where the body begins, below the head. */
const TOP_MM = MARGIN_MM + 11;
const bottomOf = ({ heightMm }: Size): number => heightMm - MARGIN_MM;
const rightOf = ({ widthMm }: Size): number => widthMm - MARGIN_MM;

function headMarks(scene: Scene, shotName: string, paper: Size, page: string): Mark[] {
  const { frame, lengthFrames, rate } = scene;
  const seconds = secondsOfFrames(lengthFrames, rate).toFixed(2);
  const facts = `${lengthFrames} frames, ${seconds} s at ${rationalText(rate)} · ${frame.widthPx} × ${frame.heightPx} px, ${FIELDS} fields of ${(frame.widthPx / FIELDS).toFixed(1)} px`;
  const y = MARGIN_MM + 4;
  return [
    words({ x: MARGIN_MM, y }, fitted(shotName, 90, 5), { sizeMm: 5, bold: true }),
    words({ x: rightOf(paper), y }, `Camera sheet ${page}`, { anchor: 'end' }),
    words({ x: MARGIN_MM, y: y + 5 }, facts),
    rule({ x: MARGIN_MM, y: y + 6.6 }, { x: rightOf(paper), y: y + 6.6 }, 0.4),
  ];
}

const chartBody = (scene: Scene, paper: Size): Mark[] =>
  chartMarks(scene, sheetBox(scene), {
    x0: MARGIN_MM,
    y0: TOP_MM + 2,
    x1: rightOf(paper),
    y1: bottomOf(paper),
  });

/** A line of a table, with its own height, and what it is when a page begins with it. */
interface Row {
  readonly heightMm: number;
  readonly marks: (top: number) => Mark[];
}

interface Column {
  readonly title: string;
  /** Of the width, together one. */
  readonly share: number;
}

function tableRows(
  title: string,
  columns: readonly Column[],
  rows: readonly {
    readonly cells: readonly string[];
    readonly extra?: (left: number[], top: number) => Mark[];
  }[],
  paper: Size,
): Row[] {
  const width = rightOf(paper) - MARGIN_MM;
  const lefts = columns.map((_, i) =>
    columns.slice(0, i).reduce((x, { share }) => x + share * width, MARGIN_MM),
  );
  const cells = (texts: readonly string[], top: number, bold: boolean): Mark[] =>
    texts.map((text, i) =>
      words({ x: lefts[i]!, y: top + TEXT_MM }, fitted(text, columns[i]!.share * width - 2), { bold }),
    );
  const under = (y: number) => rule({ x: MARGIN_MM, y }, { x: rightOf(paper), y });
  return [
    {
      heightMm: HEAD_MM + LINE_MM + 4,
      marks: (top) => [
        words({ x: MARGIN_MM, y: top + HEAD_MM }, title, { sizeMm: HEAD_MM, bold: true }),
        ...cells(
          columns.map((column) => column.title),
          top + HEAD_MM + 2,
          true,
        ),
        under(top + HEAD_MM + LINE_MM + 2.4),
      ],
    },
    ...rows.map(
      ({ cells: texts, extra }): Row => ({
        heightMm: LINE_MM + 1.2,
        marks: (top) => [...cells(texts, top, false), ...(extra?.(lefts, top) ?? []), under(top + LINE_MM)],
      }),
    ),
    { heightMm: 4, marks: () => [] },
  ];
}

/** Rows page by page. */
function paged(rows: readonly Row[], paper: Size): Mark[][] {
  const pages: Mark[][] = [];
  let marks: Mark[] = [];
  let y = TOP_MM + 2;
  for (const row of rows) {
    if (y + row.heightMm > bottomOf(paper) && marks.length > 0) {
      pages.push(marks);
      [marks, y] = [[], TOP_MM + 2];
    }
    marks.push(...row.marks(y));
    y += row.heightMm;
  }
  return marks.length > 0 ? [...pages, marks] : pages;
}

function listBodies(scene: Scene, { leftSo }: SheetAsked, paper: Size): Mark[][] {
  const moves = moveRows(scene);
  const notes = noteLines(scene, leftSo);
  const rows = [
    ...tableRows(
      'Camera',
      MOVE_COLUMNS,
      moves.length > 0
        ? moves.map((move) => ({
            cells: moveCells(move),
            extra: (lefts, top) => curveMarks(move, lefts[7]!, top),
          }))
        : [{ cells: ['stands still', '', '', '', '', '', '', ''] }],
      paper,
    ),
    ...tableRows(
      'Planes, nearest first',
      PLANE_COLUMNS,
      planeRows(scene).map(({ name, depth, speed, mount, what }) => ({
        cells: [name, depth, speed, mount, what],
      })),
      paper,
    ),
    ...(notes.length > 0
      ? tableRows(
          'Notes',
          [{ title: '', share: 1 }],
          notes.map((line) => ({ cells: [line] })),
          paper,
        )
      : []),
  ];
  return paged(rows, paper);
}

const MOVE_COLUMNS: readonly Column[] = [
  { title: 'Move', share: 0.13 },
  { title: 'Frames', share: 0.11 },
  { title: 'From', share: 0.13 },
  { title: 'To', share: 0.13 },
  { title: 'By', share: 0.13 },
  { title: 'Fields', share: 0.1 },
  { title: 'Ease', share: 0.19 },
  { title: '', share: 0.08 },
];
const PLANE_COLUMNS: readonly Column[] = [
  { title: 'Plane', share: 0.34 },
  { title: 'Depth', share: 0.13 },
  { title: 'Speed', share: 0.11 },
  { title: 'On', share: 0.17 },
  { title: '', share: 0.25 },
];

const moveCells = ({ name, frames, from, to, change, fields, ease }: MoveRow): string[] => [
  name,
  frames,
  from,
  to,
  change,
  fields,
  ease,
  '',
];

/** The ease as a curve in the height of its row; what swings past its ends is cut. */
function curveMarks({ curve }: MoveRow, left: number, top: number): Mark[] {
  const [wide, high] = [14, LINE_MM - 0.8];
  const point = ({ x, y }: Point): Point => ({
    x: left + x * wide,
    y: top + (1 - Math.min(1.1, Math.max(-0.1, y))) * high,
  });
  return [{ kind: 'line', points: curve.map(point), widthMm: 0.4 }];
}

/** Frames down, moving planes across, column beside column. */
function exposureBodies(scene: Scene, paper: Size): Mark[][] {
  const planes = exposureColumns(scene);
  if (planes.length === 0) return [];
  const [cell, wide] = [15, 9];
  const perTable = Math.min(planes.length, Math.floor((rightOf(paper) - MARGIN_MM - wide) / cell));
  const tableMm = wide + perTable * cell + 5;
  const across = Math.max(1, Math.floor((rightOf(paper) - MARGIN_MM + 5) / tableMm));
  const tables = [];
  for (let first = 0; first < planes.length; first += perTable)
    for (let from = 0; from < scene.lengthFrames; from += FRAMES_IN_COLUMN)
      tables.push({ columns: planes.slice(first, first + perTable), from });
  const high = (bottomOf(paper) - TOP_MM - 12) / FRAMES_IN_COLUMN;
  const pages: Mark[][] = [];
  for (let i = 0; i < tables.length && pages.length < MOST_EXPOSURE_PAGES; i += across)
    pages.push([
      words({ x: MARGIN_MM, y: TOP_MM + 5 }, 'Exposures', { sizeMm: HEAD_MM, bold: true }),
      ...tables.slice(i, i + across).flatMap(({ columns, from }, k): Mark[] => {
        const left = MARGIN_MM + k * tableMm;
        const count = Math.min(FRAMES_IN_COLUMN, scene.lengthFrames - from);
        const box = {
          x0: left,
          y0: TOP_MM + 12,
          x1: left + wide + columns.length * cell,
          y1: TOP_MM + 12 + count * high,
        };
        return [
          { kind: 'outline', points: corners(box), widthMm: 0.3 },
          ...columns.flatMap(({ name, at }, c): Mark[] => {
            const x = left + wide + c * cell;
            return [
              words({ x: x + 0.8, y: TOP_MM + 10.6 }, fitted(name, cell - 1, 2.4), { sizeMm: 2.4 }),
              rule({ x, y: box.y0 }, { x, y: box.y1 }),
              ...at.slice(from, from + count).flatMap((text, f) =>
                text === ''
                  ? [
                      rule(
                        { x: x + cell / 2, y: box.y0 + f * high },
                        { x: x + cell / 2, y: box.y0 + (f + 1) * high },
                      ),
                    ]
                  : [
                      words({ x: x + cell / 2, y: box.y0 + (f + 0.78) * high }, text, {
                        sizeMm: 2.8,
                        anchor: 'middle',
                      }),
                    ],
              ),
            ];
          }),
          ...Array.from({ length: count }, (_, f): Mark[] => [
            words({ x: left + wide - 1, y: box.y0 + (f + 0.78) * high }, String(from + f + 1), {
              sizeMm: 2.4,
              anchor: 'end',
            }),
            ...(f > 0
              ? [rule({ x: left, y: box.y0 + f * high }, { x: box.x1, y: box.y0 + f * high }, 0.08)]
              : []),
          ]).flat(),
        ];
      }),
    ]);
  return pages;
}
