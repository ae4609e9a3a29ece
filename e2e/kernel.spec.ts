import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { compose, rotation, scaling, translation } from '@keen-ridge/core/geometry';
import {
  encodeLayers,
  jobBytes,
  KERNEL_MEMORY,
  type KernelExports,
  levelOfImage,
  runRows,
} from '@keen-ridge/core/kernel';
import { imageLayout, storeImage, texelBytesFor } from '@keen-ridge/core/kernel/memory';
import { BLEND_MODES, blendOver, gradeMatrix } from '@keen-ridge/core/paint';
import { applyLook } from '@keen-ridge/core/picture';
import { randomImage, testArtId } from '@keen-ridge/core/testing';
import { seededRandom } from '@keen-ridge/core/units';
import { expect, test } from './app-server.ts';

const WIDTH = 321;
const HEIGHT = 182;
const IMAGE = { widthPx: 260, heightPx: 170 };
const AT = {
  image: 65_536,
  table: 4_000_000,
  scratch: 4_100_000,
  out: 8_000_000,
  stop: 8_900_000,
  taken: 8_900_004,
  end: 9_000_000,
};

/** A job of one straight, one turned and one faded layer, and the memory it works on. */
function job() {
  const memory = new Uint8Array(AT.end);
  const image = randomImage(77, IMAGE.widthPx, IMAGE.heightPx);
  const layout = imageLayout(IMAGE.widthPx, IMAGE.heightPx, texelBytesFor(image));
  storeImage(image, layout, memory.subarray(AT.image, AT.image + layout.bytes));
  const layer = (map: ReturnType<typeof compose>, level: number, opacity: number) => ({
    kind: 'image' as const,
    artId: testArtId(1),
    ...IMAGE,
    level,
    imageToLevel: map,
    blend: null,
    look: null,
    opacity,
    smooth: false,
    beyond: null,
    mode: 'paint' as const,
    softEdgePx: 0,
    repeat: 'none' as const,
  });
  const layers = [
    layer(compose(scaling(0.83), translation(-20.3, 4.7)), 0, 1),
    layer(compose(rotation(-17), compose(scaling(0.9), translation(-120, -30))), 0, 1),
    layer(compose(scaling(0.61), translation(3.25, 9.5)), 1, 0.4),
  ];
  const table = encodeLayers(layers, {
    levelOf: (_id, level) => levelOfImage({ address: AT.image, layout }, level),
    groupOf: () => undefined,
  });
  expect(jobBytes(WIDTH, table).scratch).toBeLessThan(AT.out - AT.scratch);
  memory.set(table.bytes, AT.table);
  return { memory, table };
}

const ARGUMENTS = [AT.scratch, AT.out, WIDTH, HEIGHT, 0xff2e2e2e, 0, 0, AT.stop, AT.taken] as const;

const wasmOf = (file: string) =>
  readFileSync(fileURLToPath(import.meta.resolve(`@keen-ridge/core/kernel/${file}`)));

test('both kernels give the same bytes in Chromium as the plain one in Node', async ({ page, app }) => {
  const { memory, table } = job();
  const wasm = wasmOf('kernel.wasm');

  const shared = new WebAssembly.Memory({ ...KERNEL_MEMORY, initial: 256 });
  new Uint8Array(shared.buffer).set(memory);
  const kernel = new WebAssembly.Instance(new WebAssembly.Module(new Uint8Array(wasm)), {
    env: { memory: shared },
  }).exports as unknown as KernelExports;
  const [scratchAt, outAt, widthPx, heightPx, background] = ARGUMENTS;
  runRows(kernel, shared, {
    table,
    tableAt: AT.table,
    scratchAt,
    outAt,
    widthPx,
    heightPx,
    background,
    format: 'premultiplied8',
    stopAt: AT.stop,
    takenAt: AT.taken,
    firstBand: 0,
  });
  const inNode = new Uint8Array(shared.buffer, AT.out, WIDTH * HEIGHT * 4).slice();
  expect(new Set(inNode).size).toBeGreaterThan(100);

  await page.goto(app.url);
  const digestInPage = (bytesOfKernel: Buffer) =>
    page.evaluate(
      async ({ wasmText, memoryText, at, layers, rest, bytes }) => {
        const decode = (text: string) => Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
        const own = new WebAssembly.Memory({ initial: 256, maximum: 65_536, shared: true });
        new Uint8Array(own.buffer).set(decode(memoryText));
        const { instance } = await WebAssembly.instantiate(decode(wasmText), { env: { memory: own } });
        const render = instance.exports.renderRows as (...values: number[]) => void;
        render(at.table, layers, ...rest);
        const digest = await crypto.subtle.digest(
          'SHA-256',
          new Uint8Array(own.buffer, at.out, bytes).slice(),
        );
        return Array.from(new Uint8Array(digest), (v) => v.toString(16).padStart(2, '0')).join('');
      },
      {
        wasmText: bytesOfKernel.toString('base64'),
        memoryText: Buffer.from(memory).toString('base64'),
        at: AT,
        layers: table.count,
        rest: [...ARGUMENTS],
        bytes: inNode.length,
      },
    );
  const digest = createHash('sha256').update(inNode).digest('hex');
  expect(await digestInPage(wasm)).toBe(digest);
  expect(await digestInPage(wasmOf('kernel-quick.wasm'))).toBe(digest);
});

