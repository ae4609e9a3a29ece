import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { setFlagsFromString } from 'node:v8';
import {
  KERNEL_MEMORY,
  type KernelExports,
  mayRunQuickKernel,
  SingleThreadRenderer,
} from '@keen-ridge/core/kernel';

const fileOf = (url: string): Promise<Uint8Array<ArrayBuffer>> =>
  readFile(fileURLToPath(url)).then((bytes) => new Uint8Array(bytes));

const readPlainKernel = () => fileOf(import.meta.resolve('@keen-ridge/core/kernel/kernel.wasm'));

/** Node.js 20 has the quicker instructions in their final form, but only where it is told to. */
async function mayRunQuick(): Promise<boolean> {
  if (await mayRunQuickKernel()) return true;
  if (Number.parseInt(process.versions.node, 10) !== 20) return false;
  setFlagsFromString('--experimental-wasm-relaxed-simd');
  return mayRunQuickKernel();
}

let kernel: Promise<Uint8Array<ArrayBuffer>> | undefined;
/** The kernel that this Node.js runs fastest. */
export const readKernel = (): Promise<Uint8Array<ArrayBuffer>> => {
  kernel ??= mayRunQuick().then((quick) =>
    quick ? fileOf(import.meta.resolve('@keen-ridge/core/kernel/kernel-quick.wasm')) : readPlainKernel(),
  );
  return kernel;
};

let name: Promise<string> | undefined;
/** Names the kernel by the bytes of its plain build, whichever runs: frames of another one are not the same frames. */
export const kernelName = (): Promise<string> => {
  name ??= readPlainKernel().then((bytes) => createHash('sha256').update(bytes).digest('hex'));
  return name;
};

/** A renderer on this thread, for measurements and small jobs. */
export async function singleThreadRenderer(): Promise<SingleThreadRenderer> {
  const memory = new WebAssembly.Memory(KERNEL_MEMORY);
  const instance = new WebAssembly.Instance(new WebAssembly.Module(await readKernel()), { env: { memory } });
  return new SingleThreadRenderer(instance.exports as unknown as KernelExports, memory);
}
