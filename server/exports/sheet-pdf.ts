import type { Mark, Page } from '@keen-ridge/core/export/sheet';
import { assertNever } from '@keen-ridge/core/units';
import { blankPdf, closedPdf, FONTS, type Pdf } from '../survey/pdf.ts';

const PT_PER_MM = 72 / 25.4;

/** Pages of a camera sheet as PDF, in our own font. */
export async function sheetPdf(
  pages: readonly Page[],
  painting: Uint8Array,
  title: string,
): Promise<Uint8Array> {
  const pdf = await blankPdf(title);
  for (const { widthMm, heightMm, marks } of pages) {
    pdf.addPage({ size: [widthMm * PT_PER_MM, heightMm * PT_PER_MM], margin: 0 });
    pdf.save().scale(PT_PER_MM);
    for (const mark of marks) draw(pdf, mark, painting);
    pdf.restore();
  }
  return closedPdf(pdf);
}

function draw(pdf: Pdf, mark: Mark, painting: Uint8Array): void {
  switch (mark.kind) {
    case 'line':
    case 'outline': {
      const [first, ...rest] = mark.points;
      if (!first) return;
      pdf.moveTo(first.x, first.y);
      for (const { x, y } of rest) pdf.lineTo(x, y);
      if (mark.kind === 'outline') pdf.closePath();
      if (mark.dashMm) pdf.dash(mark.dashMm, { space: mark.dashMm });
      else pdf.undash();
      pdf.lineWidth(mark.widthMm).stroke(mark.white ? '#fff' : '#000');
      return;
    }
    case 'shade': {
      const { x0, y0, x1, y1 } = mark.box;
      const grey = Math.round(mark.grey * 255);
      pdf.rect(x0, y0, x1 - x0, y1 - y0).fill([grey, grey, grey]);
      return;
    }
    case 'words': {
      pdf
        .font(mark.bold ? FONTS.bold : FONTS.text)
        .fontSize(mark.sizeMm)
        .fillColor('#000');
      const wide = pdf.widthOfString(mark.words);
      const left = { start: 0, middle: wide / 2, end: wide }[mark.anchor];
      pdf.text(mark.words, mark.at.x - left, mark.at.y, { lineBreak: false, baseline: 'alphabetic' });
      return;
    }
    case 'painting': {
      const { x0, y0, x1, y1 } = mark.box;
      pdf.image(Buffer.from(painting), x0, y0, { width: x1 - x0, height: y1 - y0 });
      return;
    }
    default:
      assertNever(mark);
  }
}
