import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: [
      'core/**/*.test.ts',
      'server/**/*.test.ts',
      'web/**/*.test.ts',
      'scripts/**/*.test.ts',
      'demo/**/*.test.ts',
    ],
    setupFiles: ['core/testing/seeds.ts'],
    testTimeout: 60_000,
    hookTimeout: 120_000,
  },
});
