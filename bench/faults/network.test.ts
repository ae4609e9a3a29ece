import { afterAll, describe, expect, it } from 'vitest';
import { Random } from '../../server/testing/mutations/random.ts';
import { faultsOf } from './check.ts';
import { FaultyNetwork } from './faulty-network.ts';
import { House } from './house.ts';
import { type Acknowledged, author, handOff, importer, meansSomething, newShot } from './people.ts';

const house = new House();
afterAll(() => house.close());

describe('a network that loses, doubles, delays and cuts', () => {
  it('takes nothing from what was acknowledged, and makes nothing twice', async () => {
    await house.open();
    const people = ['ana', 'bo', 'cy'];
    const shot = await newShot(house, people);
    const network = new FaultyNetwork(() => house.url, new Random(11));
    await network.open();
    const kept: Acknowledged = { edits: new Map(), art: new Map(), handoffs: [], waits: [] };
    // All of it happens, often enough to mean something.
    const goesOn = () => Math.min(...Object.values(network.done)) <= 5 || !meansSomething(kept);
    try {
      await Promise.all([
        ...people.map((name) => author(network, shot, name, kept, goesOn)),
        importer(network, 5, kept, goesOn),
        handOff(network, shot, kept, goesOn),
      ]);
    } finally {
      network.close();
    }
    expect(await faultsOf(house, shot, kept)).toEqual([]);
  }, 200_000);
});
