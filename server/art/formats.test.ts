// Over 400 lines: all formats are read by one way in and held to one measure, here.
import { deflateSync } from 'node:zlib';
import { type ArtFault, mergeImages } from '@keen-ridge/core/art';
import { pngOfChunks } from '@keen-ridge/core/art/apng';
import { asPaintings, paintedLayers } from '@keen-ridge/core/art/landing';
import { planeFromLayer } from '@keen-ridge/core/edits/art';
import { CLEAR, renderLayers } from '@keen-ridge/core/picture';
import { framePlan } from '@keen-ridge/core/staging/frame';
import { randomImage, testPlaneId, testRenderer, testScene } from '@keen-ridge/core/testing';
import { type Result, seededRandom } from '@keen-ridge/core/units';
import PsdReader, { type Layer as PsdLayer } from '@webtoon/psd';
import type { Layer } from 'ag-psd';
import { zipSync } from 'fflate';
import omggif from 'omggif';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { openRasterOf, pngOfSamples, solidPng } from '../testing/art.ts';
import { deepPsd, testPsd, withProfile } from '../testing/paintings.ts';
import { collectImages } from './collect.ts';
import { decodeForLevels, decodeStored } from './decode.ts';
import { readArtFile } from './read-art.ts';

/** Display P3 to sRGB in linear light: the product of the matrices of CSS Color 4, §10.2 and §18, from memory. */
const P3_TO_SRGB = [
  [1.22494, -0.22494, 0],
  [-0.042057, 1.042057, 0],
  [-0.019638, -0.078636, 1.098274],
] as const;
const linear = (v: number) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
const encoded = (v: number) => (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055);
const srgbOfP3 = (p3: readonly number[]) =>
  P3_TO_SRGB.map((row) => encoded(row.reduce<number>((sum, share, c) => sum + share * linear(p3[c]!), 0)));

const RATE = { num: 24, den: 1 };

async function read(name: string, bytes: Uint8Array) {
  const { sink, images } = collectImages();
  const result = await readArtFile(name, bytes, { sink });
  if (!result.ok) throw new Error(result.error.detail);
  const layers = result.value.flatMap((painting) => paintedLayers(painting, RATE));
  const pixels = async (id: string) => {
    const image = await decodeStored(images.get(id)?.png ?? new Uint8Array());
    if (!image.ok) throw new Error(image.error.detail);
    return image.value;
  };
  const deep = (id: string) => decodedSamples(images.get(id)?.png ?? new Uint8Array());
  return { paintings: result.value, layers, pixels, deep };
}

/** Samples of an image of 16 bits a channel. */
async function decodedSamples(png: Uint8Array): Promise<Uint16Array> {
  const image = await decodeForLevels('', png);
  if (!image.ok || !(image.value.data instanceof Uint16Array)) throw new Error('Not held in 16 bit');
  return image.value.data;
}

