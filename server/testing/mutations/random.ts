import { seededRandom } from '@keen-ridge/core/units';

/** Choices that follow from a seed. */
export class Random {
  /** 0 up to 1. */
  readonly next: () => number;

  constructor(seed: number) {
    this.next = seededRandom(seed);
  }

  /** A whole number, 0 up to `count`. */
  below(count: number): number {
    return Math.floor(this.next() * count);
  }

  pick<T>(of: readonly T[]): T {
    return of[this.below(of.length)] as T;
  }
}

/** Numbers on which readers stumble: nothing, one, one less and more than a power of two, the largest of a size. */
export const AWKWARD = [
  0, 1, 2, 0x7f, 0x80, 0xff, 0x100, 0x7fff, 0xffff, 0x10000, 0x7fffffff, 0x80000000, 0xffffffff,
];