test('brightness and saturation are those of the browser’s own filters', async ({ page, app }) => {
  await page.goto(app.url);
  const colours = Array.from(
    { length: 200 },
    (_, i) => [(i * 37) % 256, (i * 101) % 256, (i * 59) % 256] as const,
  );
  for (const [saturation, brightness] of [
    [1.7, 1],
    [0.3, 1],
    [1, 0.6],
    [0, 1.2],
  ] as const) {
    const filtered = await page.evaluate(
      ({ colours, filter }) => {
        const draw = (width: number) => {
          const canvas = document.createElement('canvas');
          [canvas.width, canvas.height] = [width, 1];
          const context = canvas.getContext('2d');
          if (!context) throw new Error('no 2D canvas');
          return { canvas, context };
        };
        const plain = draw(colours.length);
        for (const [x, [r, g, b]] of colours.entries()) {
          plain.context.fillStyle = `rgb(${r} ${g} ${b})`;
          plain.context.fillRect(x, 0, 1, 1);
        }
        const { context } = draw(colours.length);
        context.filter = filter;
        context.drawImage(plain.canvas, 0, 0);
        return [...context.getImageData(0, 0, colours.length, 1).data];
      },
      { colours, filter: `saturate(${saturation}) brightness(${brightness})` },
    );
    const look = {
      matrix: gradeMatrix({ brightness, saturation, tint: [1, 1, 1], tintStrength: 0 }),
      curve: null,
      vignette: null,
    };
    const worst = colours.map(([r, g, b], i) => {
      const ours = Float64Array.from([r, g, b, 255]);
      applyLook(look, ours, 0);
      return Math.max(...[0, 1, 2].map((c) => Math.abs(ours[c]! - filtered[i * 4 + c]!)));
    });
    // The browser rounds between its two filters.
    expect(Math.max(...worst)).toBeLessThanOrEqual(1.5);
  }
});

/** Two levels, and half a one for what a canvas loses as it is read back. */
const CLOSE = 2.5;

test('every mode by which a plane is laid over is the browser’s own of that name', async ({ page, app }) => {
  await page.goto(app.url);
  const random = seededRandom(5);
  // The first half opaque on opaque, the second of any alphas.
  const pixels = Array.from({ length: 400 }, (_, i) =>
    Array.from({ length: 8 }, (_v, c) => (i < 200 && c % 4 === 3 ? 255 : Math.floor(random() * 256))),
  );
  const drawn = await page.evaluate(
    ({ pixels, modes }) => {
      const canvasOf = (from: number) => {
        const canvas = document.createElement('canvas');
        [canvas.width, canvas.height] = [pixels.length, 1];
        const context = canvas.getContext('2d', { willReadFrequently: true });
        if (!context) throw new Error('no 2D canvas');
        const data = new Uint8ClampedArray(pixels.flatMap((pixel) => pixel.slice(from, from + 4)));
        context.putImageData(new ImageData(data, pixels.length, 1), 0, 0);
        return { canvas, context };
      };
      const source = canvasOf(4);
      const read = ({ context }: ReturnType<typeof canvasOf>) => [
        ...context.getImageData(0, 0, pixels.length, 1).data,
      ];
      return {
        source: read(source),
        backdrop: read(canvasOf(0)),
        results: modes.map((mode) => {
          const there = canvasOf(0);
          there.context.globalCompositeOperation = mode;
          there.context.drawImage(source.canvas, 0, 0);
          return read(there);
        }),
      };
    },
    {
      pixels,
      modes: BLEND_MODES.map(
        (mode): GlobalCompositeOperation =>
          mode === 'paint' ? 'source-over' : mode === 'plus-lighter' ? 'lighter' : mode,
      ),
    },
  );
  const premultiplied = (data: readonly number[], at: number) => {
    const alpha = data[at + 3]!;
    return [data[at]!, data[at + 1]!, data[at + 2]!, 255].map((v) => (v * alpha) / 255);
  };
  let compared = 0;
  // Compared by itself: an assertion a channel would be a step of the report each.
  const apart: string[] = [];
  for (const [m, mode] of BLEND_MODES.entries())
    for (let at = 0; at < drawn.source.length; at += 4) {
      // Canvases keep premultiplied bytes: what these two divide by may be half a level off, and the quotient anything.
      if (at >= 800 && (mode === 'color-dodge' || mode === 'color-burn')) continue;
      const out = Float64Array.from(premultiplied(drawn.backdrop, at));
      blendOver(mode, out, 0, premultiplied(drawn.source, at), 1, 255);
      const theirs = premultiplied(drawn.results[m]!, at);
      for (let c = 0; c < 4; c++) {
        if (!(Math.abs(out[c]! - theirs[c]!) <= CLOSE)) apart.push(`${mode} at ${at / 4}, channel ${c}`);
        compared += 1;
      }
    }
  expect(apart).toEqual([]);
  expect(compared).toBe((BLEND_MODES.length * 400 - 2 * 200) * 4);
});
