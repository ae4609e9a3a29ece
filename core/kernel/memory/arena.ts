/** What the arena needs of a WebAssembly memory; 64 KiB pages. */
export interface GrowableMemory {
  readonly buffer: ArrayBufferLike;
  grow(pages: number): number;
}

const PAGE_BYTES = 65_536;
const ALIGN_BYTES = 64;
/** Below this lies what the module itself keeps: its constants begin at 1024, and every instance writes them anew. */
const FIRST_ADDRESS = 4096;

export class OutOfArena extends Error {
  override readonly name = 'OutOfArena';
}

/** First-fit allocation in a WebAssembly memory that grows as it must. Not thread-safe: one owner allocates. */
export class Arena {
  readonly memory: GrowableMemory;
  /** Free stretches [start, end), in order, never touching one another. */
  private free: { start: number; end: number }[];
  private readonly sizes = new Map<number, number>();
  private used = 0;

  constructor(memory: GrowableMemory) {
    this.memory = memory;
    this.free = [{ start: FIRST_ADDRESS, end: memory.buffer.byteLength }];
  }

  /** Address of `bytes` bytes, 64-byte aligned. Throws OutOfArena when the memory may grow no further. */
  allocate(bytes: number): number {
    const size = Math.ceil(Math.max(1, bytes) / ALIGN_BYTES) * ALIGN_BYTES;
    const hole = this.free.find(({ start, end }) => end - start >= size) ?? this.grow(size);
    const at = hole.start;
    hole.start += size;
    this.free = this.free.filter(({ start, end }) => end > start);
    this.sizes.set(at, size);
    this.used += size;
    return at;
  }

  /** Gives a stretch back. Throws when `address` was not allocated: that is a caller's bug. */
  release(address: number): void {
    const size = this.sizes.get(address);
    if (size === undefined) throw new Error(`Nothing is allocated at ${address}`);
    this.sizes.delete(address);
    this.used -= size;
    const stretches = [...this.free, { start: address, end: address + size }].sort(
      (p, q) => p.start - q.start,
    );
    this.free = [];
    for (const stretch of stretches) {
      const last = this.free.at(-1);
      if (last && last.end === stretch.start) last.end = stretch.end;
      else this.free.push(stretch);
    }
  }

  get usedBytes(): number {
    return this.used;
  }

  private grow(size: number): { start: number; end: number } {
    const end = this.memory.buffer.byteLength;
    const last = this.free.at(-1);
    const spare = last && last.end === end ? end - last.start : 0;
    try {
      this.memory.grow(Math.ceil((size - spare) / PAGE_BYTES));
    } catch (error) {
      throw new OutOfArena(
        `${Math.round(size / 2 ** 20)} MiB more do not fit into the memory: hide planes, or look at the picture smaller`,
        { cause: error },
      );
    }
    const grown = this.memory.buffer.byteLength;
    if (last && spare > 0) {
      last.end = grown;
      return last;
    }
    const hole = { start: end, end: grown };
    this.free.push(hole);
    return hole;
  }
}
