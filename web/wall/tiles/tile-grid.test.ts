import { describe, expect, it } from 'vitest';
import { tileSize } from './tile-grid.tsx';

describe('tiles of the wall', () => {
  it('stand as many side by side as are 340 px wide, and fill the width', () => {
    for (const [grid, columns] of [
      [339, 1],
      [699, 1],
      [700, 2],
      [1059, 2],
      [1060, 3],
      [1192, 3],
    ] as const) {
      const size = tileSize(grid);
      expect(size.columns).toBe(columns);
      expect(size.width * columns + 20 * (columns - 1)).toBeCloseTo(grid);
    }
  });
});
