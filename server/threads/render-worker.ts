import { parentPort, workerData } from 'node:worker_threads';
import type { KernelExports } from '@keen-ridge/core/kernel';
import { answerRenderMessage, type ToRenderWorker } from '@keen-ridge/core/pool';

const { memory, wasm } = workerData as { memory: WebAssembly.Memory; wasm: Uint8Array<ArrayBuffer> };
const instance = new WebAssembly.Instance(new WebAssembly.Module(wasm), { env: { memory } });
const kernel = instance.exports as unknown as KernelExports;

parentPort?.on('message', (message: ToRenderWorker) => {
  parentPort?.postMessage(answerRenderMessage(kernel, memory, message));
});
