import type { ArtFault } from '@keen-ridge/core/art';
import { type ImportedPainting, paintedLayers } from '@keen-ridge/core/art/landing';
import { isLanes, levelsOf, raster } from '@keen-ridge/core/image';
import type { Result } from '@keen-ridge/core/units';
import { PNG } from 'pngjs';
import sharp, { type Sharp } from 'sharp';
import { describe, expect, it } from 'vitest';
import { openRasterOf, pngOfSamples, solidPng } from '../testing/art.ts';
import { faultSentence } from './art-words.ts';
import { collectImages } from './collect.ts';
import { decodeForLevels, decodeStored } from './decode.ts';
import { readArtFile } from './read-art.ts';

const RATE = { num: 24, den: 1 };
const GRADIENT = (() => {
  const data = Buffer.alloc(32 * 16 * 4);
  for (let i = 0; i < data.length; i++) data[i] = (i * 37) % 256;
  return data;
})();
const raw = { raw: { width: 32, height: 16, channels: 4 as const } };
const bytesOf = async (image: Sharp) => new Uint8Array(await image.toBuffer());

/** What a file holds, with its layers' pixels at hand. */
async function read(name: string, bytes: Uint8Array, svgScale = 1) {
  const { sink, images } = collectImages();
  const result: Result<ImportedPainting[], ArtFault> = await readArtFile(name, bytes, { sink, svgScale });
  if (!result.ok) throw new Error(faultSentence(name, result.error));
  const paintings = result.value;
  const layers = paintings.flatMap((painting) => paintedLayers(painting, RATE));
  const pixelsOf = async (id: string) => {
    const image = await decodeStored(images.get(id)?.png ?? new Uint8Array());
    if (!image.ok) throw new Error(image.error.detail);
    return image.value;
  };
  return { paintings, layers, images, pixelsOf, pixels: await pixelsOf(layers[0]!.art.id) };
}

const worst = (p: ArrayLike<number>, q: ArrayLike<number>): number => {
  expect(p.length).toBe(q.length);
  let most = 0;
  for (let i = 0; i < p.length; i++) most = Math.max(most, Math.abs((p[i] as number) - (q[i] as number)));
  return most;
};

