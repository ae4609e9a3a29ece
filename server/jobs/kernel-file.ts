import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { KERNEL_MEMORY, type KernelExports, SingleThreadRenderer } from '@keen-ridge/core/render';

const path = fileURLToPath(import.meta.resolve('@keen-ridge/core/render/kernel.wasm'));

export const readKernel = (): Promise<Uint8Array<ArrayBuffer>> =>
  readFile(path).then((bytes) => new Uint8Array(bytes));

let name: Promise<string> | undefined;
/** Names the kernel by its bytes: frames of another one are not the same frames. */
export const kernelName = (): Promise<string> => {
  name ??= readKernel().then((bytes) => createHash('sha256').update(bytes).digest('hex'));
  return name;
};

/** A renderer on this thread, for measurements and small jobs. */
export async function singleThreadRenderer(): Promise<SingleThreadRenderer> {
  const memory = new WebAssembly.Memory(KERNEL_MEMORY);
  const instance = new WebAssembly.Instance(new WebAssembly.Module(await readKernel()), { env: { memory } });
  return new SingleThreadRenderer(instance.exports as unknown as KernelExports, memory);
}
