import { raster } from '../image/index.ts';
import { type KernelExports, runCover, runGroup, runRows } from '../kernel/index.ts';
import {
  type GrowableMemory,
  type Inflate,
  imageLayout,
  storeImage,
  texelBytesFor,
  unpackChunks,
} from '../kernel/memory/index.ts';
import { reasonOf } from '../units/index.ts';
import type { FromRenderWorker, ToRenderWorker } from './crew.ts';

/**
 * What a render worker does with one message, with the platform's own way to inflate. Never rejects: a fault goes back
 * as an answer. All but chunks is done when it returns.
 */
export async function answerRenderMessage(
  kernel: KernelExports,
  memory: GrowableMemory,
  message: ToRenderWorker,
  inflate: Inflate,
): Promise<FromRenderWorker> {
  try {
    if (message.kind === 'rows') runRows(kernel, memory, message.job);
    else if (message.kind === 'group') runGroup(kernel, memory.buffer, message.job);
    else if (message.kind === 'cover') runCover(kernel, memory, message.job);
    else if (message.kind === 'chunks') await unpackChunks(memory, message.target, inflate);
    else {
      const image = raster(message.widthPx, message.heightPx, 'straight', message.pixels);
      const layout = imageLayout(message.widthPx, message.heightPx, texelBytesFor(image));
      storeImage(image, layout, new Uint8Array(memory.buffer, message.address, layout.bytes));
    }
    return { kind: 'done', id: message.id };
  } catch (error) {
    return {
      kind: 'failed',
      id: message.id,
      message: reasonOf(error),
    };
  }
}
