import { type Raster, raster } from '../image/index.ts';
import {
  allStrips,
  bytesPerPixel,
  type CoverJob,
  CULL_TILE_PX,
  coverBytes,
  encodeLayers,
  type GroupJob,
  groupBytes,
  groupJob,
  type ImageAddress,
  jobBytes,
  levelOfImage,
  type NeededStrip,
  neededStrips,
  type PixelFormat,
  packBackground,
  type Rendered,
  type RowsJob,
  renderedAt,
  rowsOfGroup,
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
  type StopSignal,
  type StoredLevel,
  StreamedImage,
  type StreamSource,
  texelBytesFor,
} from '../kernel/memory/index.ts';
import { CLEAR, type GroupLayer, groupsIn, type RenderLayer, type RenderView } from '../picture/index.ts';

import { WorkRoom } from './work-room.ts';

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
  | { readonly kind: 'cover'; readonly id: number; readonly job: CoverJob }
  | { readonly kind: 'rows'; readonly id: number; readonly job: RowsJob }
  | { readonly kind: 'group'; readonly id: number; readonly job: GroupJob };

export type FromRenderWorker =
  | { readonly kind: 'done'; readonly id: number }
  | { readonly kind: 'failed'; readonly id: number; readonly message: string };

/** A worker of either platform, already holding the kernel over the pool's memory. */
export interface RenderPort {
  post(message: ToRenderWorker, transfer: ArrayBufferLike[]): void;
  listen(onMessage: (message: FromRenderWorker) => void, onLost: (reason: string) => void): void;
  /** Ends it; where that takes a while, resolves once it writes no more. */
  close(): undefined | Promise<unknown>;
}

/** Past this, levels that are out of view are given up. */
const STREAM_BYTES = 1.2 * 2 ** 30;
/** Past this, a picture with groups waits until others are drawn. */
const MOST_WORK_BYTES = 2 ** 30;
/** Past this, a lease waits until others are released. */
const LEASE_BYTES = 1.5 * 2 ** 30;
/** Several pictures may render from one pool by turns. */
const IDLE_RENDERS = 16;

export class RenderPoolClosed extends Error {
  override readonly name = 'RenderPoolClosed';
}

export interface RenderOptions {
  readonly signal?: StopSignal | undefined;
  /** Where the pixels go: as many bytes as they take. */
  readonly into?: Uint8Array<ArrayBuffer> | undefined;
}

/** A worker that ended by itself took with it what had been handed over to it; asking again may work. */
export class RenderWorkerLost extends Error {
  override readonly name = 'RenderWorkerLost';
}

interface Waiting {
  readonly message: ToRenderWorker;
  readonly worker: number;
  readonly resolve: () => void;
  readonly reject: (error: Error) => void;
  /** Workers that were lost over it. */
  losses: number;
}

/** Workers that may be lost over one piece of work before it is given up: it, not the pool, is what is wrong then. */
const MOST_LOSSES = 3;

/**
 * Shares images and work between render workers over one shared memory. One thread owns the pool and allocates;
 * the workers only read and write where they are told.
 */
