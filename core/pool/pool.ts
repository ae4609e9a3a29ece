import { type Raster, raster } from '../image/index.ts';
import {
  bytesPerPixel,
  groupBytes,
  type ImageAddress,
  levelOfImage,
  type PixelFormat,
  type Rendered,
  renderedAt,
} from '../kernel/index.ts';
import {
  Arena,
  alphaIn,
  type ChunkTarget,
  type GrowableMemory,
  type ImageRead,
  imageLayout,
  type Lease,
  Leases,
  type MissingChunks,
  OutOfArena,
  type StopSignal,
  StreamedImage,
  type StreamSource,
  texelBytesFor,
} from '../kernel/memory/index.ts';
import { groupsIn, type RenderLayer, type RenderView } from '../picture/index.ts';
import { Crew, RenderPoolClosed, type RenderPort, RenderWorkerLost } from './crew.ts';
import { type LevelOf, OnePicture } from './one-picture.ts';
import { WorkRoom } from './work-room.ts';

/** Past this, levels that are out of view are given up. */
const STREAM_BYTES = 1.2 * 2 ** 30;
/** Past this, a picture with groups waits until others are drawn. */
const MOST_WORK_BYTES = 2 ** 30;
/** Past this, a lease waits until others are released. */
const LEASE_BYTES = 1.5 * 2 ** 30;
/** Several pictures may render from one pool by turns. */
const IDLE_RENDERS = 16;

export interface RenderOptions {
  readonly signal?: StopSignal | undefined;
  /** Where the pixels go: as many bytes as they take. */
  readonly into?: Uint8Array<ArrayBuffer> | undefined;
}

/**
 * Shares images and work between render workers over one shared memory. One thread owns the pool and allocates;
 * the workers only read and write where they are told.
 */
export class RenderPool {
  private readonly arena: Arena;
  private readonly crew: Crew;
  private readonly images = new Map<string, ImageAddress>();
  private readonly loading = new Map<string, Promise<void>>();
  private readonly streams = new Map<string, StreamedImage>();
  private readonly leases: Leases;
  private readonly awaiting = new Set<() => void>();
  private readonly workRoom: WorkRoom;
  /** Counts renders, for telling which levels were used last. */
  private tick = 0;
  /** Pictures in a row, and the last of them, that lacked something that did not fit. */
  private cramped = 0;
  private crampedAt = 0;

  /**
   * `open` starts a worker: `size` of them now, and another for each that is lost. `leaseBytes`: see `lease`. While the
   * groups of pictures under way take more than `mostWorkBytes`, others with groups wait.
   */
  constructor(
    memory: GrowableMemory,
    open: () => RenderPort,
    size: number,
    {
      leaseBytes = LEASE_BYTES,
      mostWorkBytes = MOST_WORK_BYTES,
    }: { readonly leaseBytes?: number; readonly mostWorkBytes?: number } = {},
  ) {
    this.workRoom = new WorkRoom(mostWorkBytes);
    this.arena = new Arena(memory);
    this.crew = new Crew(memory, open, size);
    this.leases = new Leases(this.arena, this.streams, leaseBytes);
  }

  get size(): number {
    return this.crew.size;
  }

  get usedBytes(): number {
    return this.arena.usedBytes;
  }

  /** Bytes that the memory has grown to: it never shrinks. */
  get heldBytes(): number {
    return this.arena.memory.buffer.byteLength;
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
    const placed = { ...finest, pixelsAt: image.address + finest.pixelsAt };
    return alphaIn(this.arena.memory, placed, Math.floor(x), Math.floor(y));
  }

  /** Loads an image once; `pixels` are read only when it is not there yet. */
  addImage(artId: string, pixels: () => Promise<Raster<'straight'>>): Promise<void> {
    if (this.images.has(artId)) return Promise.resolve();
    const under = this.loading.get(artId);
    if (under) return under;
    const load = this.store(artId, pixels)
      .catch((error: unknown) => {
        if (error instanceof RenderWorkerLost) return this.store(artId, pixels);
        throw error;
      })
      .finally(() => this.loading.delete(artId));
    this.loading.set(artId, load);
    return load;
  }

