import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { repository } from './lib/folders.mjs';

/**
 * Few, since each reads core anew: core by itself, which knows neither Node nor the DOM; what runs on Node (server, demo,
 * scripts); what runs in the browser; and what has to do with both (tests of core, bench, e2e).
 */
const PROGRAMS = ['core', 'server', 'web', '.'];
let failed = false;
for (const program of PROGRAMS) {
  const run = spawnSync(join(repository, 'node_modules/.bin/tsc'), ['-p', program], {
    cwd: repository,
    stdio: 'inherit',
  });
  if (run.status !== 0) failed = true;
}
process.exit(failed ? 1 : 0);
