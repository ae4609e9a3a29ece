import { SaxesParser } from 'saxes';
import { fail, ok, type Result } from '../../units/index.ts';
import type { ArtFault, NotKept } from '../index.ts';

export interface SvgFacts {
  /** Size in CSS px at scale 1, from width and height or else the view box. */
  readonly widthPx: number;
  readonly heightPx: number;
  readonly notKept: readonly NotKept[];
}

class SvgFault extends Error {}

/** CSS px a unit (CSS Values Level 4, section 6.2). */
const UNITS: Readonly<Record<string, number>> = {
  '': 1,
  px: 1,
  pt: 4 / 3,
  pc: 16,
  in: 96,
  cm: 96 / 2.54,
  mm: 96 / 25.4,
};

/** A length in CSS px; null for percentages and anything else that has no size of its own. */
function lengthPx(text: string | undefined): number | null {
  const match = /^\s*([0-9.]+(?:e[-+]?\d+)?)\s*([a-z]*)\s*$/i.exec(text ?? '');
  const unit = UNITS[(match?.[2] ?? '').toLowerCase()];
  const value = Number(match?.[1]) * (unit ?? Number.NaN);
  return value > 0 ? value : null;
}

/**
 * Looks through an SVG before it is drawn: well-formed, no document type (so no entities), with a size. Scripts and
 * references to other files are never followed; they are reported, since the picture lacks them.
 */
export function checkSvg(text: string): Result<SvgFacts, ArtFault> {
  const lost = new Map<string, NotKept>();
  let size: { widthPx: number; heightPx: number } | null = null;
  let depth = 0;
  try {
    const parser = new SaxesParser({ xmlns: false });
    parser.on('doctype', (doctype) => {
      if (doctype.includes('[')) throw new SvgFault('it declares entities of its own');
    });
    parser.on('opentag', (tag) => {
      if (depth === 0) size = sizeOf(tag.name, tag.attributes as Record<string, string>);
      depth += 1;
      if (/(^|:)script$/.test(tag.name))
        lost.set('script', { code: 'script', layer: 'The drawing', detail: '' });
      for (const [name, value] of Object.entries(tag.attributes)) {
        const outside = /^(xlink:)?href$/.test(name) && !/^(#|data:)/.test(String(value).trim());
        const inUrl = /url\(\s*['"]?(?!#|data:)[^)]/.test(String(value));
        if ((outside && !/(^|:)a$/.test(tag.name)) || inUrl)
          lost.set(String(value), {
            code: 'outside-reference',
            layer: 'The drawing',
            detail: String(value).slice(0, 120),
          });
      }
    });
    parser.on('closetag', () => {
      depth -= 1;
    });
    parser.on('error', (error) => {
      throw new SvgFault(`it is not well-formed (${error.message})`);
    });
    parser.write(text).close();
  } catch (error) {
    if (error instanceof SvgFault) return fail({ code: 'damaged', detail: error.message });
    throw error;
  }
  const found = size as { widthPx: number; heightPx: number } | null;
  if (!found) return fail({ code: 'damaged', detail: 'it has neither a size nor a view box' });
  return ok({ ...found, notKept: [...lost.values()] });
}

function sizeOf(name: string, attributes: Record<string, string>) {
  if (name !== 'svg' && name !== 'svg:svg') throw new SvgFault('its outermost element is not svg');
  const box = (attributes.viewBox ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const [boxWidth, boxHeight] =
    box.length === 4 && (box[2] ?? 0) > 0 && (box[3] ?? 0) > 0 ? [box[2], box[3]] : [null, null];
  const widthPx = lengthPx(attributes.width) ?? boxWidth ?? null;
  const heightPx = lengthPx(attributes.height) ?? boxHeight ?? null;
  return widthPx && heightPx ? { widthPx, heightPx } : null;
}
