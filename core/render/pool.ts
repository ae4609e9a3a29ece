import { type Raster, raster } from '../image/index.ts';
import { Arena, type GrowableMemory } from './arena.ts';
import { jobBytes, type RowsJob } from './kernel.ts';
import { encodeLayers, type ImageAddress, levelOfImage, packBackground } from './layer-table.ts';
import type { RenderLayer, RenderView } from './layers.ts';
import { imageLayout } from './stored-image.ts';
import { type ChunkTarget, StreamedImage, type StreamSource } from './streamed-image.ts';

export type ToRenderWorker =
  | {
      readonly kind: 'store';
      readonly id: number;
      readonly address: number;
      readonly widthPx: number;
      readonly heightPx: number;
      readonly pixels: Uint8Array;
    }
  | { readonly kind: 'chunks'; readonly id: number; readonly target: ChunkTarget }
  | { readonly kind: 'rows'; readonly id: number; readonly job: RowsJob };

export type FromRenderWorker =
  | { readonly kind: 'done'; readonly id: number }
  | { readonly kind: 'failed'; readonly id: number; readonly message: string };

/** A worker of either platform, already holding the kernel over the pool's memory. */
export interface RenderPort {
  post(message: ToRenderWorker, transfer: ArrayBufferLike[]): void;
  listen(onMessage: (message: FromRenderWorker) => void, onLost: (reason: string) => void): void;
  close(): void;
}

/** Past this, levels that are out of view are given up. */
const STREAM_BYTES = 1.2 * 2 ** 30;
const IDLE_RENDERS = 3;

export class RenderPoolClosed extends Error {
  override readonly name = 'RenderPoolClosed';
}

interface Waiting {
  readonly resolve: () => void;
  readonly reject: (error: Error) => void;
}

/**
 * Shares images and work between render workers over one shared memory. One thread owns the pool and allocates;
 * the workers only read and write where they are told.
 */
export class RenderPool {
  private readonly arena: Arena;
  private readonly ports: readonly RenderPort[];
  private readonly images = new Map<string, ImageAddress>();
  private readonly loading = new Map<string, Promise<void>>();
  private readonly waiting = new Map<number, Waiting>();
  private readonly busy: number[];
  private readonly streams = new Map<string, StreamedImage>();
  /** Counts renders, for telling which levels were used last. */
  private tick = 0;
  private nextId = 1;
  private closed = false;

  constructor(memory: GrowableMemory, ports: readonly RenderPort[]) {
    this.arena = new Arena(memory);
    this.ports = ports;
    this.busy = ports.map(() => 0);
    for (const port of ports) {
      port.listen(
        (message) => this.settle(message),
        (reason) => this.fail(new Error(reason)),
      );
    }
  }

  get size(): number {
    return this.ports.length;
  }

  get usedBytes(): number {
    return this.arena.usedBytes;
  }

  has(artId: string): boolean {
    return this.images.has(artId) || this.streams.has(artId);
  }

  /** Alpha (0 to 255) of an art pixel of a loaded image; 0 outside it and while it is not there. */
  alphaAt(artId: string, x: number, y: number): number {
    const streamed = this.streams.get(artId);
    if (streamed) return streamed.alphaAt(x, y);
    const image = this.images.get(artId);
    const finest = image?.layout.levels[0];
    if (!image || !finest || x < 0 || y < 0 || x >= finest.widthPx || y >= finest.heightPx) return 0;
    const at =
      image.address + finest.pixelsAt + (Math.floor(y) + 1) * finest.strideBytes + (Math.floor(x) + 1) * 4;
    return new Uint8Array(this.arena.memory.buffer, at + 3, 1)[0] ?? 0;
  }

  /** Loads an image once; `pixels` are read only when it is not there yet. */
  addImage(artId: string, pixels: () => Promise<Raster<'straight'>>): Promise<void> {
    if (this.images.has(artId)) return Promise.resolve();
    const under = this.loading.get(artId);
    if (under) return under;
    const load = this.store(artId, pixels).finally(() => this.loading.delete(artId));
    this.loading.set(artId, load);
    return load;
  }

  /** Opens an image whose levels are loaded as they come into view; `render` draws what there is of it. */
  openStream(artId: string, source: StreamSource): Promise<void> {
    if (this.has(artId)) return Promise.resolve();
    const under = this.loading.get(artId);
    if (under) return under;
    const unpack = (target: ChunkTarget) =>
      this.ask((id) => ({ kind: 'chunks', id, target }), [target.bytes.buffer as ArrayBuffer]);
    const stream = new StreamedImage(artId, source, this.arena, unpack);
    const open = stream
      .open()
      .then(() => {
        this.streams.set(artId, stream);
      })
      .finally(() => this.loading.delete(artId));
    this.loading.set(artId, open);
    return open;
  }

  /**
   * The layers on the levels that are there, and whether those are the ones that the view wants. What is missing is
   * fetched; `onArrival` is called when some of it has come, `onFault` when it could not.
   */
  prepare(
    layers: readonly RenderLayer[],
    view: RenderView,
    { onArrival, onFault }: { onArrival: () => void; onFault: (error: unknown) => void },
  ): { layers: RenderLayer[]; complete: boolean } {
    this.tick += 1;
    let complete = true;
    const ready = layers.flatMap((layer): RenderLayer[] => {
      const stream = layer.kind === 'image' ? this.streams.get(layer.artId) : undefined;
      if (layer.kind === 'path' || !stream) return [layer];
      const resolved = stream.resolve(layer, view, this.tick);
      if (resolved.missing) {
        complete = false;
        this.makeRoom();
        stream
          .load(resolved.missing.level, resolved.missing.rect)
          .then((came) => came && onArrival(), onFault);
      }
      return resolved.layer ? [resolved.layer] : [];
    });
    return { layers: ready, complete };
  }

