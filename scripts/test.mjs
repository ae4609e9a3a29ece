import { spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startCluster } from './lib/cluster.mjs';
import { repository } from './lib/folders.mjs';
import {
  ensureChromium,
  ensureFfmpeg,
  ensurePoppler,
  ensurePostgres,
  ensureProxy,
  SetUpError,
} from './lib/packages.mjs';
import { setUp } from './lib/set-up.mjs';

const tally = { passed: 0, failed: 0 };

function run(command, args, options = {}) {
  const path = command === process.execPath ? command : join(repository, 'node_modules/.bin', command);
  return spawnSync(path, args, { cwd: repository, stdio: 'inherit', ...options }).status === 0;
}

function check(name, passed) {
  tally[passed ? 'passed' : 'failed'] += 1;
  console.log(`${passed ? 'ok  ' : 'FAIL'} ${name}`);
}

/** A run that ended without a report has failed, whatever it said. */
function report(name, path, count) {
  try {
    const { passed, failed } = count(JSON.parse(readFileSync(path, 'utf8')));
    tally.passed += passed;
    tally.failed += failed;
    if (passed + failed === 0) throw new Error('it ran no test');
  } catch (error) {
    tally.failed += 1;
    console.log(`FAIL ${name}: ${error.message}`);
  }
}

async function main() {
  await setUp(async () => {
    ensurePostgres();
    ensureFfmpeg({ required: true });
    ensureChromium();
    ensurePoppler();
    ensureProxy();
    const { buildAll } = await import('./build.mjs');
    await buildAll();
  });
  check('types', run(process.execPath, ['scripts/types.mjs']));
  check('lint', run('biome', ['check', '--error-on-warnings', '.']));

  // A cluster of its own, so that it runs beside a running npm start; PostgreSQL's user must be able to reach it.
  const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-test-'));
  chmodSync(folder, 0o755);
  const cluster = await startCluster(folder);
  try {
    // What tests start as a thread or process of its own is what was built above.
    const env = { ...process.env, KEEN_RIDGE_TEST_DATABASE: cluster.url, KEEN_RIDGE_COMPILED: 'on' };
    delete env.DATABASE_URL;
    delete env.PORT;
    const unit = join(folder, 'unit.json');
    const passed = run(
      'vitest',
      ['run', '--reporter=default', '--reporter=json', `--outputFile.json=${unit}`],
      { env },
    );
    report('unit tests', unit, (r) => ({
      passed: r.numPassedTests,
      failed: r.numFailedTests + (passed || r.numFailedTests > 0 ? 0 : 1),
    }));
    const browser = join(repository, 'e2e/results/report.json');
    rmSync(browser, { force: true });
    run('playwright', ['test', '--config', 'e2e/playwright.config.ts'], { env });
    report('browser tests', browser, ({ stats }) => ({
      passed: stats.expected,
      failed: stats.unexpected + stats.flaky,
    }));
  } finally {
    cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

main()
  .catch((error) => {
    console.error(error instanceof SetUpError ? error.message : error);
    tally.failed += 1;
  })
  .finally(() => {
    console.log(`${tally.passed} passed, ${tally.failed} failed`);
    process.exitCode = tally.failed === 0 && tally.passed > 0 ? 0 : 1;
  });
