import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Marked } from '@keen-ridge/core/export';
import {
  type Affine,
  applyAffine,
  compose,
  IDENTITY,
  type Point,
  scaling,
  translation,
} from '@keen-ridge/core/geometry';
import { type PathLayer, pathEdges, type RenderView } from '@keen-ridge/core/picture';
import { type Outline, type PathNode, rectangleOutline } from '@keen-ridge/core/shapes';
import opentype from 'opentype.js';

const FONT = fileURLToPath(
  import.meta.resolve('@fontsource/martian-mono/files/martian-mono-latin-500-normal.woff'),
);

let font: opentype.Font | undefined;
function loadedFont(): opentype.Font {
  if (font) return font;
  const bytes = readFileSync(FONT);
  font = opentype.parse(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
  return font;
}

/** Height of the letters' em, and room round them, as shares of the picture's height. */
const EM_SHARE = 0.028;
const MARGIN_SHARE = 0.025;

/** Words in one line as outlines with their first letter's foot at (0, 0) and an em of 1, and how long the line is. */
export function wordOutlines(words: string): { outlines: Outline[]; lengthEm: number } {
  const line = loadedFont();
  const outlines: PathNode[][] = [];
  for (const command of line.getPath(words, 0, 0, 1).commands) {
    const nodes = outlines.at(-1);
    const last = nodes?.at(-1);
    switch (command.type) {
      case 'M':
        outlines.push([plain({ x: command.x, y: command.y })]);
        break;
      case 'L':
        nodes?.push(plain({ x: command.x, y: command.y }));
        break;
      case 'C':
        addCubic(nodes, last, { x: command.x1, y: command.y1 }, { x: command.x2, y: command.y2 }, command);
        break;
      case 'Q': {
        if (!last) break;
        // A quadratic as the cubic that it is: handles two thirds of the way to its own.
        const towards = (p: Point): Point => ({
          x: p.x + (2 / 3) * (command.x1 - p.x),
          y: p.y + (2 / 3) * (command.y1 - p.y),
        });
        addCubic(nodes, last, towards(last.at), towards(command), command);
        break;
      }
      case 'Z':
        break;
    }
  }
  return { outlines, lengthEm: line.getAdvanceWidth(words, 1) };
}

const plain = (at: Point): PathNode => ({ at, in: at, out: at });

function addCubic(
  nodes: PathNode[] | undefined,
  last: PathNode | undefined,
  out: Point,
  into: Point,
  to: Point,
): void {
  if (!nodes || !last) return;
  const at = { x: to.x, y: to.y };
  nodes[nodes.length - 1] = { ...last, out };
  nodes.push({ at, in: into, out: at });
}

/** Words burnt into the lower left corner, on a dark band so that they can be read on anything. */
export function wordLayers(words: string, view: RenderView): PathLayer[] {
  if (words === '') return [];
  const em = Math.max(6, view.heightPx * EM_SHARE);
  const margin = view.heightPx * MARGIN_SHARE;
  const { outlines, lengthEm } = wordOutlines(words);
  const foot = { x: margin + em / 2, y: view.heightPx - margin - em / 2 };
  const band = rectangleOutline({
    x0: margin,
    y0: foot.y - 1.15 * em,
    x1: foot.x + lengthEm * em + em / 2,
    y1: view.heightPx - margin,
  });
  return [
    inkLayer([band], IDENTITY, view, { colour: '#000000', opacity: 0.6 }),
    inkLayer(outlines, compose(translation(foot.x, foot.y), scaling(em)), view, WHITE),
  ].filter(({ edges }) => edges.length > 0);
}

const WHITE = { colour: '#ffffff', opacity: 1 } as const;
const BLACK = { colour: '#000000', opacity: 1 } as const;

const inkLayer = (
  shape: readonly Outline[],
  map: Affine,
  view: RenderView,
  { colour, opacity }: { readonly colour: string; readonly opacity: number },
): PathLayer => ({
  kind: 'path',
  edges: pathEdges(shape, map, view.widthPx, view.heightPx),
  paint: { kind: 'solid', colour, opacity: 1 },
  imageToGradient: IDENTITY,
  look: null,
  opacity,
});

/** Arms of the cross at a mark, and the em of its name, as shares of the picture's height. */
const ARM_SHARE = 0.014;
const NAME_SHARE = 0.02;

/** Crosses with names at points of the frame, white on black, so that they are seen on anything. */
export function markLayers(marks: readonly Marked[], view: RenderView): PathLayer[] {
  const arm = Math.max(4, view.heightPx * ARM_SHARE);
  const em = Math.max(6, view.heightPx * NAME_SHARE);
  return marks.flatMap(({ xPx, yPx, name }) => {
    const { x, y } = applyAffine(view.frameToImage, { x: xPx, y: yPx });
    const cross = (wide: number, long: number): Outline[] => [
      rectangleOutline({ x0: x - long, y0: y - wide, x1: x + long, y1: y + wide }),
      rectangleOutline({ x0: x - wide, y0: y - long, x1: x + wide, y1: y + long }),
    ];
    const { outlines } = wordOutlines(name);
    const foot = compose(translation(x + 0.4 * arm, y - 0.4 * arm), scaling(em));
    const shade = compose(translation(em / 14, em / 14), foot);
    return [
      // Two rectangles cross: each by itself, or where both are would be left out.
      ...cross(arm / 8 + 1, arm + 1).map((bar) => inkLayer([bar], IDENTITY, view, BLACK)),
      ...cross(arm / 8, arm).map((bar) => inkLayer([bar], IDENTITY, view, WHITE)),
      inkLayer(outlines, shade, view, BLACK),
      inkLayer(outlines, foot, view, WHITE),
    ].filter(({ edges }) => edges.length > 0);
  });
}

/** What is burnt into a frame: shot, take and number. */
export const wordsOf = (shot: string, take: string, number: number): string =>
  [shot, take, String(number).padStart(4, '0')].filter((part) => part !== '').join(' · ');
