import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { repository } from './lib/folders.mjs';

/** Every program of the repository; core twice, since only its tests may see Node and the DOM. */
const PROGRAMS = [
  'core/tsconfig.json',
  'core/tsconfig.test.json',
  'server',
  'web',
  'demo',
  'bench',
  'e2e',
  'scripts',
];
let failed = false;
for (const program of PROGRAMS) {
  const run = spawnSync(join(repository, 'node_modules/.bin/tsc'), ['-p', program], {
    cwd: repository,
    stdio: 'inherit',
  });
  if (run.status !== 0) failed = true;
}
process.exit(failed ? 1 : 0);