describe('layered PSD and PSB', () => {
  it.each([false, true])('as @webtoon/psd 0.4 reads them (PSB: %s)', async (psb) => {
    const bytes = testPsd({}, { psb });
    const theirs = PsdReader.parse(bytes.slice().buffer as ArrayBuffer);
    const leaves: PsdLayer[] = [];
    theirs.layers.forEach((layer) => {
      leaves.push(layer);
    });
    const { layers, pixels } = await read('a.psd', bytes);
    for (const name of ['Himmel über See', 'Wall', 'Lamp']) {
      const ours = layers.find((layer) => layer.name === name);
      const other = leaves.find((layer) => layer.name === name);
      if (!ours || !other) throw new Error(name);
      expect([ours.xPx, ours.yPx, ours.art.widthPx, ours.art.heightPx]).toEqual([
        other.left,
        other.top,
        other.width,
        other.height,
      ]);
      const expected = await other.composite(false, false);
      const image = await pixels(ours.art.id);
      expect(Buffer.from(image.data).equals(Buffer.from(expected))).toBe(true);
    }
  });

  it('keep order, groups, opacity and hidden layers, and say what is lost', async () => {
    const { layers, paintings } = await read('a.psd', testPsd());
    expect(
      layers.map(({ name, group, hidden, opacity, mode }) => [
        name,
        group,
        hidden,
        Math.round(opacity * 1000) / 1000,
        mode,
      ]),
    ).toEqual([
      ['Lamp', null, true, 0.4, undefined],
      ['Masked', 'Quay', false, 0.502, undefined],
      ['Shadow', 'Quay', false, 0.502, 'multiply'],
      ['Wall', 'Quay', false, 0.502, undefined],
      ['Himmel über See', null, false, 1, undefined],
    ]);
    expect(paintings[0]?.notKept).toEqual([
      'Group “Quay” has an opacity of 50 %; each of its layers takes it on.',
      '“Nothing here” is empty and was left out.',
    ]);
  });

  it('work masks and clipping into the pixels', async () => {
    const { layers, pixels } = await read('a.psd', testPsd());
    const find = async (name: string) => pixels(layers.find((layer) => layer.name === name)?.art.id ?? '');
    const plain = randomImage(4, 40, 30);
    const masked = await find('Masked');
    for (const [x, y] of [
      [0, 0],
      [15, 12],
      [29, 24],
      [30, 12],
    ] as const) {
      const inside = x >= 10 && x < 30 && y >= 5 && y < 25;
      const mask = inside ? ((y - 5) * 20 + x - 10) % 256 : 0;
      const at = (y * 40 + x) * 4 + 3;
      expect(masked.data[at]).toBe(Math.round(((plain.data[at] as number) * mask) / 255));
    }
    const [wall, own, clipped] = [randomImage(2, 90, 40), randomImage(3, 20, 30), await find('Shadow')];
    for (const [x, y] of [
      [0, 0],
      [3, 9],
      [10, 25],
      [19, 29],
    ] as const) {
      // Shadow's corner is at (5, 20), Wall's at (−12, 30).
      const [u, v] = [x + 5 + 12, y + 20 - 30];
      const base = v < 0 ? 0 : (wall.data[(v * 90 + u) * 4 + 3] as number);
      const at = (y * 20 + x) * 4 + 3;
      expect(clipped.data[at]).toBe(Math.round(((own.data[at] as number) * base) / 255));
    }
  });

  it('take on what they are filled by, and what they are clipped to as far as that is seen', async () => {
    const layer = (name: string, part: Layer): Layer => {
      const data = Uint8ClampedArray.from({ length: 8 * 6 * 4 }, (_, i) => (i % 4 === 3 ? 255 : 90));
      return { name, top: 0, left: 0, imageData: { width: 8, height: 6, data }, ...part };
    };
    const bytes = testPsd({
      children: [
        layer('Base', { opacity: 0.6 }),
        layer('Clipped', { clipping: true }),
        layer('Thin', { opacity: 0.8, fillOpacity: 0.2 }),
      ],
    });
    const { layers, pixels } = await read('a.psd', bytes);
    expect(layers.map(({ name, opacity }) => [name, Math.round(opacity * 255)])).toEqual([
      ['Thin', 41],
      ['Clipped', 255],
      ['Base', 153],
    ]);
    expect((await pixels(layers[1]!.art.id)).data[3]).toBe(153);
  });

  it('of 16 bit are kept in 16, step for step', async () => {
    const samples = Array.from({ length: 3 * 2 * 4 }, (_, i) =>
      i % 4 === 3 ? 65_535 - i * 900 : (i * 7919) % 65_536,
    );
    const { layers, paintings, deep } = await read('deep.psd', deepPsd(samples, 3, 2));
    expect(layers.map(({ name }) => name)).toEqual(['Deep']);
    expect([...(await deep(layers[0]!.art.id))]).toEqual(samples);
    expect(paintings[0]?.notKept).toEqual([]);
  });

  it('of 16 bit with a colour profile are converted to sRGB, as a PNG of 16 bit is, by the matrices of CSS Color 4', async () => {
    // Within both gamuts, off the steps of bytes.
    const colours = [
      [200, 120, 100],
      [90, 140, 60],
      [30, 60, 120],
      [128, 128, 128],
    ] as const;
    const alphas = [65_535, 40_000, 20_000, 65_535];
    const samples = colours.flatMap((c, i) => [...c.map((v) => v * 257 + 13 * i), alphas[i]!]);
    const raw = { width: 4, height: 1, channels: 4 } as const;
    const source = sharp(Uint16Array.from(samples), { raw }).toColourspace('rgb16');
    // What the encoder writes beside a profile are the values as they are.
    const png = new Uint8Array(await source.withIccProfile('p3').png().toBuffer());
    const { icc } = await sharp(png).metadata();
    const files = { 'p3.png': png, 'p3.psd': withProfile(deepPsd(samples, 4, 1), icc ?? Buffer.alloc(0)) };
    for (const [name, bytes] of Object.entries(files)) {
      const { layers, deep } = await read(name, bytes);
      const values = await deep(layers[0]!.art.id);
      for (let i = 0; i < 4; i++) {
        const srgb = srgbOfP3(samples.slice(i * 4, i * 4 + 3).map((v) => v / 65_535));
        // The profile holds its matrix and curve in 16 bits.
        for (const [c, value] of srgb.entries())
          expect(Math.abs(values[i * 4 + c]! - value * 65_535)).toBeLessThan(80);
        expect(values[i * 4 + 3]).toBe(alphas[i]);
      }
    }
  });

  it('with a colour profile are converted to sRGB', async () => {
    const wide = await sharp({
      create: { width: 2, height: 2, channels: 3, background: { r: 200, g: 30, b: 30 } },
    })
      .withIccProfile('p3', { attach: true })
      .png()
      .toBuffer();
    const { icc } = await sharp(wide).metadata();
    const own = await sharp(wide, { ignoreIcc: true }).ensureAlpha().raw().toBuffer();
    const plain = testPsd({
      width: 2,
      height: 2,
      children: [{ name: 'A', imageData: { width: 2, height: 2, data: new Uint8ClampedArray(own) } }],
    });
    const { layers, pixels } = await read('p3.psd', withProfile(plain, icc ?? Buffer.alloc(0)));
    const { data } = await pixels(layers[0]!.art.id);
    [200, 30, 30, 255].forEach((value, c) => {
      expect(Math.abs((data[c] as number) - value)).toBeLessThanOrEqual(3);
    });
    expect(own[0]).not.toBe(200);
  });

  it('of one flat picture come in as it', async () => {
    const image = {
      width: 20,
      height: 10,
      data: new Uint8ClampedArray(800).fill(255).map((v, i) => (i % 4 === 0 ? i % 251 : v)),
    };
    const { layers, pixels } = await read(
      'flat.psd',
      testPsd({ width: 20, height: 10, children: [], imageData: image }),
    );
    expect(layers.map(({ name }) => name)).toEqual(['Background']);
    expect([...(await pixels(layers[0]!.art.id)).data]).toEqual([...image.data]);
  });
});

