import { describe, expect, it } from 'vitest';
import { memo, memoLast } from './memo.ts';

describe('memory by identity', () => {
  it('makes a value once for the same objects, and anew for others that look alike', () => {
    let made = 0;
    const sum = memo((p: { n: number }, q: { n: number }) => {
      made += 1;
      return p.n + q.n;
    });
    const [one, two] = [{ n: 1 }, { n: 2 }];
    expect([sum(one, two), sum(one, two), sum(two, one), sum(one, { n: 2 }), made]).toEqual([3, 3, 3, 3, 3]);
  });

  it('remembers that nothing came of it', () => {
    let made = 0;
    const none = memo((_key: object) => {
      made += 1;
      return undefined;
    });
    const key = {};
    expect([none(key), none(key), made]).toEqual([undefined, undefined, 1]);
  });

  it('of the last asks keeps one a key', () => {
    const asked: string[] = [];
    const at = memoLast((key: { name: string }, frame: number) => {
      asked.push(`${key.name}${frame}`);
      return frame;
    });
    const [a, b] = [{ name: 'a' }, { name: 'b' }];
    for (const [key, frame] of [
      [a, 1],
      [a, 1],
      [b, 1],
      [a, 1],
      [a, 2],
      [a, 1],
    ] as const)
      at(key, frame);
    expect(asked).toEqual(['a1', 'b1', 'a2', 'a1']);
  });
});
