import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import type { Raster } from '@keen-ridge/core/image';
import { encodeLayers, jobBytes, levelOfImage } from '@keen-ridge/core/kernel';
import { imageLayout, storeImage, texelBytesFor } from '@keen-ridge/core/kernel/memory';
import { renderLayers } from '@keen-ridge/core/picture';
import type { FramePlan } from '@keen-ridge/core/staging/frame';
import { chromium } from '@playwright/test';
import { launchOptions } from '../../scripts/lib/chromium.mjs';
import { drawInPage, type PageJob } from './page-rivals.ts';
import type { BenchScene } from './scenes.ts';

const VIEW = { widthPx: 1920, heightPx: 1080 };
const PAGE = 65_536;
const up = (at: number): number => Math.ceil(at / PAGE) * PAGE;

export interface BrowserTimes {
  readonly kernelMs: number;
  readonly canvasLowMs: number;
  readonly webglMs: number;
}

/** The images as the kernel reads them, a memory's page behind its start, and the tables of the plans over them. */
function packed(plans: readonly FramePlan[], images: ReadonlyMap<string, Raster<'straight'>>) {
  let at = PAGE;
  const placed = new Map<string, { address: number; layout: ReturnType<typeof imageLayout> }>();
  for (const [id, image] of images) {
    const layout = imageLayout(image.widthPx, image.heightPx, texelBytesFor(image));
    placed.set(id, { address: at, layout });
    at = up(at + layout.bytes);
  }
  const bytes = new Uint8Array(at);
  for (const [id, image] of images) {
    const { address, layout } = placed.get(id)!;
    storeImage(
      { ...image, data: image.data.slice() },
      layout,
      bytes.subarray(address, address + layout.bytes),
    );
  }
  const view = {
    ...VIEW,
    frameToImage: { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 },
    background: { r: 0, g: 0, b: 0, a: 255 },
  };
  const tables = plans.map((plan) =>
    encodeLayers(renderLayers(plan, view), {
      levelOf: (id, level) => levelOfImage(placed.get(id)!, level),
      groupOf: () => undefined,
    }),
  );
  return { bytes, tables, end: at };
}

/**
 * Chromium on one page, for each of some frames of a scene: the kernel on all workers, a 2D canvas at low smoothing, and
 * WebGL by a 3D library.
 */
export async function browserTimes(
  kind: BenchScene,
  plans: readonly FramePlan[],
  images: ReadonlyMap<string, Raster<'straight'>>,
  rounds: number,
): Promise<BrowserTimes[]> {
  const { bytes, tables, end } = packed(plans, images);
  const three = fileURLToPath(import.meta.resolve('three'));
  const kernel = fileURLToPath(import.meta.resolve('@keen-ridge/core/kernel/kernel-quick.wasm'));
  const files: Readonly<Record<string, { type: string; read: () => Uint8Array }>> = {
    '/': { type: 'text/html', read: () => Buffer.from(`<!doctype html><title>${kind}</title>`) },
    '/kernel.wasm': { type: 'application/wasm', read: () => readFileSync(kernel) },
    '/three.module.js': { type: 'text/javascript', read: () => readFileSync(three) },
    '/three.core.js': {
      type: 'text/javascript',
      read: () => readFileSync(three.replace(/three\.[a-z]+(\.\w+)?$/, 'three.core.js')),
    },
    '/memory': { type: 'application/octet-stream', read: () => bytes },
    ...Object.fromEntries(
      [...images].map(([id, image]) => [
        `/art/${id}`,
        { type: 'application/octet-stream', read: () => new Uint8Array(image.data) },
      ]),
    ),
  };
  const server = createServer((request, response) => {
    const file = files[request.url ?? ''];
    response.writeHead(file ? 200 : 404, {
      'Content-Type': file?.type ?? 'text/plain',
      'Cross-Origin-Opener-Policy': 'same-origin',
      'Cross-Origin-Embedder-Policy': 'require-corp',
    });
    response.end(file?.read());
  });
  server.listen(0, '127.0.0.1');
  const browser = await chromium.launch(launchOptions);
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    // The loader wraps named functions in a helper of its own, which the page does not have.
    await page.addInitScript('globalThis.__name = (named) => named');
    await page.goto(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
    const job: PageJob = {
      ...VIEW,
      rounds,
      end,
      planes: plans[0]!.planes.map(({ shown, mode }) => {
        if (shown.kind !== 'image') throw new Error('The bench scenes draw every plane');
        const { id, widthPx, heightPx } = shown.art;
        return {
          id,
          widthPx,
          heightPx,
          mode: mode === 'multiply' || mode === 'screen' ? mode : 'source-over',
        };
      }),
      pictures: plans.map(({ planes }, i) => ({
        table: [...tables[i]!.bytes],
        count: tables[i]!.count,
        scratchBytes: jobBytes(VIEW.widthPx, tables[i]!).scratch,
        maps: planes.map(({ artToFrame: m }) => {
          if (!m) throw new Error('The bench scenes draw every plane');
          return [m.a, m.b, m.c, m.d, m.e, m.f];
        }),
      })),
    };
    return await page.evaluate(drawInPage, job);
  } finally {
    await browser.close();
    server.close();
  }
}
