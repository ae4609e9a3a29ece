import { fail, ok, type Result } from '../../units/index.ts';
import type { ArtFault } from '../index.ts';

export interface PngHeader {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly bitDepth: number;
  /** PNG colour type: 0 grey, 2 RGB, 3 palette, 4 grey + alpha, 6 RGBA. */
  readonly colourType: number;
  readonly interlaced: boolean;
  /** Carries a colour profile or gamma of its own. */
  readonly hasProfile: boolean;
  readonly animated: boolean;
}

const SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];

export const isPng = (bytes: Uint8Array): boolean => SIGNATURE.every((byte, i) => bytes[i] === byte);

/** Reads the chunks before the pixels (W3C PNG Specification, Third Edition, section 11.2.1 and 11.3). */
export function readPngHeader(bytes: Uint8Array): Result<PngHeader, ArtFault> {
  if (!isPng(bytes)) return fail({ code: 'not-this-format', detail: 'it does not begin as a PNG does' });
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 33 || chunkName(view, 8) !== 'IHDR') {
    return fail({ code: 'damaged', detail: 'its header is cut short' });
  }
  const names = chunkNamesBeforePixels(view);
  const [widthPx, heightPx] = [view.getUint32(16), view.getUint32(20)];
  if (widthPx === 0 || heightPx === 0)
    return fail({ code: 'damaged', detail: 'its header gives a size of 0' });
  return ok({
    widthPx,
    heightPx,
    bitDepth: view.getUint8(24),
    colourType: view.getUint8(25),
    interlaced: view.getUint8(28) === 1,
    hasProfile: names.has('iCCP') || names.has('gAMA') || names.has('cHRM') || names.has('cICP'),
    animated: names.has('acTL'),
  });
}

const chunkName = (view: DataView, at: number): string =>
  String.fromCharCode(
    view.getUint8(at + 4),
    view.getUint8(at + 5),
    view.getUint8(at + 6),
    view.getUint8(at + 7),
  );

function chunkNamesBeforePixels(view: DataView): Set<string> {
  const names = new Set<string>();
  for (let at = 8; at + 12 <= view.byteLength; at += 12 + view.getUint32(at)) {
    const name = chunkName(view, at);
    if (name === 'IDAT' || name === 'IEND') break;
    names.add(name);
  }
  return names;
}
