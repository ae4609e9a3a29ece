import type { Box, Point } from '../../geometry/index.ts';

/** What is put on a page of the camera sheet: black and greys alone, mm from the upper left corner. */
export type Mark =
  | {
      readonly kind: 'line' | 'outline';
      readonly points: readonly Point[];
      readonly widthMm: number;
      readonly dashMm?: number;
      /** White instead of black. */
      readonly white?: boolean;
    }
  | { readonly kind: 'shade'; readonly box: Box; readonly grey: number }
  | {
      readonly kind: 'words';
      readonly at: Point;
      readonly sizeMm: number;
      readonly words: string;
      readonly anchor: Anchor;
      readonly bold: boolean;
    }
  | { readonly kind: 'painting'; readonly box: Box };

export type Anchor = 'start' | 'middle' | 'end';

export interface Page {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly marks: readonly Mark[];
}

/** ISO 216 and ANSI/ASME Y14.1, across, mm. */
export const PAPERS = {
  A4: { widthMm: 297, heightMm: 210 },
  A3: { widthMm: 420, heightMm: 297 },
  letter: { widthMm: 279.4, heightMm: 215.9 },
} as const;
export type Paper = keyof typeof PAPERS;

export const MARGIN_MM = 12;
/** Height of small letters' lines. */
export const LINE_MM = 4.4;
export const TEXT_MM = 3.1;
export const HEAD_MM = 4.2;

export const corners = ({ x0, y0, x1, y1 }: Box): Point[] => [
  { x: x0, y: y0 },
  { x: x1, y: y0 },
  { x: x1, y: y1 },
  { x: x0, y: y1 },
];

export const words = (
  at: Point,
  text: string,
  {
    sizeMm = TEXT_MM,
    anchor = 'start',
    bold = false,
  }: { sizeMm?: number; anchor?: Anchor; bold?: boolean } = {},
): Mark => ({ kind: 'words', at, sizeMm, words: text, anchor, bold });

export const rule = (from: Point, to: Point, widthMm = 0.15): Mark => ({
  kind: 'line',
  points: [from, to],
  widthMm,
});

/** Letters of our font are about so wide, as a share of their size; told by the page, not measured. */
const LETTER = 0.53;

/** As much of a text as fits into a width, with … where some is left out. */
export function fitted(text: string, widthMm: number, sizeMm = TEXT_MM): string {
  const most = Math.max(1, Math.floor(widthMm / (LETTER * sizeMm)));
  return text.length <= most ? text : `${text.slice(0, most - 1).trimEnd()}…`;
}