export class RenderPool {
  private readonly arena: Arena;
  /** Null where a worker was lost and nobody has asked for its work since. */
  private readonly ports: (RenderPort | null)[];
  private readonly open: () => RenderPort;
  private readonly images = new Map<string, ImageAddress>();
  private readonly loading = new Map<string, Promise<void>>();
  private readonly waiting = new Map<number, Waiting>();
  private readonly busy: number[];
  private readonly streams = new Map<string, StreamedImage>();
  private readonly leases: Leases;
  private readonly awaiting = new Set<() => void>();
  private readonly workRoom: WorkRoom;
  /** Counts renders, for telling which levels were used last. */
  private tick = 0;
  private nextId = 1;
  private closed = false;

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
    this.open = open;
    this.busy = Array.from({ length: size }, () => 0);
    this.ports = this.busy.map(() => null);
    this.leases = new Leases(this.arena, this.streams, leaseBytes);
    for (let i = 0; i < size; i++) this.portAt(i);
  }

  private portAt(worker: number): RenderPort {
    const there = this.ports[worker];
    if (there) return there;
    const port = this.open();
    this.ports[worker] = port;
    port.listen(
      (message) => this.settle(message),
      (reason) => this.replace(worker, port, reason),
    );
    return port;
  }

  /**
   * Puts a new worker in the place of a lost one and gives it the work again: rows and groups can be drawn twice. What
   * it was at when it was lost is blamed; work over which too many were lost is given up, the rest goes on.
   */
  private replace(worker: number, lost: RenderPort, reason: string): void {
    if (this.closed || this.ports[worker] !== lost) return;
    void lost.close();
    this.ports[worker] = null;
    const its = [...this.waiting].filter(([, waiting]) => waiting.worker === worker);
    const blamed = its[0]?.[1];
    if (blamed) blamed.losses += 1;
    for (const [id, waiting] of its) {
      const { message } = waiting;
      const again = message.kind === 'rows' || message.kind === 'group' || message.kind === 'cover';
      if (!again || waiting.losses > MOST_LOSSES) {
        this.waiting.delete(id);
        waiting.reject(new RenderWorkerLost(reason));
        continue;
      }
      // Which bands it had taken on is not known: all are drawn again, the same as they were.
      if (message.kind === 'rows') Atomics.store(this.word(message.job.takenAt), 0, message.job.firstBand);
      this.portAt(worker).post(message, []);
    }
  }

  get size(): number {
    return this.ports.length;
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
   * The layers on the levels that are there, and whether those are the ones that the view wants. What is missing is
   * fetched; `onArrival` (once, however often it was given) is called when some has come, `onFault` when it could not.
   */
  prepare(
    layers: readonly RenderLayer[],
    view: RenderView,
    { onArrival, onFault }: { onArrival: () => void; onFault: (error: unknown) => void },
  ): { layers: RenderLayer[]; complete: boolean } {
    this.tick += 1;
    const fetch = (stream: StreamedImage, { level, rect }: MissingChunks) => {
      this.makeRoom();
      stream.load(level, rect).then((came) => came && this.tellArrival(), onFault);
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
      if (layer.kind === 'path' || !stream) return [layer];
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
    const layout = imageLayout(image.widthPx, image.heightPx, texelBytesFor(image));
    const address = this.arena.allocate(layout.bytes);
    const stored = this.sendPixels(image, address).catch((error: unknown) => {
      if (!this.closed) this.arena.release(address);
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
    await this.ask(
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
   * Premultiplied pixels of one image, its bands of rows shared by `split` workers as they come free: all of them for the live picture, one for
   * hand-off, where whole frames run side by side. Layers whose image has not been added are left out. Rejects with the
   * signal's reason soon after it aborts: workers look at it between bands of rows. Pixels are copied to `into` where it is
   * given: for pictures that follow one another, since large new buffers cost as much as drawing them.
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
    const work = workBytes(layers, this.ports.length);
    const done = work > 0 ? await this.workRoom.take(work, signal) : () => {};
    const owned = new Set<number>();
    const take = (bytes: number): number => {
      const at = this.arena.allocate(bytes);
      owned.add(at);
      return at;
    };
    const give = (at: number): void => {
      if (owned.delete(at) && !this.closed) this.arena.release(at);
    };
    let onAbort = () => {};
    try {
      const stopAt = take(4);
      Atomics.store(this.word(stopAt), 0, 0);
      onAbort = () => Atomics.store(this.word(stopAt), 0, 1);
      signal?.addEventListener('abort', onAbort);
      signal?.throwIfAborted();
      const job = { take, give, stopAt, groups: new Map<GroupLayer, StoredLevel>() };
      if (layers.some((layer) => layer.kind === 'group')) await this.drawGroups(layers, view, job);
      const outAt = take(view.widthPx * view.heightPx * bytesPerPixel(format));
      await this.draw(layers, view, { outAt, format, split }, job);
      signal?.throwIfAborted();
      return renderedAt(this.arena.memory.buffer, outAt, view, format, into);
    } finally {
      signal?.removeEventListener('abort', onAbort);
      if (!this.closed) for (const address of owned) this.arena.release(address);
      done();
    }
  }

  /**
   * The pictures of the groups among `layers`, as many side by side as there are workers; each after those that it holds.
   * The nearest come first: what they hide of those behind them is not made.
   */
  private async drawGroups(layers: readonly RenderLayer[], view: Size, job: PoolJob): Promise<void> {
    const groups = layers
      .flatMap((group, place) =>
        group.kind === 'group' ? [{ group, nearer: layers.slice(place + 1).filter(mayHide) }] : [],
      )
      .toReversed();
    let next = 0;
    const some = async () => {
      for (let one = groups[next++]; one; one = groups[next++])
        await this.drawGroup(one.group, await this.stripsSeen(one.group, one.nearer, view, job), job);
    };
    await settled(Array.from({ length: Math.min(this.ports.length, groups.length) }, some));
  }

  /** What of a group is seen behind `nearer` layers, as far as these are drawn. */
  private async stripsSeen(
    group: GroupLayer,
    nearer: readonly RenderLayer[],
    { widthPx, heightPx }: Size,
    job: PoolJob,
  ): Promise<NeededStrip[]> {
    const table = this.tableOf(nearer, job.groups);
    if (table.count === 0) return allStrips(group);
    const bytes = coverBytes(widthPx, heightPx);
    const [tableAt, coveredAt] = [job.take(table.bytes.length), job.take(bytes)];
    const cover = { table, tableAt, widthPx, heightPx, coveredAt };
    await this.ask((id) => ({ kind: 'cover', id, job: cover }), []);
    const covered = new Uint8Array(this.arena.memory.buffer, coveredAt, bytes).slice();
    job.give(tableAt);
    job.give(coveredAt);
    return neededStrips(group, { widthPx, heightPx }, covered);
  }

  private async drawGroup(group: GroupLayer, strips: readonly NeededStrip[], job: PoolJob): Promise<void> {
    // One that is hidden leaves no mark, and is left out.
    if (strips.length === 0) return;
    await this.drawGroups(group.inner, group, job);
    const bytes = groupBytes(group);
    const at = { result: job.take(bytes.result), drawn: job.take(bytes.drawn), pass: job.take(bytes.pass) };
    const rows = rowsOfGroup(group, strips);
    const to = { outAt: at.drawn, format: 'lanes15', split: this.ports.length, rows } as const;
    await this.draw(group.inner, { ...group, background: CLEAR }, to, job);
    const work = groupJob(group, at, strips);
    await this.ask((id) => ({ kind: 'group', id, job: work }), []);
    // Only the result is read any more.
    job.give(at.drawn);
    job.give(at.pass);
    job.groups.set(group, work.result);
  }

  private tableOf(
    layers: readonly RenderLayer[],
    groups: ReadonlyMap<GroupLayer, StoredLevel>,
  ): ReturnType<typeof encodeLayers> {
    return encodeLayers(layers, {
      levelOf: (artId, level) => {
        const image = this.images.get(artId);
        return image ? levelOfImage(image, level) : this.streams.get(artId)?.levelAt(level);
      },
      groupOf: (group) => groups.get(group),
    });
  }

  /** `rows`: those that are drawn, in whole bands, where not all are wanted. */
  private async draw(
    layers: readonly RenderLayer[],
    { widthPx, heightPx, background }: Pick<RenderView, 'widthPx' | 'heightPx' | 'background'>,
    {
      outAt,
      format,
      split,
      rows = { top: 0, bottom: heightPx },
    }: { outAt: number; format: PixelFormat; split: number; rows?: { top: number; bottom: number } },
    { groups, stopAt, take }: PoolJob,
  ): Promise<void> {
    const table = this.tableOf(layers, groups);
    const bytes = jobBytes(widthPx, table);
    const takenAt = take(4);
    const firstBand = Math.floor(rows.top / CULL_TILE_PX);
    Atomics.store(this.word(takenAt), 0, firstBand);
    const ground = packBackground(background);
    const size = { widthPx, heightPx: rows.bottom };
    const part = { table, outAt, ...size, background: ground, format, stopAt, takenAt, firstBand };
    const bands = Math.ceil(rows.bottom / CULL_TILE_PX) - firstBand;
    const workers = Math.max(1, Math.min(split, this.ports.length, bands));
    await settled(
      Array.from({ length: workers }, () => {
        const places = { tableAt: take(bytes.table), scratchAt: take(bytes.scratch) };
        return this.ask((id) => ({ kind: 'rows', id, job: { ...part, ...places } }), []);
      }),
    );
  }

  private word(at: number): Int32Array {
    return new Int32Array(this.arena.memory.buffer, at, 1);
  }

  private ask(message: (id: number) => ToRenderWorker, transfer: ArrayBufferLike[]): Promise<void> {
    if (this.closed) return Promise.reject(new RenderPoolClosed('The render pool is closed'));
    const id = this.nextId++;
    const least = this.busy.indexOf(Math.min(...this.busy));
    this.busy[least] = (this.busy[least] ?? 0) + 1;
    return new Promise<void>((resolve, reject) => {
      const asked = message(id);
      this.waiting.set(id, { message: asked, worker: least, resolve, reject, losses: 0 });
      this.portAt(least).post(asked, transfer);
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

  /** Ends all workers; what is under way rejects with RenderPoolClosed. Resolves once none of them writes any more. */
  async close(): Promise<void> {
    this.closed = true;
    for (const { reject } of this.waiting.values())
      reject(new RenderPoolClosed('The render pool was closed'));
    this.waiting.clear();
    await Promise.all(this.ports.map((port) => port?.close()));
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

type Size = Pick<RenderView, 'widthPx' | 'heightPx'>;

/** Shapes are never known to fill a tile, and what is laid over by light hides nothing. */
const mayHide = (layer: RenderLayer): boolean => layer.kind !== 'path' && layer.mode === 'paint';

/** What one render holds until it is over: memory, the word that stops it, and the groups that are drawn. */
interface PoolJob {
  readonly take: (bytes: number) => number;
  /** Frees what was taken before the picture is done. */
  readonly give: (at: number) => void;
  readonly stopAt: number;
  readonly groups: Map<GroupLayer, StoredLevel>;
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

/** Waits for all, so that nobody writes any more when the first fault is thrown. */
async function settled(work: readonly Promise<void>[]): Promise<void> {
  const failed = (await Promise.allSettled(work)).find((one) => one.status === 'rejected');
  if (failed) throw failed.reason;
}
