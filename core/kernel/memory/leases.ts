import { CHUNK_PX } from '../../image/index.ts';
import type { ImageLayer, RenderLayer } from '../../picture/index.ts';
import type { Arena } from './arena.ts';
import type { StopSignal } from './stop-signal.ts';
import { once, type Release, type StreamedImage } from './streamed-image.ts';

/** One image as a view reads it: on one level, by one map. */
export interface ImageRead {
  readonly layer: ImageLayer;
  readonly view: { readonly widthPx: number; readonly heightPx: number };
}

/** Layers with all that a view reads of them, held in memory until it is released. */
export interface Lease {
  readonly layers: readonly RenderLayer[];
  readonly release: Release;
}

/** A chunk of premultiplied RGBA. */
const BASE_BYTES = CHUNK_PX ** 2 * 4;

type Open = (artId: string) => Promise<StreamedImage | undefined>;

/**
 * Holds the levels that pictures under way read, and gives up what none of them reads once the memory is fuller than
 * `limitBytes`. Leases load one after another: one that waits for room waits only for leases that have all they need, so
 * no two can wait for each other.
 */
export class Leases {
  private readonly arena: Arena;
  private readonly streams: Map<string, StreamedImage>;
  private readonly limitBytes: number;
  private held = 0;
  private readonly waiting = new Set<() => void>();
  private last: Promise<unknown> = Promise.resolve();

  constructor(arena: Arena, streams: Map<string, StreamedImage>, limitBytes: number) {
    this.arena = arena;
    this.streams = streams;
    this.limitBytes = limitBytes;
  }

  /** Resolves with what gives the lease back, once every chunk that is read is in memory. */
  take(reads: readonly ImageRead[], open: Open, tick: number, signal?: StopSignal): Promise<Release> {
    const turn = this.last.then(() => this.load(reads, open, tick, signal));
    this.last = turn.catch(() => {});
    return turn;
  }

  private async load(
    reads: readonly ImageRead[],
    open: Open,
    tick: number,
    signal?: StopSignal,
  ): Promise<Release> {
    const pins: Release[] = [];
    const release = once(() => {
      for (const unpin of pins) unpin();
      this.held -= 1;
      const told = [...this.waiting];
      this.waiting.clear();
      for (const tell of told) tell();
    });
    try {
      for (const { layer, view } of reads) {
        signal?.throwIfAborted();
        // What an image brings along when it is opened: its first level that fits into one chunk, and those below.
        if (!this.streams.has(layer.artId)) await this.makeRoom(BASE_BYTES, tick);
        const stream = await open(layer.artId);
        const wanted = stream?.wanted(layer, view);
        if (!stream || !wanted) continue;
        pins.push(stream.pin(wanted.level));
        await this.makeRoom(stream.bytesToPlace(wanted.level), tick);
        while (!stream.isHere(wanted)) {
          signal?.throwIfAborted();
          // Whoever else fetches from the same pool may have some of it on its way.
          if (!(await stream.load(wanted.level, wanted.rect))) await stream.nextArrival();
        }
      }
      this.held += 1;
      return release;
    } catch (error) {
      for (const unpin of pins) unpin();
      throw error;
    }
  }

  private async makeRoom(bytes: number, tick: number): Promise<void> {
    while (bytes > 0 && this.arena.usedBytes + bytes > this.limitBytes) {
      if (this.giveUpOldest(tick)) continue;
      // Nothing can be given up: what is there is read by pictures under way, or by this one alone.
      if (this.held === 0) return;
      await new Promise<void>((resolve) => this.waiting.add(resolve));
    }
  }

  /** Frees the level or the whole image that was not read for longest; false where all are being read. */
  private giveUpOldest(tick: number): boolean {
    const idle = [...this.streams].flatMap(([artId, stream]) => {
      const levels = stream.idleLevels(tick);
      // Drawings that went by leave their smallest levels behind: there may be thousands of them.
      if (levels.length > 0 || !stream.isIdle || stream.usedAt >= tick) return levels;
      const release = () => {
        stream.close();
        this.streams.delete(artId);
      };
      return [{ usedAt: stream.usedAt, release }];
    });
    const oldest = idle.reduce<(typeof idle)[number] | null>(
      (least, one) => (least && least.usedAt <= one.usedAt ? least : one),
      null,
    );
    oldest?.release();
    return oldest !== null;
  }
}
