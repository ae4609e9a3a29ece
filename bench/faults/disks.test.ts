import { describe, expect, it } from 'vitest';
import { breakDisks, disksCanBeMade } from './disks.ts';

// As another user than root no disk can be mounted here; full ones are then simulated by the tests of imports and hand-offs.
describe.runIf(disksCanBeMade())('disks that are full or cannot be written, while people work', () => {
  it('take nothing from what was acknowledged, and once there is room all goes on', async () => {
    const report = await breakDisks(1);
    expect(report.faults).toEqual([]);
    expect(report.rounds).toEqual({ 'files full': 1, 'database full': 1, 'files read-only': 1 });
  }, 400_000);
});
