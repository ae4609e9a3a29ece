import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { CHROMIUM } from './chromium.mjs';
import { isRoot, repository } from './folders.mjs';

export class SetUpError extends Error {}

/** Installs the npm packages when they are missing or the lock file has changed since. */
export function ensureNpmPackages() {
  const lock = createHash('sha256')
    .update(readFileSync(join(repository, 'package-lock.json')))
    .digest('hex');
  const stamp = join(repository, 'node_modules/.keen-ridge-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.log('Installing npm packages …');
  // Not `npm ci`: it refuses a lock made where some other platform's optional binaries could not be seen.
  const npm = spawnSync('npm', ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: repository,
    stdio: 'inherit',
  });
  if (npm.status !== 0) throw new SetUpError('npm install failed: see above. Is the npm registry reachable?');
  writeFileSync(stamp, lock);
}

const has = (command) => spawnSync('sh', ['-c', `command -v ${command}`], { stdio: 'ignore' }).status === 0;

/** Installs Debian packages as root or with a sudo that asks nothing; otherwise says what to do. */
function aptInstall(packages) {
  const prefix = isRoot
    ? []
    : has('sudo') && spawnSync('sudo', ['-n', 'true'], { stdio: 'ignore' }).status === 0
      ? ['sudo', '-n']
      : null;
  const byHand = `Please install them by hand: sudo apt-get install ${packages.join(' ')}`;
  if (!prefix || !has('apt-get'))
    throw new SetUpError(
      `${packages.join(' and ')} missing, and this user may not install packages. ${byHand}`,
    );
  console.log(`Installing ${packages.join(', ')} …`);
  const run = (args) => {
    const [command, ...rest] = [...prefix, 'env', 'DEBIAN_FRONTEND=noninteractive', 'apt-get', ...args];
    return spawnSync(command, rest, { stdio: ['ignore', 'ignore', 'inherit'] }).status;
  };
  if (run(['install', '-y', '-qq', '--no-install-recommends', ...packages]) === 0) return;
  if (
    run(['update', '-qq']) !== 0 ||
    run(['install', '-y', '-qq', '--no-install-recommends', ...packages]) !== 0
  ) {
    throw new SetUpError(`apt-get could not install ${packages.join(', ')}. ${byHand}`);
  }
}

/** Where Debian and others keep the server binaries: the newest version first. */
export function postgresBinaries() {
  const listed = spawnSync(
    'sh',
    [
      '-c',
      'ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -rV; dirname "$(command -v initdb 2>/dev/null)" 2>/dev/null',
    ],
    { encoding: 'utf8' },
  );
  return listed.stdout.split('\n').find((folder) => folder && existsSync(join(folder, 'initdb'))) ?? null;
}

export function ensurePostgres() {
  if (postgresBinaries()) return;
  aptInstall(['postgresql']);
  if (!postgresBinaries())
    throw new SetUpError('PostgreSQL was installed, but its initdb was not found under /usr/lib/postgresql.');
}

/** Film needs ffmpeg; without it everything else works, and the Hand-off screen says so. */
export function ensureFfmpeg({ required }) {
  if (has('ffmpeg') && has('ffprobe')) return;
  try {
    aptInstall(['ffmpeg']);
  } catch (error) {
    if (required || !(error instanceof SetUpError)) throw error;
    console.log(`Films cannot be made yet. ${error.message}`);
  }
}

export function ensureChromium() {
  if (!has(CHROMIUM)) aptInstall([CHROMIUM]);
}

/** What stands before a server, and what makes it a certificate, for the tests. */
export function ensureProxy() {
  // Where those who are not root do not look for programs.
  if (!existsSync('/usr/sbin/nginx')) aptInstall(['nginx-light']);
  if (!has('openssl')) aptInstall(['openssl']);
}

/** A second reader of PDFs, for the tests. */
export function ensurePoppler() {
  if (!has('pdftotext') || !has('pdftoppm')) aptInstall(['poppler-utils']);
}
