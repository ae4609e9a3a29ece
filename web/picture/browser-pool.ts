import { type FromRenderWorker, KERNEL_MEMORY, RenderPool, type RenderPort } from '@keen-ridge/core/render';
import kernelUrl from '@keen-ridge/core/render/kernel.wasm?url';
import RenderWorker from './render-worker.ts?worker';

/** One core stays free for the page itself. */
const workerCount = (): number => Math.max(2, Math.min(12, navigator.hardwareConcurrency - 1));

export class NoSharedMemory extends Error {
  override readonly name = 'NoSharedMemory';
}

/** A render pool on web workers. Needs cross-origin isolation, which the server's headers give. */
export async function browserPool(): Promise<RenderPool> {
  if (!crossOriginIsolated) {
    throw new NoSharedMemory(
      'The picture needs a page opened from the Keen Ridge server itself, at 127.0.0.1 or localhost.',
    );
  }
  const memory = new WebAssembly.Memory(KERNEL_MEMORY);
  const module = await WebAssembly.compileStreaming(fetch(kernelUrl));
  return new RenderPool(
    memory,
    Array.from({ length: workerCount() }, () => workerPort(memory, module)),
  );
}

function workerPort(memory: WebAssembly.Memory, module: WebAssembly.Module): RenderPort {
  const worker = new RenderWorker();
  worker.postMessage({ memory, module });
  return {
    post: (message, transfer) => worker.postMessage(message, transfer as ArrayBuffer[]),
    listen: (onMessage, onLost) => {
      worker.onmessage = ({ data }: MessageEvent<FromRenderWorker>) => onMessage(data);
      worker.onerror = (event) => onLost(`A render worker stopped: ${event.message}`);
    },
    close: () => worker.terminate(),
  };
}
