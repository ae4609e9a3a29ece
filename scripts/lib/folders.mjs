import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdirSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

export const repository = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
export const isRoot = process.getuid?.() === 0;

/** PostgreSQL refuses to run as root, so as root its own user must be able to reach the folder. */
function reachableByPostgres(folder) {
  return (
    spawnSync('runuser', ['-u', 'postgres', '--', 'test', '-x', folder], { cwd: '/', stdio: 'ignore' })
      .status === 0
  );
}

/**
 * The one folder that holds everything: KEEN_RIDGE_DATA, else data/ in the repository; as root in a repository that
 * PostgreSQL's user cannot reach, a folder under /var/lib. Keyed by user, so that two users do not meet.
 */
export function dataFolder(name = 'app') {
  let base = process.env.KEEN_RIDGE_DATA ? resolve(process.env.KEEN_RIDGE_DATA) : join(repository, 'data');
  if (!process.env.KEEN_RIDGE_DATA && isRoot && !reachableByPostgres(repository)) {
    base = join('/var/lib/keen-ridge', createHash('sha256').update(repository).digest('hex').slice(0, 12));
  }
  const folder = join(base, `${name}-${process.getuid?.() ?? 'user'}`);
  mkdirSync(folder, { recursive: true });
  return folder;
}
