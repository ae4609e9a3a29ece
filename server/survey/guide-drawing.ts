import { pathData } from '@keen-ridge/core/shapes';
import { type ArtSight, cellsPath, framePath, framesOf, SIGHTS } from '@keen-ridge/core/survey';
import sharp from 'sharp';
import { wordOutlines } from '../film/words-in-picture.ts';

/** What a guide shows besides the paint, from below upward. */
export const GUIDE_PARTS = ['never seen', 'missing', 'frames'] as const;
export type GuidePart = (typeof GUIDE_PARTS)[number];

/** Widths on the guide, as shares of the longer side of its file, and what they are at least, px. */
const STROKE = { share: 1 / 700, least: 1 } as const;
const HATCH = { share: 1 / 140, least: 6 } as const;
const LETTERS = { share: 1 / 55, least: 8 } as const;
const FAULT = '#b3261e';

/** A part of the guide as PNG of the file's size, clear where there is nothing of it. */
export function drawGuidePart(sight: ArtSight, part: GuidePart): Promise<Buffer> {
  const { fileWidthPx, fileHeightPx } = sight.canvas;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${fileWidthPx}" height="${fileHeightPx}">${PARTS[part](sight)}</svg>`;
  return sharp(Buffer.from(svg), { unlimited: true, limitInputPixels: false }).png().toBuffer();
}

const widthOf = (
  { canvas }: ArtSight,
  { share, least }: { readonly share: number; readonly least: number },
) => Math.max(least, Math.max(canvas.fileWidthPx, canvas.fileHeightPx) * share);
const inFile = (sight: ArtSight, content: string): string =>
  `<g transform="scale(${sight.canvas.scale})">${content}</g>`;

const PARTS: Readonly<Record<GuidePart, (sight: ArtSight) => string>> = {
  'never seen': (sight) =>
    inFile(sight, `<path d="${cellsPath(sight, SIGHTS.never)}" fill="#000" fill-opacity="0.45"/>`),
  missing: (sight) => {
    const step = widthOf(sight, HATCH);
    const pattern = `<defs><pattern id="h" width="${step}" height="${step}" patternUnits="userSpaceOnUse" patternTransform="rotate(45) scale(${1 / sight.canvas.scale})"><rect width="${step}" height="${step}" fill="#fff" fill-opacity="0.35"/><rect width="${step / 2}" height="${step}" fill="${FAULT}" fill-opacity="0.8"/></pattern></defs>`;
    return pattern + inFile(sight, `<path d="${cellsPath(sight, SIGHTS.missing)}" fill="url(#h)"/>`);
  },
  frames: (sight) => {
    const wide = widthOf(sight, STROKE);
    return framesOf(sight)
      .map((at) => {
        const colour = at.isWorst ? FAULT : '#000';
        const line = (stroke: string, width: number) =>
          `<path d="${framePath(sight, at)}" fill="none" stroke="${stroke}" stroke-width="${width}" vector-effect="non-scaling-stroke"/>`;
        return inFile(sight, line('#fff', wide * 2) + line(colour, wide)) + label(sight, at, colour);
      })
      .join('');
  },
};

/** The number of a frame, within its first corner. */
function label(
  sight: ArtSight,
  { frame, corners }: ReturnType<typeof framesOf>[number],
  colour: string,
): string {
  const [corner] = corners;
  if (!corner) return '';
  const { scale, xPx, yPx, fileWidthPx, fileHeightPx } = sight.canvas;
  const em = widthOf(sight, LETTERS);
  const { outlines, lengthEm } = wordOutlines(String(frame));
  const within = (at: number, size: number, room: number) => Math.min(Math.max(0, at), size - room);
  const x = within((corner.x + xPx) * scale, fileWidthPx, (lengthEm + 1) * em) + em / 2;
  const y = within((corner.y + yPx) * scale, fileHeightPx, 1.6 * em) + 1.3 * em;
  return `<rect x="${x - em / 3}" y="${y - em}" width="${(lengthEm + 2 / 3) * em}" height="${1.3 * em}" fill="#fff" fill-opacity="0.85"/><g transform="translate(${x},${y}) scale(${em})"><path d="${pathData(outlines)}" fill="${colour}"/></g>`;
}