  /** Opens an image whose levels are loaded as they come into view; `render` draws what there is of it. */
  openStream(artId: string, source: StreamSource): Promise<void> {
    if (this.has(artId)) return Promise.resolve();
    const under = this.loading.get(artId);
    if (under) return under;
    const unpack = (target: ChunkTarget) =>
      this.crew.ask((id) => ({ kind: 'chunks', id, target }), [target.bytes.buffer as ArrayBuffer]);
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
   * Loads all that the view reads of the layers, opening images by `source` as they are wanted, and keeps it until the
   * lease is released: for pictures that must be whole. While other leases hold more than `leaseBytes`, it waits for them;
   * a single picture may take more. Rejects with the source's error, OutOfArena, or the signal's reason.
   */
  lease(
    layers: readonly RenderLayer[],
    view: Pick<RenderView, 'widthPx' | 'heightPx'>,
    source: (artId: string) => StreamSource,
    signal?: StopSignal,
  ): Promise<Lease> {
    this.tick += 1;
    const wants = this.leases.take(
      imagesRead(layers, view),
      async (artId) => {
        await this.openStream(artId, source(artId));
        return this.streams.get(artId);
      },
      this.tick,
      signal,
    );
    return wants.then((release) => {
      const { layers: ready, complete } = this.ready(layers, view, () => {});
      if (!complete) {
        release();
        throw new Error('A lease was given without all that it is for');
      }
      return { layers: ready, release };
    });
  }

  /**
   * The layers on the levels that are there, and whether those are the ones that the view wants, of images that have all
   * been opened. Levels that are missing are fetched; `onArrival` (once, however often it was given) is called when some
   * has come, `onFault` when it could not.
   */
  prepare(
    layers: readonly RenderLayer[],
    view: RenderView,
    { onArrival, onFault }: { onArrival: () => void; onFault: (error: unknown) => void },
  ): { layers: RenderLayer[]; complete: boolean } {
    this.tick += 1;
    const fetch = (stream: StreamedImage, { level, rect }: MissingChunks) => {
      this.makeRoom(STREAM_BYTES);
      stream.load(level, rect).then(
        (came) => {
          if (!came) return;
          this.cramped = 0;
          this.tellArrival();
        },
        (error: unknown) => {
          if (error instanceof OutOfArena && this.looksAgain()) this.tellArrival();
          else onFault(error);
        },
      );
    };
    const { layers: ready, complete } = this.ready(layers, view, fetch);
    // Whoever asked for it first: what comes is told to everyone who waits for something.
    if (!complete) this.awaiting.add(onArrival);
    return { layers: ready, complete };
  }

  private ready(
    layers: readonly RenderLayer[],
    view: Pick<RenderView, 'widthPx' | 'heightPx'>,
    fetch: (stream: StreamedImage, missing: MissingChunks) => void,
  ): { layers: RenderLayer[]; complete: boolean } {
    let complete = true;
    const ready = layers.flatMap((layer): RenderLayer[] => {
      if (layer.kind === 'group') {
        const inner = this.ready(layer.inner, layer, fetch);
        complete &&= inner.complete;
        return [{ ...layer, inner: inner.layers }];
      }
      const stream = layer.kind === 'image' ? this.streams.get(layer.artId) : undefined;
      if (layer.kind === 'path') return [layer];
      if (!stream) {
        complete &&= this.has(layer.artId);
        return [layer];
      }
      const resolved = stream.resolve({ ...layer, blend: null }, view, this.tick);
      // The coarser level is looked for by itself; while it has not come the finer one stands alone.
      const { blend } = layer;
      const coarser = blend && stream.resolve({ ...layer, ...blend, blend: null }, view, this.tick);
      for (const { missing } of [resolved, ...(coarser ? [coarser] : [])]) {
        if (!missing) continue;
        complete = false;
        fetch(stream, missing);
      }
      if (!resolved.layer) return [];
      const blends = !resolved.missing && coarser?.layer && !coarser.missing;
      return [blends ? { ...resolved.layer, blend } : resolved.layer];
    });
    return { layers: ready, complete };
  }

  private tellArrival(): void {
    const told = [...this.awaiting];
    this.awaiting.clear();
    for (const onArrival of told) onArrival();
  }

  /**
   * Whether what does not fit may fit after some more pictures: the levels that the last ones were drawn from go once
   * newer ones do without them.
   */
  private looksAgain(): boolean {
    this.makeRoom(0);
    if (this.crampedAt !== this.tick) this.cramped += 1;
    this.crampedAt = this.tick;
    return this.cramped <= 2 * IDLE_RENDERS;
  }

  /** Gives up the levels that were not used for longest while the memory is fuller than `bytes`. */
  private makeRoom(bytes: number): void {
    if (this.arena.usedBytes < bytes) return;
    const idle = [...this.streams.values()].flatMap((stream) => stream.idleLevels(this.tick - IDLE_RENDERS));
    for (const { release } of idle.sort((p, q) => p.usedAt - q.usedAt)) {
      if (this.arena.usedBytes < bytes) return;
      release();
    }
  }

  private async store(artId: string, read: () => Promise<Raster<'straight'>>): Promise<void> {
    const image = await read();
    if (this.crew.closed) throw new RenderPoolClosed('The pool was closed while an image was loading');
    const layout = imageLayout(image.widthPx, image.heightPx, texelBytesFor(image));
    const address = this.arena.allocate(layout.bytes);
    const stored = this.sendPixels(image, address).catch((error: unknown) => {
      if (!this.crew.closed) this.arena.release(address);
      throw error;
    });
    await stored;
    this.images.set(artId, { address, layout });
  }

  private async sendPixels(image: Raster<'straight'>, address: number): Promise<void> {
    const pixels = new Uint8Array(image.data.buffer, image.data.byteOffset, image.data.byteLength);
    const wholeBuffer =
      pixels.byteLength === pixels.buffer.byteLength && pixels.buffer instanceof ArrayBuffer;
    const { widthPx, heightPx } = image;
    await this.crew.ask(
      (id) => ({ kind: 'store', id, address, widthPx, heightPx, pixels }),
      wholeBuffer ? [pixels.buffer] : [],
    );
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
   * Premultiplied pixels of one image, its bands of rows shared by `split` workers as they come free: all of them for the
   * live picture, one for hand-off, where whole frames run side by side. Layers whose image has not been added are left
   * out. Rejects with the signal's reason soon after it aborts: workers look at it between bands of rows. Pixels are copied
   * to `into` where it is given: for pictures that follow one another, since large new buffers cost as much as drawing them.
   */
  async render(
    layers: readonly RenderLayer[],
    view: RenderView,
    split: number,
    options: RenderOptions = {},
  ): Promise<Raster<'premultiplied'>> {
    const { widthPx, heightPx, data } = await this.renderAs(layers, view, 'premultiplied8', split, options);
    return raster(widthPx, heightPx, 'premultiplied', data);
  }

  /** As `render`, in any format. */
  async renderAs<F extends PixelFormat>(
    layers: readonly RenderLayer[],
    view: RenderView,
    format: F,
    split: number,
    { signal, into }: RenderOptions = {},
  ): Promise<Rendered<F>> {
    signal?.throwIfAborted();
    const work = workBytes(layers, this.crew.size);
    const done = work > 0 ? await this.workRoom.take(work, signal) : () => {};
    try {
      const picture = new OnePicture(this.crew, this.arena, this.levelOf, signal);
      try {
        signal?.throwIfAborted();
        if (layers.some((layer) => layer.kind === 'group')) await picture.drawGroups(layers, view);
        const outAt = picture.take(view.widthPx * view.heightPx * bytesPerPixel(format));
        await picture.draw(layers, view, { outAt, format, split });
        signal?.throwIfAborted();
        return renderedAt(this.arena.memory.buffer, outAt, view, format, into);
      } finally {
        picture.end();
      }
    } finally {
      done();
    }
  }

  private readonly levelOf: LevelOf = (artId, level) => {
    const image = this.images.get(artId);
    return image ? levelOfImage(image, level) : this.streams.get(artId)?.levelAt(level);
  };

  /** Ends all workers; what is under way rejects with RenderPoolClosed. Resolves once none of them writes any more. */
  close(): Promise<void> {
    return this.crew.close();
  }
}

/** The images that a view reads, each on the level that it is drawn from and on the one that is mixed in. */
function imagesRead(
  layers: readonly RenderLayer[],
  view: Pick<RenderView, 'widthPx' | 'heightPx'>,
): ImageRead[] {
  return layers.flatMap((layer): ImageRead[] => {
    if (layer.kind === 'group') return imagesRead(layer.inner, layer);
    if (layer.kind === 'path') return [];
    const { blend } = layer;
    const own = { layer: { ...layer, blend: null }, view };
    return blend ? [own, { layer: { ...layer, ...blend, blend: null }, view }] : [own];
  });
}

/** What the groups of a picture take while it is drawn: every result, and the room for the passes of as many as are drawn side by side. */
function workBytes(layers: readonly RenderLayer[], workers: number): number {
  const sizes = groupsIn(layers).map(groupBytes);
  const passes = sizes.map(({ drawn, pass }) => drawn + pass);
  return (
    sizes.reduce((sum, { result }) => sum + result, 0) +
    Math.min(workers, sizes.length) * Math.max(0, ...passes)
  );
}
