import { readFile } from 'node:fs/promises';
import { inflateSync } from 'node:zlib';
import { IDENTITY } from '../geometry/index.ts';
import { KERNEL_MEMORY, type KernelExports, SingleThreadRenderer } from '../kernel/index.ts';
import type { GrowableMemory } from '../kernel/memory/index.ts';
import type { ImageLayer } from '../picture/index.ts';
import { answerRenderMessage, type FromRenderWorker, type ToRenderWorker } from '../pool/index.ts';
import type { ArtId } from '../scene/index.ts';

/** A built kernel, the plain one if no other is asked for, over a fresh memory. */
export async function testKernel(
  file: 'kernel.wasm' | 'kernel-quick.wasm' = 'kernel.wasm',
): Promise<{ kernel: KernelExports; memory: WebAssembly.Memory }> {
  const memory = new WebAssembly.Memory(KERNEL_MEMORY);
  const bytes = await readFile(new URL(`../kernel/${file}`, import.meta.url));
  const module = new WebAssembly.Module(new Uint8Array(bytes));
  const instance = new WebAssembly.Instance(module, { env: { memory } });
  return { kernel: instance.exports as unknown as KernelExports, memory };
}

/** A fresh renderer over its own memory. */
export async function testRenderer(): Promise<SingleThreadRenderer> {
  const { kernel, memory } = await testKernel();
  return new SingleThreadRenderer(kernel, memory);
}

/** What a render worker of tests answers: all but chunks is done when it returns. */
export const testAnswer = (
  { kernel, memory }: { readonly kernel: KernelExports; readonly memory: GrowableMemory },
  message: ToRenderWorker,
): Promise<FromRenderWorker> =>
  answerRenderMessage(kernel, memory, message, (packed) => new Uint8Array(inflateSync(packed)));

/** An image that is drawn sharp, px for px from the upper left, but for what is said otherwise. */
export const testLayer = (
  artId: ArtId,
  { widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number },
  but: Partial<ImageLayer> = {},
): ImageLayer => ({
  kind: 'image',
  artId,
  widthPx,
  heightPx,
  level: 0,
  imageToLevel: IDENTITY,
  blend: null,
  look: null,
  opacity: 1,
  smooth: false,
  beyond: null,
  mode: 'paint',
  softEdgePx: 0,
  repeat: 'none',
  ...but,
});
