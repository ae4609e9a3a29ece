import { describe, expect, it } from 'vitest';
import { setClockBack } from './clocks.ts';

describe('a clock that is set back by an hour, and forward again, while people work', () => {
  it('takes nothing from what was acknowledged, and stops nothing', async () => {
    const report = await setClockBack();
    expect(report.faults).toEqual([]);
    expect(report.wrongByHours).toEqual([-1, 1, 0]);
  }, 400_000);
});
