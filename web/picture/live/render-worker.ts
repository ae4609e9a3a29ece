import type { KernelExports } from '@keen-ridge/core/kernel';
import { answerRenderMessage, type ToRenderWorker } from '@keen-ridge/core/pool';
import { inflate } from './inflate.ts';

interface Start {
  readonly memory: WebAssembly.Memory;
  readonly module: WebAssembly.Module;
}

let held: { kernel: KernelExports; memory: WebAssembly.Memory } | null = null;

self.onmessage = ({ data }: MessageEvent<Start | ToRenderWorker>) => {
  if ('module' in data) {
    const instance = new WebAssembly.Instance(data.module, { env: { memory: data.memory } });
    held = { kernel: instance.exports as unknown as KernelExports, memory: data.memory };
  } else if (held) {
    void answerRenderMessage(held.kernel, held.memory, data, inflate).then((said) => self.postMessage(said));
  }
};
