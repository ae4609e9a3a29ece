import type { Point } from '../../geometry/index.ts';
import { assertNever } from '../../units/index.ts';
import type { Mark, Page } from './page.ts';

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');
const mm = (value: number): string => String(Math.round(value * 1000) / 1000);
const list = (points: readonly Point[]): string => points.map(({ x, y }) => `${mm(x)},${mm(y)}`).join(' ');

/** Pages one below the other as one SVG in mm. `painting`: PNG, drawn where the sheet has it. */
export function sheetSvg(
  pages: readonly Page[],
  painting: Uint8Array | null,
  toBase64: (bytes: Uint8Array) => string,
): string {
  const widthMm = Math.max(0, ...pages.map((page) => page.widthMm));
  const heightMm = pages.reduce((sum, page) => sum + page.heightMm, 0);
  let y = 0;
  const bodies = pages.map(({ marks, heightMm: high }) => {
    const body = `<g transform="translate(0 ${mm(y)})">${marks.map((mark) => drawn(mark, painting, toBase64)).join('')}</g>`;
    y += high;
    return body;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${mm(widthMm)}mm" height="${mm(heightMm)}mm" viewBox="0 0 ${mm(widthMm)} ${mm(heightMm)}" font-family="Archivo, sans-serif"><rect width="100%" height="100%" fill="#fff"/>${bodies.join('')}</svg>\n`;
}

function drawn(mark: Mark, painting: Uint8Array | null, toBase64: (bytes: Uint8Array) => string): string {
  switch (mark.kind) {
    case 'line':
    case 'outline': {
      const dash = mark.dashMm ? ` stroke-dasharray="${mm(mark.dashMm)}"` : '';
      const element = mark.kind === 'line' ? 'polyline' : 'polygon';
      return `<${element} points="${list(mark.points)}" fill="none" stroke="${mark.white ? '#fff' : '#000'}" stroke-width="${mm(mark.widthMm)}"${dash}/>`;
    }
    case 'shade': {
      const { x0, y0, x1, y1 } = mark.box;
      const grey = Math.round(mark.grey * 255);
      return `<rect x="${mm(x0)}" y="${mm(y0)}" width="${mm(x1 - x0)}" height="${mm(y1 - y0)}" fill="rgb(${grey},${grey},${grey})"/>`;
    }
    case 'words': {
      const weight = mark.bold ? ' font-weight="600"' : '';
      return `<text x="${mm(mark.at.x)}" y="${mm(mark.at.y)}" font-size="${mm(mark.sizeMm)}" text-anchor="${mark.anchor}"${weight}>${escaped(mark.words)}</text>`;
    }
    case 'painting': {
      if (!painting) return '';
      const { x0, y0, x1, y1 } = mark.box;
      return `<image x="${mm(x0)}" y="${mm(y0)}" width="${mm(x1 - x0)}" height="${mm(y1 - y0)}" preserveAspectRatio="none" href="data:image/png;base64,${toBase64(painting)}"/>`;
    }
    default:
      return assertNever(mark);
  }
}