describe('what moves', () => {
  const frames = Array.from({ length: 4 }, (_, i) =>
    Buffer.from(
      Array.from({ length: 24 * 16 }, (_, p) =>
        ((p % 24) - 4 * i) ** 2 + (Math.floor(p / 24) - 8) ** 2 < 30 ? [220, 120, 40, 255] : [0, 0, 0, 0],
      ).flat(),
    ),
  );

  it('in GIF, frame by frame as omggif 1 draws it with disposal by hand', async () => {
    const raw = { width: 24, height: 16 * 4, channels: 4 as const, pageHeight: 16 };
    const gif = new Uint8Array(
      await sharp(Buffer.concat(frames), { raw })
        .gif({ delay: [100, 50, 200, 100], loop: 0 })
        .toBuffer(),
    );
    const theirs = new omggif.GifReader(Buffer.from(gif));
    const { layers, pixels } = await read('walk.gif', gif);
    const exposures = layers[0]?.moving?.exposures ?? [];
    expect(exposures.map(({ hold }) => hold)).toEqual([2, 2, 4, 3]);
    expect(theirs.numFrames()).toBe(4);
    let canvas = new Uint8Array(24 * 16 * 4);
    for (let i = 0; i < 4; i++) {
      const before = canvas.slice();
      theirs.decodeAndBlitFrameRGBA(i, canvas);
      const ours = await pixels(exposures[i]!.art.id);
      for (let p = 0; p < canvas.length; p += 4) {
        expect(ours.data[p + 3]).toBe(canvas[p + 3]);
        if (canvas[p + 3]) expect([...ours.data.subarray(p, p + 3)]).toEqual([...canvas.subarray(p, p + 3)]);
      }
      const { disposal, x, y, width, height } = theirs.frameInfo(i);
      if (disposal === 3) canvas = before;
      else if (disposal === 2)
        for (let row = y; row < y + height; row++)
          canvas.fill(0, (row * 24 + x) * 4, (row * 24 + x + width) * 4);
    }
  });

  it('in animated WebP', async () => {
    const raw = { width: 24, height: 16 * 4, channels: 4 as const, pageHeight: 16 };
    const webp = await sharp(Buffer.concat(frames), { raw })
      .webp({ lossless: true, delay: [40, 40, 40, 40] })
      .toBuffer();
    const { layers, pixels } = await read('a.webp', new Uint8Array(webp));
    const exposures = layers[0]?.moving?.exposures ?? [];
    expect(exposures).toHaveLength(4);
    const second = await pixels(exposures[1]!.art.id);
    for (let p = 3; p < second.data.length; p += 4) expect(second.data[p]).toBe(frames[1]?.[p]);
  });

  it('of an animated PNG without frames is told', async () => {
    const header = Uint8Array.from([0, 0, 0, 4, 0, 0, 0, 4, 8, 6, 0, 0, 0]);
    const png = pngOfChunks([
      { name: 'IHDR', data: header },
      { name: 'acTL', data: new Uint8Array(8) },
      { name: 'IDAT', data: new Uint8Array(deflateSync(new Uint8Array(4 * 17))) },
      { name: 'IEND', data: new Uint8Array() },
    ]);
    await expect(read('still.png', png)).rejects.toThrow('it is said to move but has no frames');
  });

  it('as numbered pictures that look alike in a zip becomes one plane; other files are reported', async () => {
    const wave = (i: number) => solidPng(6, 6, { r: 40 + i, g: 90, b: 120 });
    const zip = zipSync({
      'wave/w_1.png': await wave(1),
      'wave/w_3.png': await wave(3),
      'wave/w_2.png': await wave(2),
      'readme.txt': new Uint8Array([65]),
      'sky.png': await solidPng(6, 6, { r: 220, g: 160, b: 90 }),
    });
    const { paintings } = await read('parts.zip', zip);
    expect(paintings.map(({ file }) => file)).toEqual(['sky.png', 'w_1.png', 'w_2.png', 'w_3.png']);
    expect(paintings[0]?.notKept).toEqual(['“readme.txt” is no art and was left out.']);
    const joined = asPaintings(paintings, RATE);
    expect(
      joined.map(({ nodes }) => [
        nodes[0]?.name,
        nodes[0]?.kind === 'layer' && (nodes[0].frames?.length ?? 1),
      ]),
    ).toEqual([
      ['sky', 1],
      ['w', 3],
    ]);
  });
});

