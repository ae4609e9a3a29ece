import { readFile } from 'node:fs/promises';
import { KERNEL_MEMORY, type KernelExports, SingleThreadRenderer } from '../render/index.ts';

/** A fresh renderer over its own memory, from the built kernel.wasm. */
export async function testRenderer(): Promise<SingleThreadRenderer> {
  const memory = new WebAssembly.Memory(KERNEL_MEMORY);
  const bytes = await readFile(new URL('../render/kernel.wasm', import.meta.url));
  const module = new WebAssembly.Module(new Uint8Array(bytes));
  const instance = new WebAssembly.Instance(module, { env: { memory } });
  return new SingleThreadRenderer(instance.exports as unknown as KernelExports, memory);
}
