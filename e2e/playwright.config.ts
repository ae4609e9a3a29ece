import { defineConfig } from '@playwright/test';

/** Debian's Chromium; as root it needs --no-sandbox, and nothing of it may look for the network. */
export default defineConfig({
  testDir: '.',
  outputDir: 'results',
  timeout: 120_000,
  // A machine that is busy with something else may take its time.
  expect: { timeout: 40_000 },
  fullyParallel: false,
  workers: 2,
  retries: 0,
  reporter: [['list'], ['json', { outputFile: 'results/report.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
    // Without the film of the page, which would be drawn by the processor that the tests need.
    trace: { mode: 'retain-on-failure', screenshots: false },
    screenshot: 'only-on-failure',
  },
});
