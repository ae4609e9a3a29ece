import { compose, scaling, translation } from '@keen-ridge/core/geometry';
import { mapOutline, pathData } from '@keen-ridge/core/shapes';
import sharp, { type OverlayOptions } from 'sharp';
import { wordOutlines } from './words-in-picture.ts';

const PICTURE_WIDTH_PX = 480;
const GAP_PX = 24;
const LABEL_PX = 15;
const LABEL_ROOM_PX = 26;
const PAPER = '#f7f7f7';
const INK = '#1a1a1a';

/** Columns for so many pictures: about as wide as high. */
export const sheetColumns = (count: number): number => Math.max(1, Math.min(6, Math.ceil(Math.sqrt(count))));

/** Pictures in rows, each with its words below, under a title; as PNG. Each is fitted into the shape of `frame`. */
export async function contactSheet(
  title: string,
  pictures: readonly { readonly words: string; readonly png: Uint8Array }[],
  frame: { readonly widthPx: number; readonly heightPx: number },
): Promise<Uint8Array> {
  const columns = sheetColumns(pictures.length);
  const width = Math.min(PICTURE_WIDTH_PX, frame.widthPx);
  const height = Math.max(1, Math.round((width * frame.heightPx) / frame.widthPx));
  const rows = Math.ceil(pictures.length / columns);
  const pitch = { x: width + GAP_PX, y: height + LABEL_ROOM_PX + GAP_PX };
  const head = LABEL_PX * 2 + GAP_PX * 2;
  const sheet = { width: GAP_PX + columns * pitch.x, height: head + rows * pitch.y };
  const placed = await Promise.all(
    pictures.map(
      async ({ png }, i): Promise<OverlayOptions> => ({
        input: await sharp(png)
          .resize(width, height, { kernel: 'lanczos3', fit: 'contain', background: PAPER })
          .png()
          .toBuffer(),
        left: GAP_PX + (i % columns) * pitch.x,
        top: head + Math.floor(i / columns) * pitch.y,
      }),
    ),
  );
  const words = [
    letters(title, GAP_PX, GAP_PX + LABEL_PX * 1.6, LABEL_PX * 1.4),
    ...pictures.map(({ words: below }, i) =>
      letters(
        below,
        GAP_PX + (i % columns) * pitch.x,
        head + Math.floor(i / columns) * pitch.y + height + LABEL_PX + 5,
        LABEL_PX,
      ),
    ),
  ].join('');
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${sheet.width}" height="${sheet.height}">${words}</svg>`;
  return sharp({ create: { ...sheet, channels: 3, background: PAPER } })
    .composite([...placed, { input: Buffer.from(svg), left: 0, top: 0 }])
    .png()
    .toBuffer();
}

/** Words as outlines of an SVG, so that no font of the machine is needed. */
function letters(words: string, x: number, footY: number, emPx: number): string {
  const map = compose(translation(x, footY), scaling(emPx));
  const outlines = wordOutlines(words).outlines.map((outline) => mapOutline(outline, map));
  return outlines.length === 0 ? '' : `<path fill="${INK}" d="${pathData(outlines)}"/>`;
}
