import type { CoverJob, GroupJob, RowsJob } from '../kernel/index.ts';
import type { ChunkTarget, GrowableMemory } from '../kernel/memory/index.ts';

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

export class RenderPoolClosed extends Error {
  override readonly name = 'RenderPoolClosed';
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

/** A word of shared memory that workers look at and change. */
export const wordAt = (memory: GrowableMemory, at: number): Int32Array =>
  new Int32Array(memory.buffer, at, 1);

/** The workers of a pool: work goes to whoever has least, and again to another where one is lost. */
export class Crew {
  private readonly memory: GrowableMemory;
  private readonly open: () => RenderPort;
  /** Null where a worker was lost and nobody has asked for its work since. */
  private readonly ports: (RenderPort | null)[];
  private readonly waiting = new Map<number, Waiting>();
  private readonly busy: number[];
  private nextId = 1;
  private ended = false;

  /** `open` starts a worker: `size` of them now, and another for each that is lost. */
  constructor(memory: GrowableMemory, open: () => RenderPort, size: number) {
    this.memory = memory;
    this.open = open;
    this.busy = Array.from({ length: size }, () => 0);
    this.ports = this.busy.map(() => null);
    for (let i = 0; i < size; i++) this.portAt(i);
  }

  get size(): number {
    return this.ports.length;
  }

  get closed(): boolean {
    return this.ended;
  }

  /** Has a worker do something; rejects with RenderPoolClosed, RenderWorkerLost, or what the worker says. */
  ask(message: (id: number) => ToRenderWorker, transfer: ArrayBufferLike[]): Promise<void> {
    if (this.ended) return Promise.reject(new RenderPoolClosed('The render pool is closed'));
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

  /** Ends all workers; what is under way rejects with RenderPoolClosed. Resolves once none of them writes any more. */
  async close(): Promise<void> {
    this.ended = true;
    for (const { reject } of this.waiting.values())
      reject(new RenderPoolClosed('The render pool was closed'));
    this.waiting.clear();
    await Promise.all(this.ports.map((port) => port?.close()));
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
    if (this.ended || this.ports[worker] !== lost) return;
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
      if (message.kind === 'rows')
        Atomics.store(wordAt(this.memory, message.job.takenAt), 0, message.job.firstBand);
      this.portAt(worker).post(message, []);
    }
  }

  private settle(message: FromRenderWorker): void {
    const waiting = this.waiting.get(message.id);
    this.waiting.delete(message.id);
    if (message.kind === 'done') waiting?.resolve();
    else waiting?.reject(new Error(message.message));
  }
}
