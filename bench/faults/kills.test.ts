import { describe, expect, it } from 'vitest';
import { ask } from './asking.ts';
import { faultsOf } from './check.ts';
import { House } from './house.ts';
import { killAtRandom } from './kills.ts';
import { type Acknowledged, author, importer, newShot } from './people.ts';

describe('the program, killed at random moments while people work', () => {
  it('keeps what it has acknowledged, whole', async () => {
    const report = await killAtRandom({ count: 6, seed: 3 });
    expect(report.faults).toEqual([]);
  }, 400_000);

  it('is found out where something is lost', async () => {
    const house = new House();
    try {
      await house.open();
      const kept: Acknowledged = { edits: new Map(), art: new Map(), handoffs: [], waits: [] };
      const shot = await newShot(house, ['ana']);
      const goesOn = () => kept.art.size < 2 || kept.edits.get('ana')!.length < 5;
      await Promise.all([author(house, shot, 'ana', kept, goesOn), importer(house, 1, kept, goesOn)]);
      expect(await faultsOf(house, shot, kept)).toEqual([]);
      // Edits that were never made, art that is another, a hand-off that is not there.
      const edits = kept.edits.get('ana')!;
      const [first] = kept.art.keys();
      const faults = await faultsOf(house, shot, {
        ...kept,
        edits: new Map([['ana', [...edits, { opId: 'lost', name: 'ana lost' }]]]),
        art: new Map([[first!, JSON.stringify({ r: 1, g: 2, b: 3 })]]),
        handoffs: ['gone'],
      });
      expect(faults.join('; ')).toMatch(
        /1 edits of ana were lost.*“ana lost”.*not what was brought in.*is gone/,
      );
      expect(await ask(house.url, '/ready')).toEqual({ ready: true });
    } finally {
      await house.close();
    }
  }, 200_000);
});
