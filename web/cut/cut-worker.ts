import { cutImage, fillBare, outlineChange, selectionMask } from '@keen-ridge/core/cut';
import { type Raster, raster } from '@keen-ridge/core/image';
import { reasonOf } from '@keen-ridge/core/units';
import type { FromCutWorker, ToCutWorker } from './cut-messages.ts';

let image: Raster<'straight'> | null = null;
const say = (message: FromCutWorker, transfer: Transferable[] = []) =>
  self.postMessage(message, { transfer });

self.onmessage = ({ data: message }: MessageEvent<ToCutWorker>) => {
  try {
    answer(message);
  } catch (error) {
    say({ kind: 'failed', id: message.id, reason: reasonOf(error) });
  }
};

function answer(message: ToCutWorker): void {
  if (message.kind === 'open') {
    image = raster(message.widthPx, message.heightPx, 'straight', message.pixels);
    return;
  }
  if (!image) throw new Error('No image is open');
  if (message.kind === 'mask') {
    const { data } = selectionMask(image, message.steps, message.featherPx);
    say({ kind: 'mask', id: message.id, mask: data }, [data.buffer as ArrayBuffer]);
    return;
  }
  if (message.kind === 'compare') {
    const { before, recipe, map } = message;
    say({ kind: 'compared', id: message.id, change: outlineChange(before, image, recipe, map) });
    return;
  }
  let saidAt = 0;
  const onProgress = (share: number) => {
    if (performance.now() - saidAt < 50) return;
    saidAt = performance.now();
    say({ kind: 'progress', id: message.id, share });
  };
  if (message.kind === 'fill') {
    say({ kind: 'filled', id: message.id, image: fillBare(image, message.boxes, onProgress) });
    return;
  }
  const pieces = cutImage(image, message.recipe, onProgress, (coarse) =>
    say({ kind: 'coarse', id: message.id, coarse }),
  );
  say({ kind: 'pieces', id: message.id, pieces });
}