describe('OpenRaster', () => {
  it('laid together by our own compositing is the merged picture of the document to 1/255', async () => {
    const parts = await Promise.all(
      [1, 2, 3].map(async (seed) => {
        const image = randomImage(seed, 40, 30);
        const png = await sharp(image.data, { raw: { width: 40, height: 30, channels: 4 } })
          .png()
          .toBuffer();
        return { image, png: new Uint8Array(png) };
      }),
    );
    const bytes = openRasterOf(
      parts.map(({ png }, i) => ({
        name: `L${i}`,
        png,
        x: i * 3,
        y: i * 2,
      })),
      48,
      36,
    );
    const { layers, pixels } = await read('a.ora', bytes);
    const placed = await Promise.all(
      layers.map(async ({ art, xPx, yPx, opacity }) => ({ image: await pixels(art.id), xPx, yPx, opacity })),
    );
    const ours = mergeImages(placed.toReversed(), { x0: 0, y0: 0, x1: 48, y1: 36 });
    // The merged image that a painting program would write: libvips' own compositing of the same layers.
    const merged = await sharp({ create: { width: 48, height: 36, channels: 4, background: '#00000000' } })
      .composite([
        { input: Buffer.from(parts[2]!.png), left: 6, top: 4 },
        { input: Buffer.from(parts[1]!.png), left: 3, top: 2 },
        { input: Buffer.from(parts[0]!.png), left: 0, top: 0 },
      ])
      .raw()
      .toBuffer();
    for (let i = 0; i < merged.length; i += 4) {
      expect(Math.abs((ours.data[i + 3] as number) - (merged[i + 3] as number))).toBeLessThanOrEqual(1);
      for (let c = 0; c < 3; c++) {
        const share = (ours.data[i + 3] as number) / 255;
        expect(
          Math.abs((ours.data[i + c] as number) - (merged[i + c] as number)) * share,
        ).toBeLessThanOrEqual(2);
      }
    }
  });
});

