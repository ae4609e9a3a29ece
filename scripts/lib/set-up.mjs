import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { repository } from './folders.mjs';
import { locked } from './lock.mjs';
import { ensureNpmPackages } from './packages.mjs';

/**
 * Installs the npm packages, then does `work` (installing programs, building) while nobody else does the same in this
 * repository: two that start at once on a fresh clone take turns.
 */
export async function setUp(work) {
  try {
    mkdirSync(join(repository, '.cache'), { recursive: true });
  } catch (error) {
    // A repository that this user may only read is one where nothing is built either.
    if (error.code !== 'EACCES' && error.code !== 'EROFS') throw error;
  }
  await locked(join(repository, '.cache/set-up.lock'), async () => {
    ensureNpmPackages();
    await work();
  });
}