describe('PNGs', () => {
  const kinds = [
    [0, [1, 2, 4, 8, 16]],
    [2, [8, 16]],
    [3, [1, 2, 4, 8]],
    [4, [8, 16]],
    [6, [8, 16]],
  ] as const;
  const matrix = kinds.flatMap(([colourType, depths]) =>
    depths.flatMap((depth) => [false, true].map((interlaced) => ({ colourType, depth, interlaced }))),
  );

  it.each(matrix)(
    'of colour type $colourType, $depth bit, interlaced $interlaced: as pngjs 7 reads them',
    async (kind) => {
      const png = pngOfSamples({ ...kind, width: 13, height: 9, seed: kind.depth * 8 + kind.colourType });
      const expected = PNG.sync.read(Buffer.from(png));
      const { pixels, layers } = await read('x.png', png);
      expect(layers[0]?.art).toMatchObject({ widthPx: 13, heightPx: 9 });
      // 16 bit is rounded to 8 by one reader and cut by the other.
      expect(worst(pixels.data, expected.data)).toBeLessThanOrEqual(kind.depth === 16 ? 1 : 0);
    },
  );

  it('keep plain bytes as they came, of 16 bit too', async () => {
    const plain = await bytesOf(sharp(GRADIENT, raw).png());
    const kept = await read('Sky.v2.PNG', plain);
    expect(kept.images.get(kept.layers[0]!.art.id)?.png).toEqual(plain);
    expect(kept.layers[0]?.name).toBe('Sky.v2');
    const deep = await bytesOf(sharp(GRADIENT, raw).toColourspace('rgb16').png());
    const wide = await read('deep.png', deep);
    expect(wide.paintings[0]?.notKept).toEqual([]);
    expect(wide.images.get(wide.layers[0]!.art.id)?.png).toEqual(deep);
  });

  it('of 16 bit are held so finely that every step of them is drawn', async () => {
    // A ramp of one step of 65 535 a px, opaque, as PNG and as TIFF; read back by another reader.
    const [width, height] = [400, 4];
    const ramp = Uint16Array.from({ length: width * height * 4 }, (_, i) =>
      i % 4 === 3 ? 65_535 : 20_000 + ((i >> 2) % width) * (1 + (i % 4)),
    );
    const source = sharp(ramp, { raw: { width, height, channels: 4 } }).toColourspace('rgb16');
    for (const [name, bytes] of [
      ['ramp.png', await bytesOf(source.clone().png())],
      ['ramp.tif', await bytesOf(source.clone().tiff({ compression: 'deflate' }))],
    ] as const) {
      const { images, layers } = await read(name, bytes);
      const { png } = images.get(layers[0]!.art.id)!;
      const pixels = await decodeForLevels('', png);
      if (!pixels.ok || !(pixels.value.data instanceof Uint16Array)) throw new Error('Not held in 16 bit');
      expect(Array.from(pixels.value.data)).toEqual(Array.from(ramp));
      const [finest] = levelsOf(pixels.value);
      expect(finest && isLanes(finest.level)).toBe(true);
      // 32 640 lanes for 65 535 values: no further off than half of one.
      const off = Array.from(finest!.level.data, (lane, i) => Math.abs((lane * 65_535) / 32_640 - ramp[i]!));
      expect(Math.max(...off)).toBeLessThan(1.01);
    }
  });

  it('convert an embedded profile to sRGB', async () => {
    const wide = await bytesOf(
      sharp({ create: { width: 4, height: 4, channels: 3, background: { r: 200, g: 30, b: 30 } } })
        .withIccProfile('p3', { attach: true })
        .png(),
    );
    const { pixels } = await read('p3.png', wide);
    // The profile's own numbers differ from the sRGB ones that came in; the colour must be back where it was.
    expect(worst(pixels.data.slice(0, 4), [200, 30, 30, 255])).toBeLessThanOrEqual(3);
  });

  it('that might be premultiplied are pointed out, others are not', async () => {
    const soft = raster(32, 32, 'straight');
    for (let i = 0; i < 1024; i++) soft.data.set([230, 200, 150, (i % 32) * 8], i * 4);
    const straight = await sharp(soft.data, { raw: { width: 32, height: 32, channels: 4 } })
      .png()
      .toBuffer();
    expect((await read('a.png', new Uint8Array(straight))).paintings[0]?.alphaUnsure).toBe(false);
    for (let i = 0; i < soft.data.length; i += 4)
      for (let c = 0; c < 3; c++)
        soft.data[i + c] = Math.round((soft.data[i + c]! * soft.data[i + 3]!) / 255);
    const multiplied = await sharp(soft.data, { raw: { width: 32, height: 32, channels: 4 } })
      .png()
      .toBuffer();
    expect((await read('a.png', new Uint8Array(multiplied))).paintings[0]?.alphaUnsure).toBe(true);
  });
});

describe('photographs and scans', () => {
  it('come in from lossless WebP and TIFF bit for bit, from JPEG as the decoder gives them', async () => {
    const opaque = sharp(GRADIENT, raw).removeAlpha();
    const expected = await opaque.clone().ensureAlpha().raw().toBuffer();
    const webp = await read('a.webp', await bytesOf(opaque.clone().webp({ lossless: true })));
    expect(worst(webp.pixels.data, expected)).toBe(0);
    const tiff = await read('a.tif', await bytesOf(opaque.clone().tiff({ compression: 'lzw' })));
    expect(worst(tiff.pixels.data, expected)).toBe(0);
    const jpeg = await bytesOf(opaque.clone().jpeg({ quality: 90 }));
    const decoded = await sharp(jpeg).ensureAlpha().raw().toBuffer();
    expect(worst((await read('a.jpg', jpeg)).pixels.data, decoded)).toBe(0);
  });

  it('a JPEG that was taken on its side stands upright', async () => {
    const jpeg = await bytesOf(sharp(GRADIENT, raw).removeAlpha().withMetadata({ orientation: 6 }).jpeg());
    expect((await read('side.jpg', jpeg)).layers[0]?.art).toMatchObject({ widthPx: 16, heightPx: 32 });
  });
});

