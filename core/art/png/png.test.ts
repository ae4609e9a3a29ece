import { describe, expect, it } from 'vitest';
import { isPng, readPngHeader } from './header.ts';

/** A PNG's chunks, without checksums worth the name: the header reader does not look at them. */
function pngOf(chunks: readonly (readonly [string, readonly number[]])[]): Uint8Array {
  const bytes = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
  for (const [name, data] of chunks) {
    bytes.push(
      0,
      0,
      data.length >> 8,
      data.length & 255,
      ...[...name].map((c) => c.charCodeAt(0)),
      ...data,
      0,
      0,
      0,
      0,
    );
  }
  return new Uint8Array(bytes);
}
const ihdr = (width: number, height: number, depth: number, type: number, interlace = 0) =>
  [
    'IHDR',
    [0, 0, width >> 8, width & 255, 0, 0, height >> 8, height & 255, depth, type, 0, 0, interlace],
  ] as const;
const IDAT = ['IDAT', [1, 2, 3]] as const;

describe('PNG headers (W3C PNG, Third Edition)', () => {
  it('give size, depth, colour type and interlace', () => {
    expect(readPngHeader(pngOf([ihdr(3200, 700, 16, 6, 1), IDAT]))).toEqual({
      ok: true,
      value: {
        widthPx: 3200,
        heightPx: 700,
        bitDepth: 16,
        colourType: 6,
        interlaced: true,
        hasProfile: false,
        animated: false,
      },
    });
  });

  it.each([
    ['iCCP', true, false],
    ['gAMA', true, false],
    ['cICP', true, false],
    ['acTL', false, true],
    ['tEXt', false, false],
  ])('notice %s before the pixels', (name, hasProfile, animated) => {
    const read = readPngHeader(pngOf([ihdr(4, 4, 8, 2), [name, [0, 1, 2, 3]], IDAT]));
    expect(read.ok && [read.value.hasProfile, read.value.animated]).toEqual([hasProfile, animated]);
  });

  it('do not look past the pixels', () => {
    const read = readPngHeader(pngOf([ihdr(4, 4, 8, 2), IDAT, ['gAMA', [0, 0, 0, 1]]]));
    expect(read.ok && read.value.hasProfile).toBe(false);
  });

  it.each([
    ['other bytes', new Uint8Array([1, 2, 3]), 'not-this-format'],
    ['nothing', new Uint8Array(), 'not-this-format'],
    ['a signature alone', pngOf([]), 'damaged'],
    ['no IHDR first', pngOf([['tEXt', Array.from({ length: 30 }, () => 65)]]), 'damaged'],
    ['a size of 0', pngOf([ihdr(0, 4, 8, 6), IDAT]), 'damaged'],
  ])('refuse %s', (_what, bytes, code) => {
    expect(readPngHeader(bytes)).toMatchObject({ ok: false, error: { code } });
  });

  it('are read from a view into a larger buffer', () => {
    const whole = new Uint8Array([9, 9, 9, ...pngOf([ihdr(7, 5, 8, 6), IDAT])]);
    expect(isPng(whole.subarray(3))).toBe(true);
    expect(readPngHeader(whole.subarray(3))).toMatchObject({ ok: true, value: { widthPx: 7, heightPx: 5 } });
  });
});
