import { parentPort, workerData } from 'node:worker_threads';
import { inflateSync } from 'node:zlib';
import type { KernelExports } from '@keen-ridge/core/kernel';
import type { Inflate } from '@keen-ridge/core/kernel/memory';
import { answerRenderMessage, type ToRenderWorker } from '@keen-ridge/core/pool';

const { memory, wasm } = workerData as { memory: WebAssembly.Memory; wasm: Uint8Array<ArrayBuffer> };
const instance = new WebAssembly.Instance(new WebAssembly.Module(wasm), { env: { memory } });
const kernel = instance.exports as unknown as KernelExports;

const inflate: Inflate = (packed, bytes) => inflateSync(packed, { chunkSize: Math.max(64, bytes) });

parentPort?.on('message', (message: ToRenderWorker) => {
  void answerRenderMessage(kernel, memory, message, inflate).then((said) => parentPort?.postMessage(said));
});
