import { fileStem } from '@keen-ridge/core/export';
import { describe, expect, it } from 'vitest';
import { inOrder } from './in-order.ts';

const never = new AbortController().signal;
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

describe('work side by side', () => {
  it('is taken up in order whatever finishes first, never more than the limit at once', async () => {
    let under = 0;
    let most = 0;
    const taken: number[] = [];
    const produce = async (n: number) => {
      under += 1;
      most = Math.max(most, under);
      await wait((n * 7) % 11);
      under -= 1;
      return n * n;
    };
    const consume = async (square: number, n: number) => {
      expect(square).toBe(n * n);
      taken.push(n);
    };
    await inOrder([5, 1, 4, 2, 3, 9, 8], 3, produce, consume, never);
    expect(taken).toEqual([5, 1, 4, 2, 3, 9, 8]);
    expect(most).toBe(3);
  });

  it('stops at the first failure after what is under way has ended', async () => {
    let ended = 0;
    const produce = async (n: number) => {
      await wait(5 * n);
      ended += 1;
      if (n === 1) throw new Error('no paint');
      return n;
    };
    await expect(inOrder([1, 2, 3, 4, 5], 2, produce, async () => {}, never)).rejects.toThrow('no paint');
    expect(ended).toBe(2);
  });

  it('stops when it is cancelled', async () => {
    const abort = new AbortController();
    const taken: number[] = [];
    const consume = async (n: number) => {
      taken.push(n);
      if (n === 2) abort.abort(new Error('cancelled'));
    };
    await expect(inOrder([1, 2, 3, 4], 2, async (n) => n, consume, abort.signal)).rejects.toThrow(
      'cancelled',
    );
    expect(taken).toEqual([1, 2]);
  });
});

describe('names of files', () => {
  it.each([
    ['010 Quay at lamp-lighting', '010_Quay_at_lamp-lighting'],
    ['../../etc/passwd', 'etc_passwd'],
    ['Æther / Nuit é', 'Æther_Nuit_é'],
    ['???', 'shot'],
    ['a'.repeat(300), 'a'.repeat(80)],
  ])('makes of %j a name that any system takes', (name, stem) => {
    expect(fileStem(name)).toBe(stem);
  });
});