  /** Gives up the levels that were not used for longest while the memory is fuller than it should be. */
  private makeRoom(): void {
    if (this.arena.usedBytes < STREAM_BYTES) return;
    const idle = [...this.streams.values()].flatMap((stream) => stream.idleLevels(this.tick - IDLE_RENDERS));
    for (const { release } of idle.sort((p, q) => p.usedAt - q.usedAt)) {
      if (this.arena.usedBytes < STREAM_BYTES) return;
      release();
    }
  }

  private async store(artId: string, read: () => Promise<Raster<'straight'>>): Promise<void> {
    const image = await read();
    if (this.closed) throw new RenderPoolClosed('The pool was closed while an image was loading');
    const layout = imageLayout(image.widthPx, image.heightPx);
    const address = this.arena.allocate(layout.bytes);
    const pixels = new Uint8Array(image.data.buffer, image.data.byteOffset, image.data.byteLength);
    const wholeBuffer =
      pixels.byteLength === pixels.buffer.byteLength && pixels.buffer instanceof ArrayBuffer;
    const { widthPx, heightPx } = image;
    await this.ask(
      (id) => ({ kind: 'store', id, address, widthPx, heightPx, pixels }),
      wholeBuffer ? [pixels.buffer] : [],
    );
    this.images.set(artId, { address, layout });
  }

  /** Frees every image that is not named. Call only while nothing is being rendered. */
  keepOnly(artIds: ReadonlySet<string>): void {
    for (const [artId, { address }] of this.images) {
      if (artIds.has(artId)) continue;
      this.arena.release(address);
      this.images.delete(artId);
    }
  }

  /**
   * Premultiplied pixels of one image, its rows shared by `split` workers: all of them for the live picture, one for
   * hand-off, where whole frames run side by side. Layers whose image has not been added are left out.
   */
  async render(
    layers: readonly RenderLayer[],
    view: RenderView,
    split: number,
  ): Promise<Raster<'premultiplied'>> {
    const { widthPx, heightPx } = view;
    const table = encodeLayers(layers, (artId, level) => {
      const image = this.images.get(artId);
      return image ? levelOfImage(image, level) : this.streams.get(artId)?.levelAt(level);
    });
    const outAt = this.arena.allocate(widthPx * heightPx * 4);
    const bands = rowBands(heightPx, Math.min(split, this.ports.length));
    try {
      await Promise.all(
        bands.map(({ startRow, endRow }) =>
          this.rows({ table, outAt, widthPx, startRow, endRow, background: packBackground(view.background) }),
        ),
      );
      const shared = new Uint8Array(this.arena.memory.buffer, outAt, widthPx * heightPx * 4);
      return raster(widthPx, heightPx, 'premultiplied', new Uint8Array(shared));
    } finally {
      if (!this.closed) this.arena.release(outAt);
    }
  }

  private async rows(part: Omit<RowsJob, 'tableAt' | 'scratchAt'>): Promise<void> {
    const bytes = jobBytes(part.widthPx, part.table);
    const tableAt = this.arena.allocate(bytes.table);
    const scratchAt = this.arena.allocate(bytes.scratch);
    try {
      await this.ask((id) => ({ kind: 'rows', id, job: { ...part, tableAt, scratchAt } }), []);
    } finally {
      if (!this.closed) {
        this.arena.release(tableAt);
        this.arena.release(scratchAt);
      }
    }
  }

  private ask(message: (id: number) => ToRenderWorker, transfer: ArrayBufferLike[]): Promise<void> {
    if (this.closed) return Promise.reject(new RenderPoolClosed('The render pool is closed'));
    const id = this.nextId++;
    const least = this.busy.indexOf(Math.min(...this.busy));
    this.busy[least] = (this.busy[least] ?? 0) + 1;
    return new Promise<void>((resolve, reject) => {
      this.waiting.set(id, { resolve, reject });
      this.ports[least]?.post(message(id), transfer);
    }).finally(() => {
      this.busy[least] = (this.busy[least] ?? 1) - 1;
    });
  }

  private settle(message: FromRenderWorker): void {
    const waiting = this.waiting.get(message.id);
    this.waiting.delete(message.id);
    if (message.kind === 'done') waiting?.resolve();
    else waiting?.reject(new Error(message.message));
  }

  private fail(error: Error): void {
    for (const { reject } of this.waiting.values()) reject(error);
    this.waiting.clear();
  }

  close(): void {
    this.closed = true;
    this.fail(new RenderPoolClosed('The render pool was closed'));
    for (const port of this.ports) port.close();
  }
}

/** Rows [0, height) in `count` even bands, on multiples of the culling tile where there is room. */
function rowBands(heightPx: number, count: number): { startRow: number; endRow: number }[] {
  const tile = 32;
  const each = Math.max(tile, Math.ceil(heightPx / count / tile) * tile);
  const bands: { startRow: number; endRow: number }[] = [];
  for (let startRow = 0; startRow < heightPx; startRow += each) {
    bands.push({ startRow, endRow: Math.min(heightPx, startRow + each) });
  }
  return bands;
}
