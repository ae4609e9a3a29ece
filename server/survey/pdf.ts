import { once } from 'node:events';
import { fileURLToPath } from 'node:url';

const fontFile = (name: string): string =>
  fileURLToPath(import.meta.resolve(`@fontsource/archivo/files/${name}`));
const TEXT = 'text';
const BOLD = 'bold';
/** Names under which a document has our fonts. */
export const FONTS = { text: TEXT, bold: BOLD } as const;
/** A4, upright or across; points. */
const MARGIN_PT = 40;
const GREY = '#555555';

export type Pdf = PDFKit.PDFDocument;

interface Column {
  readonly words: string;
  /** Share of the width. */
  readonly share: number;
  readonly align?: 'left' | 'right';
}

async function opened(title: string, options: PDFKit.PDFDocumentOptions): Promise<Pdf> {
  // Read when a first document is asked for: nothing else takes as long to load, and few servers write one.
  const { default: PDFDocument } = await import('pdfkit');
  // Without it the same document would differ from one second to the next.
  const info = { Title: title, CreationDate: new Date(0), ModDate: new Date(0) };
  const pdf = new PDFDocument({ ...options, info });
  pdf.registerFont(TEXT, fontFile('archivo-latin-400-normal.woff'));
  pdf.registerFont(BOLD, fontFile('archivo-latin-600-normal.woff'));
  return pdf;
}

/** A document without a page. */
export const blankPdf = (title: string): Promise<Pdf> =>
  opened(title, { autoFirstPage: false, bufferPages: true });

/** A document of pages with a head, in our own font, to be closed with `pdfBytes`. */
export async function newPdf(
  title: string,
  subtitle: string,
  layout: 'portrait' | 'landscape',
): Promise<Pdf> {
  const pdf = await opened(title, { size: 'A4', layout, margin: MARGIN_PT, bufferPages: true });
  pdf.font(BOLD).fontSize(15).text(title);
  pdf.font(TEXT).fontSize(9).fillColor(GREY).text(subtitle).fillColor('#000').moveDown();
  return pdf;
}

const widthOf = (pdf: Pdf): number => pdf.page.width - 2 * MARGIN_PT;
const leftOf = (pdf: Pdf): number => pdf.page.height - MARGIN_PT - pdf.y;

/** A picture beside what is said of it; both on one page. */
export function addEntry(
  pdf: Pdf,
  picture: Buffer | null,
  { title, lines }: { readonly title: string; readonly lines: readonly string[] },
): void {
  const height = 118;
  const pictureWidth = 200;
  if (leftOf(pdf) < height) pdf.addPage();
  const top = pdf.y;
  if (picture) pdf.image(picture, MARGIN_PT, top, { fit: [pictureWidth, height - 12], align: 'center' });
  const x = MARGIN_PT + pictureWidth + 14;
  const width = widthOf(pdf) - pictureWidth - 14;
  pdf.font(BOLD).fontSize(10).text(title, x, top, { width });
  pdf.font(TEXT).fontSize(9);
  for (const line of lines) pdf.text(line, x, pdf.y + 2, { width });
  pdf.x = MARGIN_PT;
  pdf.y = Math.max(pdf.y + 8, top + height);
}

/** A table; its head stands on every page that it goes on to. */
export function addTable(pdf: Pdf, columns: readonly Column[], rows: readonly (readonly string[])[]): void {
  const width = widthOf(pdf);
  const all = columns.reduce((sum, { share }) => sum + share, 0);
  const row = (cells: readonly string[], font: string) => {
    pdf.font(font).fontSize(8.5);
    const widths = columns.map(({ share }) => (width * share) / all);
    const height = Math.max(...cells.map((text, i) => pdf.heightOfString(text, { width: widths[i]! - 6 })));
    if (leftOf(pdf) < height + 8) {
      pdf.addPage();
      if (font === TEXT) head();
      pdf.font(font).fontSize(8.5);
    }
    const top = pdf.y;
    let x = MARGIN_PT;
    cells.forEach((text, i) => {
      pdf.text(text, x + 3, top + 3, { width: widths[i]! - 6, align: columns[i]?.align ?? 'left' });
      x += widths[i]!;
    });
    pdf.moveTo(MARGIN_PT, top + height + 6).lineTo(MARGIN_PT + width, top + height + 6);
    pdf.lineWidth(0.4).stroke('#bbbbbb');
    pdf.x = MARGIN_PT;
    pdf.y = top + height + 7;
  };
  const head = () =>
    row(
      columns.map(({ words }) => words),
      BOLD,
    );
  head();
  for (const cells of rows) row(cells, TEXT);
}

export async function pdfBytes(pdf: Pdf): Promise<Uint8Array> {
  const { count } = pdf.bufferedPageRange();
  for (let page = 0; page < count && count > 1; page++) {
    pdf.switchToPage(page);
    const y = pdf.page.height - MARGIN_PT + 12;
    pdf.page.margins.bottom = 0;
    pdf.font(TEXT).fontSize(8).fillColor(GREY);
    pdf.text(`${page + 1} of ${count}`, MARGIN_PT, y, {
      width: widthOf(pdf),
      align: 'right',
      lineBreak: false,
    });
  }
  return closedPdf(pdf);
}

/** The document's bytes as it stands. */
export async function closedPdf(pdf: Pdf): Promise<Uint8Array> {
  const parts: Buffer[] = [];
  pdf.on('data', (part: Buffer) => parts.push(part));
  const over = once(pdf, 'end');
  pdf.end();
  await over;
  return Buffer.concat(parts);
}
