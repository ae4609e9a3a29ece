import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Arena, type GrowableMemory, OutOfArena } from './arena.ts';

function memoryOf(pages: number, most: number): GrowableMemory {
  let buffer = new ArrayBuffer(pages * 65_536);
  return {
    get buffer() {
      return buffer;
    },
    grow(more) {
      const before = buffer.byteLength / 65_536;
      if (before + more > most) throw new RangeError('no more');
      buffer = new ArrayBuffer((before + more) * 65_536);
      return before;
    },
  };
}

describe('the arena', () => {
  it('never hands out the same byte twice, and takes everything back', () => {
    const ops = fc.array(fc.record({ bytes: fc.integer({ min: 1, max: 90_000 }), release: fc.nat() }), {
      maxLength: 60,
    });
    fc.assert(
      fc.property(ops, (steps) => {
        const arena = new Arena(memoryOf(1, 4096));
        const live: { at: number; bytes: number }[] = [];
        for (const { bytes, release } of steps) {
          const at = arena.allocate(bytes);
          expect(at % 64).toBe(0);
          expect(at + bytes).toBeLessThanOrEqual(arena.memory.buffer.byteLength);
          for (const other of live) expect(at + bytes <= other.at || other.at + other.bytes <= at).toBe(true);
          live.push({ at, bytes });
          if (release % 3 === 0) {
            const [gone] = live.splice(release % live.length, 1);
            if (gone) arena.release(gone.at);
          }
        }
        for (const { at } of live) arena.release(at);
        expect(arena.usedBytes).toBe(0);
        const size = arena.memory.buffer.byteLength;
        arena.allocate(size - 4096);
        expect(arena.memory.buffer.byteLength).toBe(size);
      }),
      { seed: 2 },
    );
  });

  it('says when there is no more to have', () => {
    const arena = new Arena(memoryOf(1, 2));
    expect(() => arena.allocate(500_000)).toThrow(OutOfArena);
    expect(() => arena.release(64)).toThrow('Nothing is allocated');
  });
});
