import { availableParallelism } from 'node:os';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: [
      'core/**/*.test.ts',
      'server/**/*.test.ts',
      'web/**/*.test.{ts,tsx}',
      'scripts/**/*.test.ts',
      'demo/**/*.test.ts',
      'bench/**/*.test.ts',
    ],
    setupFiles: ['core/testing/seeds.ts'],
    testTimeout: 180_000,
    // What is waited for may take its time on a machine that is busy with something else.
    expect: { poll: { timeout: 60_000 } },
    hookTimeout: 240_000,
    // One more than cores: some tests wait for programs that they start, kill or slow down.
    maxWorkers: availableParallelism() + 1,
  },
});