describe('damaged files of every format (seeded)', () => {
  const random = seededRandom(2026);
  const opaque = () => sharp(randomImage(8, 30, 20).data, { raw: { width: 30, height: 20, channels: 4 } });
  const valid: readonly (readonly [string, () => Promise<Uint8Array>])[] = [
    [
      'png',
      async () => pngOfSamples({ width: 20, height: 20, colourType: 6, depth: 8, interlaced: true, seed: 1 }),
    ],
    ['jpeg', async () => new Uint8Array(await opaque().removeAlpha().jpeg().toBuffer())],
    ['webp', async () => new Uint8Array(await opaque().webp().toBuffer())],
    ['tiff', async () => new Uint8Array(await opaque().tiff().toBuffer())],
    ['gif', async () => new Uint8Array(await opaque().gif().toBuffer())],
    [
      'svg',
      async () =>
        new TextEncoder().encode(
          '<svg xmlns="http://www.w3.org/2000/svg" width="20" height="9"><path d="M0 0h9v9z"/></svg>',
        ),
    ],
    ['psd', async () => testPsd()],
    [
      'ora',
      async () =>
        openRasterOf([{ name: 'A', png: await solidPng(8, 8, { r: 1, g: 2, b: 3 }), x: 0, y: 0 }], 8, 8),
    ],
    ['zip', async () => zipSync({ 'a.png': await solidPng(8, 8, { r: 1, g: 2, b: 3 }) })],
  ];

  it.each(valid)('%s: each is read or refused with a reason, and nothing falls over', async (kind, make) => {
    const whole = await make();
    const outcomes: Result<unknown, ArtFault>[] = [];
    for (let i = 0; i < 40; i++) {
      const bytes = whole.slice(0, i % 4 === 0 ? Math.floor(whole.length * random()) : whole.length);
      for (let k = 0; k < 1 + i / 4 && bytes.length > 0; k++)
        bytes[Math.floor(random() * bytes.length)] = Math.floor(random() * 256);
      const { sink } = collectImages();
      outcomes.push(await readArtFile(`x.${kind}`, bytes, { sink }));
    }
    const faults = outcomes.flatMap((outcome) => (outcome.ok ? [] : [outcome.error]));
    expect(faults.length).toBeGreaterThan(5);
    for (const { detail } of faults) expect(detail.length).toBeGreaterThan(5);
  });
});

describe('a layered document with a shadow that multiplies and a light that screens', () => {
  // Paint that is there or not: libvips has another formula for what is half clear (Chromium's has not: e2e/kernel.spec.ts).
  it('is drawn as libvips merges it, to 1/255', async () => {
    const [width, height] = [48, 36];
    const data = (seed: number) => new Uint8ClampedArray(randomImage(seed, width, height).data);
    const wall = data(90).map((v, i) => (i % 4 === 3 ? 255 : v));
    const modes = ['multiply', 'screen', 'overlay', 'difference'] as const;
    const layers = [
      wall,
      ...modes.map((_, i) => data(91 + i).map((v, k) => (k % 4 === 3 ? (v < 90 ? 0 : 255) : v))),
    ];
    const bytes = testPsd({
      width,
      height,
      children: layers.map((pixels, i) => ({
        name: `L${i}`,
        left: 0,
        top: 0,
        imageData: { width, height, data: pixels },
        ...(i === 0 ? {} : { blendMode: modes[i - 1]! }),
      })),
    });
    const { layers: read1, paintings, pixels } = await read('modes.psd', bytes);
    expect(paintings[0]?.notKept).toEqual([]);
    expect(read1.map(({ mode }) => mode ?? 'paint').toReversed()).toEqual(['paint', ...modes]);
    const renderer = await testRenderer();
    for (const { art } of read1) renderer.addImage(art.id, await pixels(art.id));
    const planes = read1.map((layer, i) => planeFromLayer(testPlaneId(`p${i}`), layer));
    const scene = testScene(planes, { frame: { widthPx: width, heightPx: height } });
    const view = {
      widthPx: width,
      heightPx: height,
      frameToImage: { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 },
      background: CLEAR,
    };
    const ours = renderer.render(renderLayers(framePlan(scene, 1), view), view).data;
    const raw = { width, height, channels: 4 } as const;
    const merged = await sharp(Buffer.from(wall), { raw })
      .composite(modes.map((blend, i) => ({ input: Buffer.from(layers[i + 1]!), raw, blend })))
      .raw()
      .toBuffer();
    let worst = 0;
    for (let i = 0; i < merged.length; i++) worst = Math.max(worst, Math.abs(ours[i]! - merged[i]!));
    expect(worst).toBeLessThanOrEqual(1);
  });
});
