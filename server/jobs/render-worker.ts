import { parentPort, workerData } from 'node:worker_threads';
import { answerRenderMessage, type KernelExports, type ToRenderWorker } from '@keen-ridge/core/render';

const { memory, wasm } = workerData as { memory: WebAssembly.Memory; wasm: Uint8Array<ArrayBuffer> };
const instance = new WebAssembly.Instance(new WebAssembly.Module(wasm), { env: { memory } });
const kernel = instance.exports as unknown as KernelExports;

parentPort?.on('message', (message: ToRenderWorker) => {
  parentPort?.postMessage(answerRenderMessage(kernel, memory, message));
});
