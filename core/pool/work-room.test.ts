import { expect, it } from 'vitest';
import { WorkRoom } from './work-room.ts';

const settledNow = () => new Promise((resolve) => setTimeout(resolve));

it('lets as many in as fit, first come, first served, and one that is alone however large', async () => {
  const room = new WorkRoom(10);
  const order: string[] = [];
  const ask = async (name: string, bytes: number) => {
    const done = await room.take(bytes);
    order.push(name);
    return done;
  };
  const [a, b] = [await ask('a', 4), await ask('b', 6)];
  const large = ask('large', 30);
  // It would fit as soon as a is done, but the large one was first.
  const small = ask('small', 1);
  a();
  await settledNow();
  expect(order).toEqual(['a', 'b']);
  b();
  (await large)();
  (await small)();
  expect(order).toEqual(['a', 'b', 'large', 'small']);
});

it('lets those behind one pass that was called off while it waited', async () => {
  const room = new WorkRoom(10);
  const first = await room.take(8);
  const called = new AbortController();
  const off = room.take(9, called.signal);
  const next = room.take(2);
  called.abort(new Error('called off'));
  await expect(off).rejects.toThrow('called off');
  (await next)();
  first();
  first();
  (await room.take(10))();
  await expect(room.take(1, called.signal)).rejects.toThrow('called off');
});
