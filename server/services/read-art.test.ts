import { PNG } from 'pngjs';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { openRasterOf, solidPng } from '../testing/art.ts';
import { faultSentence, notKeptSentence } from './art-words.ts';
import { decode, readArtFile } from './read-art.ts';

const GRADIENT = (() => {
  const data = Buffer.alloc(32 * 16 * 4);
  for (let i = 0; i < data.length; i++) data[i] = (i * 37) % 256;
  return data;
})();
const raw = { raw: { width: 32, height: 16, channels: 4 as const } };

describe('PNGs', () => {
  it('decodes as an independent reader does (pngjs 7), straight alpha and all', async () => {
    for (const progressive of [false, true]) {
      const png = await sharp(GRADIENT, raw).png({ progressive }).toBuffer();
      const ours = await decode(new Uint8Array(png));
      expect(ours.ok && Buffer.from(ours.value).equals(PNG.sync.read(png).data)).toBe(true);
    }
  });

  it.each([
    [
      'grey',
      () =>
        sharp({ create: { width: 8, height: 8, channels: 3, background: '#808080' } })
          .toColourspace('b-w')
          .png(),
    ],
    ['palette', () => sharp(GRADIENT, raw).png({ palette: true, colours: 16 })],
    ['RGB', () => sharp(GRADIENT, raw).removeAlpha().png()],
  ])('reads %s as RGBA', async (_kind, make) => {
    const png = await make().toBuffer();
    const read = await readArtFile('x.png', new Uint8Array(png));
    const size = PNG.sync.read(png);
    const layer = read.ok ? read.value.layers[0] : undefined;
    expect(layer?.art).toMatchObject({ widthPx: size.width, heightPx: size.height });
    const ours = await decode(layer?.png ?? new Uint8Array());
    expect(ours.ok && Buffer.from(ours.value).equals(size.data)).toBe(true);
  });

  it('keeps plain bytes as they came and says what 16 bit loses', async () => {
    const plain = new Uint8Array(await sharp(GRADIENT, raw).png().toBuffer());
    const read = await readArtFile('Sky.PNG', plain);
    expect(read.ok && read.value.layers[0]?.png).toEqual(plain);
    expect(read.ok && read.value.layers[0]?.name).toBe('Sky');
    const deep = await sharp(GRADIENT, raw).toColourspace('rgb16').png().toBuffer();
    const wide = await readArtFile('deep.png', new Uint8Array(deep));
    expect(wide.ok && wide.value.notKept.map(notKeptSentence)).toEqual([
      '“deep” has 16 bit per channel; it is held in 8.',
    ]);
  });

  it('converts an embedded profile to sRGB', async () => {
    const wide = await sharp({
      create: { width: 4, height: 4, channels: 3, background: { r: 200, g: 30, b: 30 } },
    })
      .withIccProfile('p3', { attach: true })
      .png()
      .toBuffer();
    const read = await readArtFile('p3.png', new Uint8Array(wide));
    if (!read.ok) throw new Error(read.error.detail);
    const pixels = await decode(read.value.layers[0]!.png);
    // The profile's own numbers differ from the sRGB ones that came in; the colour must be back where it was.
    expect(pixels.ok && Math.abs(pixels.value[0]! - 200)).toBeLessThanOrEqual(2);
    expect(pixels.ok && Math.abs(pixels.value[1]! - 30)).toBeLessThanOrEqual(3);
  });
});

describe('OpenRaster files', () => {
  it('reads layers into places, on top first, and leaves empty ones out', async () => {
    const red = await solidPng(20, 10, { r: 200, g: 0, b: 0 });
    const nothing = await solidPng(5, 5, { r: 0, g: 0, b: 0, alpha: 0 });
    const read = await readArtFile(
      'a.ora',
      openRasterOf(
        [
          { name: 'Top', png: red, x: 7, y: -3 },
          { name: 'Bare', png: nothing, x: 0, y: 0 },
          { name: 'Under', png: red, x: 0, y: 0 },
        ],
        64,
        36,
      ),
    );
    if (!read.ok) throw new Error(read.error.detail);
    expect(read.value.layers.map(({ name, xPx, yPx }) => [name, xPx, yPx])).toEqual([
      ['Top', 7, -3],
      ['Under', 0, 0],
    ]);
    expect(read.value.layers[0]).toMatchObject({ paintingWidthPx: 64, paintingHeightPx: 36 });
    expect(read.value.layers[0]?.art.id).toBe(read.value.layers[1]?.art.id);
    expect(read.value.notKept.map(({ code }) => code)).toEqual(['empty-layer']);
  });
});

describe('files that cannot be read', () => {
  const fault = async (name: string, bytes: Uint8Array) => {
    const read = await readArtFile(name, bytes);
    if (read.ok) throw new Error('it was read');
    return faultSentence(name, read.error);
  };

  it('are named in one sentence with the fault and what to do', async () => {
    expect(await fault('notes.txt', new TextEncoder().encode('hello'))).toBe(
      '“notes.txt” cannot be read: it is neither a PNG nor an OpenRaster file. Bring PNG or OpenRaster (.ora) files.',
    );
    const cut = (await solidPng(300, 300, { r: 9, g: 9, b: 9 })).subarray(0, 90);
    expect(await fault('cut.png', cut)).toMatch(
      /^“cut.png” cannot be read: its pixels cannot be read .*Save it again/,
    );
    const bad = openRasterOf([{ name: 'Hill', png: new Uint8Array([1, 2, 3]), x: 0, y: 0 }], 10, 10);
    expect(await fault('b.ora', bad)).toContain('layer “Hill”: it does not begin as a PNG does');
  });

  it('include bombs: a small file that claims a huge picture', async () => {
    const png = Buffer.from(await solidPng(4, 4, { r: 1, g: 2, b: 3 }));
    png.writeUInt32BE(60_000, 16);
    png.writeUInt32BE(60_000, 20);
    expect(await fault('bomb.png', new Uint8Array(png))).toContain('60000 × 60000 px is more than');
  });
});
