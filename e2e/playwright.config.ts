import { availableParallelism } from 'node:os';
import { defineConfig } from '@playwright/test';
import { launchOptions } from '../scripts/lib/chromium.mjs';

/** Files whose tests want a server of another kind than the others: with the demo, or with people who sign in. */
const OTHER_SERVERS = /\/(sign-in|survey|tour|wall)\.spec\.ts$/;

export default defineConfig({
  testDir: '.',
  outputDir: 'results',
  timeout: 240_000,
  // A machine that is busy with something else may take its time.
  expect: { timeout: 60_000 },
  fullyParallel: false,
  // One more than cores: a page and its server wait for each other, and both for what a test waits for.
  workers: availableParallelism() + 1,
  retries: 0,
  // Those that wait for their server come first: at the end all workers have short files left, and none stands idle.
  projects: [
    { name: 'other-servers', testMatch: OTHER_SERVERS },
    { name: 'usual', testIgnore: OTHER_SERVERS },
  ],
  reporter: [['list'], ['./shown-page.ts'], ['json', { outputFile: 'results/report.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    // Where there is no graphics card, one that is played by the processor is slower than none.
    launchOptions: { ...launchOptions, args: [...launchOptions.args, '--disable-gpu'] },
    // A trace takes a copy of the page at each step, a tenth of the time: KEEN_RIDGE_TRACE=on asks for it.
    trace: process.env.KEEN_RIDGE_TRACE === 'on' ? 'retain-on-failure' : 'off',
    screenshot: 'only-on-failure',
  },
});
