import { availableParallelism } from 'node:os';
import { defineConfig } from 'vitest/config';

const common = {
  setupFiles: ['core/testing/set-up.ts'],
  testTimeout: 180_000,
  // What is waited for may take its time on a machine that is busy with something else.
  expect: { poll: { timeout: 60_000 } },
  hookTimeout: 240_000,
};

export default defineConfig({
  test: {
    // One more than cores: some tests wait for programs that they start, kill or slow down.
    maxWorkers: availableParallelism() + 1,
    projects: [
      {
        // None keeps anything that another could see, and each has a database and folders of its own: files of one worker
        // share what they have loaded.
        test: {
          ...common,
          name: 'program',
          include: ['{core,demo,server,scripts,bench}/**/*.test.ts'],
          isolate: false,
        },
      },
      {
        test: { ...common, name: 'document', include: ['web/**/*.test.tsx'] },
      },
      {
        // What needs no document shares what it has loaded; React keeps hold of the document that it was loaded in.
        test: { ...common, name: 'web', include: ['web/**/*.test.ts'], isolate: false },
      },
    ],
  },
});
