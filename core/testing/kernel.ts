import { readFile } from 'node:fs/promises';
import { KERNEL_MEMORY, type KernelExports, SingleThreadRenderer } from '../render/index.ts';

/** The built kernel.wasm over a fresh memory. */
export async function testKernel(): Promise<{ kernel: KernelExports; memory: WebAssembly.Memory }> {
  const memory = new WebAssembly.Memory(KERNEL_MEMORY);
  const bytes = await readFile(new URL('../render/kernel.wasm', import.meta.url));
  const module = new WebAssembly.Module(new Uint8Array(bytes));
  const instance = new WebAssembly.Instance(module, { env: { memory } });
  return { kernel: instance.exports as unknown as KernelExports, memory };
}

/** A fresh renderer over its own memory. */
export async function testRenderer(): Promise<SingleThreadRenderer> {
  const { kernel, memory } = await testKernel();
  return new SingleThreadRenderer(kernel, memory);
}
