import { describe, expect, it } from 'vitest';
import { setClockBack } from './clocks.ts';

describe('a clock that is set back by an hour, and forward again, while people work', () => {
  it('takes nothing from what was acknowledged, and stops nothing', async () => {
    const report = await setClockBack();
    expect(report.faults).toEqual([]);
    expect(report.wrongByHours).toEqual([-1, 1, 0]);
    expect(report.edits).toBeGreaterThan(30);
    expect(report.art).toBeGreaterThan(5);
    expect(report.handoffs).toBeGreaterThan(2);
  }, 400_000);
});
