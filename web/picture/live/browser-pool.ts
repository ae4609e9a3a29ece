import { KERNEL_MEMORY, type KernelExports, mayRunQuickKernel } from '@keen-ridge/core/kernel';
import kernelUrl from '@keen-ridge/core/kernel/kernel.wasm?url';
import kernelAloneUrl from '@keen-ridge/core/kernel/kernel-alone.wasm?url';
import kernelQuickUrl from '@keen-ridge/core/kernel/kernel-quick.wasm?url';
import {
  answerRenderMessage,
  type FromRenderWorker,
  RenderPool,
  type RenderPort,
} from '@keen-ridge/core/pool';
import { reach, whyStopped } from '../../api/client.ts';
import { inflate } from './inflate.ts';
import RenderWorker from './render-worker.ts?worker';

/** One core stays free for the page itself. */
const workerCount = (): number => Math.max(2, Math.min(12, navigator.hardwareConcurrency - 1));

/** A render pool on web workers over shared memory; on this thread alone where the page is not isolated. */
async function openPool(): Promise<RenderPool> {
  if (!crossOriginIsolated) return poolAlone();
  const memory = new WebAssembly.Memory(KERNEL_MEMORY);
  // They start while the kernel is fetched: a page that draws itself for the first time has few moments to spare for them.
  const started = Array.from({ length: workerCount() }, startWorker);
  try {
    const url = (await mayRunQuickKernel()) ? kernelQuickUrl : kernelUrl;
    const module = await WebAssembly.compileStreaming(reach(url));
    const open = () => workerPort(started.pop() ?? startWorker(), { memory, module });
    return new RenderPool(memory, open, workerCount());
  } catch (error) {
    for (const { worker } of started) worker.terminate();
    throw error;
  }
}

/** Slower, and in the way of the page while it draws, but the same pixels: a proxy may have dropped the headers. */
async function poolAlone(): Promise<RenderPool> {
  const memory = new WebAssembly.Memory({ ...KERNEL_MEMORY, shared: false });
  const { instance } = await WebAssembly.instantiateStreaming(reach(kernelAloneUrl), {
    env: { memory },
  });
  const kernel = instance.exports as unknown as KernelExports;
  const open = (): RenderPort => {
    let tell: (message: FromRenderWorker) => void = () => {};
    return {
      // Put off, so that input gets its turn between two pieces of work.
      post: (message) =>
        void setTimeout(async () => tell(await answerRenderMessage(kernel, memory, message, inflate)), 0),
      listen: (onMessage) => {
        tell = onMessage;
      },
      close: () => undefined,
    };
  };
  return new RenderPool(memory, open, 1);
}

interface StartedWorker {
  readonly worker: Worker;
  /** Why it stopped before anybody listened; null while it has not. */
  stopped: string | null;
}

function startWorker(): StartedWorker {
  const started: StartedWorker = { worker: new RenderWorker(), stopped: null };
  started.worker.onerror = (event) => {
    started.stopped = whyStopped(event);
  };
  return started;
}

function workerPort(
  { worker, stopped }: StartedWorker,
  start: { readonly memory: WebAssembly.Memory; readonly module: WebAssembly.Module },
): RenderPort {
  worker.postMessage(start);
  return {
    post: (message, transfer) => worker.postMessage(message, transfer as ArrayBuffer[]),
    listen: (onMessage, onLost) => {
      worker.onmessage = ({ data }: MessageEvent<FromRenderWorker>) => onMessage(data);
      worker.onerror = (event) => onLost(whyStopped(event));
      if (stopped !== null) queueMicrotask(() => onLost(stopped));
    },
    close: () => {
      worker.terminate();
      return undefined;
    },
  };
}

/** How long the pool waits for the next picture before it goes, ms: leaving one view for another must not load all art again. */
const LINGER_MS = 1500;
/** How long it is kept for a picture that is expected, ms. */
const EXPECTED_MS = 10_000;

/** One pool for every picture of the page, with the art that they share; open while there is one. */
class SharedPool {
  private users = 0;
  private pool: Promise<RenderPool> | null = null;
  private lingering: ReturnType<typeof setTimeout> | undefined;

  take(): Promise<RenderPool> {
    this.users += 1;
    clearTimeout(this.lingering);
    return this.again();
  }

  /** The same once more for whoever has taken it: opened anew where it could not be opened. */
  again(): Promise<RenderPool> {
    this.pool ??= openPool().catch((error: unknown) => {
      this.pool = null;
      throw error;
    });
    return this.pool;
  }

  /** Opens it for a picture that comes soon, so that this need not wait for it. */
  openAhead(): void {
    // A fault is told to whoever takes it: it is opened anew for them.
    void this.take().catch(() => undefined);
    this.giveBack(EXPECTED_MS);
  }

  giveBack(lingerMs = LINGER_MS): void {
    this.users -= 1;
    if (this.users > 0) return;
    this.lingering = setTimeout(() => {
      const { pool } = this;
      this.pool = null;
      pool?.then(
        (open) => open.close(),
        () => undefined,
      );
    }, lingerMs);
  }
}

export const sharedPool = new SharedPool();
