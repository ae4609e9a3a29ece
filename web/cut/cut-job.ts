import type { CoarseFill, CutPieces, OutlineChange } from '@keen-ridge/core/cut';
import type { Box, PxMap } from '@keen-ridge/core/geometry';
import type { Raster } from '@keen-ridge/core/image';
import type { CutRecipe, SelectionStep } from '@keen-ridge/core/scene';
import { whyStopped } from '../api/client.ts';
import type { FromCutWorker, ToCutWorker } from './cut-messages.ts';
import CutWorker from './cut-worker.ts?worker';

/** A newer question, or none at all, was wanted before this one was answered. */
export class CutSuperseded extends Error {
  override readonly name = 'CutSuperseded';
}

/**
 * A worker that holds one image and finds masks and cuts of it; a newer question makes an older one void. Where it stops
 * by itself, what was asked is rejected with why, and the next question begins another.
 */
export class CutJob {
  private worker: Worker;
  private readonly image: Raster<'straight'>;
  private id = 0;
  private onAnswer: (message: FromCutWorker) => void = () => {};
  private reject: (why: Error) => void = () => {};
  private stopped = false;

  constructor(image: Raster<'straight'>) {
    this.image = image;
    this.worker = this.start();
  }

  private start(): Worker {
    const worker = new CutWorker();
    worker.onmessage = ({ data }: MessageEvent<FromCutWorker>) => {
      if (data.id === this.id) this.onAnswer(data);
    };
    worker.onerror = (event) => {
      if (worker !== this.worker) return;
      this.stopped = true;
      this.reject(new Error(whyStopped(event)));
    };
    const { widthPx, heightPx } = this.image;
    const message: ToCutWorker = {
      kind: 'open',
      id: 0,
      widthPx,
      heightPx,
      pixels: Uint8Array.from(this.image.data),
    };
    worker.postMessage(message, [message.pixels.buffer]);
    return worker;
  }

  mask(steps: readonly SelectionStep[], featherPx: number): Promise<Uint8Array> {
    return this.ask({ kind: 'mask', id: ++this.id, steps, featherPx }, (message) =>
      message.kind === 'mask' ? message.mask : undefined,
    );
  }

  /** The pieces, or null when nothing was chosen. */
  cut(
    recipe: CutRecipe,
    onProgress: (share: number) => void,
    onCoarse: (coarse: CoarseFill) => void = () => {},
  ): Promise<CutPieces | null> {
    return this.ask({ kind: 'cut', id: ++this.id, recipe }, (message) => {
      if (message.kind === 'progress') onProgress(message.share);
      if (message.kind === 'coarse') onCoarse(message.coarse);
      return message.kind === 'pieces' ? message.pieces : undefined;
    });
  }

  /** The image with what is bare within boxes painted from round about; null where nothing is. */
  fill(boxes: readonly Box[], onProgress: (share: number) => void): Promise<Raster<'straight'> | null> {
    return this.ask({ kind: 'fill', id: ++this.id, boxes }, (message) => {
      if (message.kind === 'progress') onProgress(message.share);
      return message.kind === 'filled' ? message.image : undefined;
    });
  }

  /** Where along the outline of a recipe this image is painted otherwise than the one before it; null: nowhere. */
  compare(before: Raster<'straight'>, recipe: CutRecipe, map: PxMap): Promise<OutlineChange | null> {
    return this.ask({ kind: 'compare', id: ++this.id, before, recipe, map }, (message) =>
      message.kind === 'compared' ? message.change : undefined,
    );
  }

  private ask<T>(question: ToCutWorker, read: (message: FromCutWorker) => T | undefined): Promise<T> {
    this.supersede();
    if (this.stopped) this.startAnew();
    return new Promise((resolve, reject) => {
      this.reject = reject;
      this.onAnswer = (message) => {
        if (message.kind === 'failed') reject(new Error(message.reason));
        const value = read(message);
        if (value !== undefined) resolve(value);
      };
      this.worker.postMessage(question);
    });
  }

  private supersede(): void {
    this.reject(new CutSuperseded());
  }

  private startAnew(): void {
    this.worker.terminate();
    this.stopped = false;
    this.worker = this.start();
  }

  /** Gives up what is under way; the image stays open. */
  stop(): void {
    this.supersede();
    this.id += 1;
    this.startAnew();
  }

  close(): void {
    this.supersede();
    this.worker.terminate();
  }
}