describe('drawings', () => {
  const svg = (inner: string, attributes = 'width="20" height="10"') =>
    new TextEncoder().encode(
      `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${inner}</svg>`,
    );

  it('are drawn at the scale that is asked for', async () => {
    const drawing = svg('<rect x="5" width="10" height="10" fill="#ff0000"/>');
    expect((await read('a.svg', drawing)).layers[0]?.art).toMatchObject({ widthPx: 20, heightPx: 10 });
    const large = await read('a.svg', drawing, 4);
    expect(large.layers[0]?.art).toMatchObject({ widthPx: 80, heightPx: 40, painted: { x0: 20, x1: 60 } });
    expect([...large.pixels.data.slice((20 * 80 + 40) * 4, (20 * 80 + 40) * 4 + 4)]).toEqual([
      255, 0, 0, 255,
    ]);
    expect(large.paintings[0]?.svgScale).toBe(4);
  });

  it('never run scripts nor follow references; both are told', async () => {
    const { paintings } = await read(
      'a.svg',
      svg(
        '<script>1</script><image width="9" height="9" xlink:href="file:///etc/hostname"/><rect width="3" height="3"/>',
      ),
    );
    expect(paintings[0]?.notKept.join(' ')).toMatch(/holds a script.*file:\/\/\/etc\/hostname/);
  });

  it.each([
    [
      'entities',
      '<!DOCTYPE svg [<!ENTITY a "b">]><svg xmlns="http://www.w3.org/2000/svg" width="4" height="4"/>',
      'entities',
    ],
    ['no size', '<svg xmlns="http://www.w3.org/2000/svg"/>', 'neither a size nor a view box'],
    ['half a file', '<svg xmlns="http://www.w3.org/2000/svg" width="4" height="4"><rect', 'not well-formed'],
    [
      'a giant',
      '<svg xmlns="http://www.w3.org/2000/svg" width="90000" height="90000"/>',
      'more than 384 million',
    ],
  ])('are refused with %s', async (_what, text, why) => {
    await expect(read('a.svg', new TextEncoder().encode(text))).rejects.toThrow(why);
  });
});

describe('OpenRaster files', () => {
  it('read layers into places, on top first, and leave empty ones out', async () => {
    const red = await solidPng(20, 10, { r: 200, g: 0, b: 0 });
    const nothing = await solidPng(5, 5, { r: 0, g: 0, b: 0, alpha: 0 });
    const { layers, paintings, images } = await read(
      'dir/a.ora',
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
    expect(layers.map(({ name, xPx, yPx }) => [name, xPx, yPx])).toEqual([
      ['Top', 7, -3],
      ['Under', 0, 0],
    ]);
    expect(layers[0]).toMatchObject({
      paintingWidthPx: 64,
      paintingHeightPx: 36,
      file: 'a.ora',
      group: null,
    });
    expect(layers[0]?.art.id).toBe(layers[1]?.art.id);
    expect(images.size).toBe(2);
    expect(paintings[0]?.notKept).toEqual(['“Bare” is empty and was left out.']);
  });
});

describe('files that cannot be read', () => {
  const fault = (name: string, bytes: Uint8Array) =>
    read(name, bytes).then(
      () => 'it was read',
      (error: Error) => error.message,
    );

  it('are named in one sentence with the fault and what to do', async () => {
    expect(await fault('notes.txt', new TextEncoder().encode('hello'))).toBe(
      '“notes.txt” cannot be read: it is none of the formats that are read here. Bring OpenRaster, PSD or PSB, PNG, JPEG, WebP, TIFF, SVG, GIF, a film (WebM, MP4, MOV, Matroska), or a zip of these.',
    );
    expect(await fault('nothing.png', new Uint8Array())).toContain('it is empty');
    const cut = (await solidPng(300, 300, { r: 9, g: 9, b: 9 })).subarray(0, 90);
    expect(await fault('cut.png', cut)).toMatch(
      /^“cut.png” cannot be read: its pixels cannot be read .*Save it again/,
    );
    const bad = openRasterOf([{ name: 'Hill', png: new Uint8Array([1, 2, 3]), x: 0, y: 0 }], 10, 10);
    expect(await fault('b.ora', bad)).toContain('layer “Hill”: its pixels cannot be read');
    expect((await fault('x'.repeat(10_000), new Uint8Array([1]))).length).toBeLessThan(400);
  });

  it('include bombs: a small file that claims a huge picture', async () => {
    const png = Buffer.from(await solidPng(4, 4, { r: 1, g: 2, b: 3 }));
    png.writeUInt32BE(60_000, 16);
    png.writeUInt32BE(60_000, 20);
    expect(await fault('bomb.png', new Uint8Array(png))).toContain('60000 × 60000 px is more than');
  });
});
