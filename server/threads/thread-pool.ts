import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import { KERNEL_MEMORY } from '@keen-ridge/core/kernel';
import { type FromRenderWorker, RenderPool, type RenderPort } from '@keen-ridge/core/pool';
import { readKernel } from './kernel-file.ts';

/** A render pool on worker threads, one for each core. */
export async function threadPool(threads = availableParallelism()): Promise<RenderPool> {
  const memory = new WebAssembly.Memory(KERNEL_MEMORY);
  const wasm = await readKernel();
  return new RenderPool(memory, () => threadPort(memory, wasm), threads);
}

function threadPort(memory: WebAssembly.Memory, wasm: Uint8Array): RenderPort {
  const worker = new Worker(fileURLToPath(new URL('./render-worker-entry.mjs', import.meta.url)), {
    workerData: { memory, wasm },
    execArgv: [],
  });
  worker.unref();
  return {
    post: (message, transfer) => worker.postMessage(message, transfer as ArrayBuffer[]),
    listen: (onMessage, onLost) => {
      worker.on('message', (message: FromRenderWorker) => onMessage(message));
      worker.on('error', (error) => onLost(`A render thread stopped: ${error.message}`));
      worker.on('exit', (code) => onLost(`A render thread ended with code ${code}`));
    },
    close: () => worker.terminate(),
  };
}
