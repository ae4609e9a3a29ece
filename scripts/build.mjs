import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { repository } from './lib/folders.mjs';

/** Size and time of every file below the named paths: a change of any makes what was built from them stale. */
function fingerprint(paths) {
  const hash = createHash('sha256');
  const visit = (path) => {
    const stat = statSync(path);
    if (!stat.isDirectory()) {
      if (!path.endsWith('.wasm')) hash.update(`${path}\0${stat.size}\0${stat.mtimeMs}\n`);
      return;
    }
    for (const name of readdirSync(path).sort())
      if (name !== 'node_modules' && name !== 'dist') visit(join(path, name));
  };
  for (const path of paths) visit(join(repository, path));
  return hash.digest('hex');
}

function run(command, args) {
  const done = spawnSync(join(repository, 'node_modules/.bin', command), args, {
    cwd: repository,
    stdio: ['ignore', 'pipe', 'pipe'],
    encoding: 'utf8',
  });
  if (done.status !== 0) throw new Error(`${command} failed:\n${done.stdout}${done.stderr}`);
}

/** Runs `make` when `result` is missing or older than what it is built from. */
function ifStale(name, result, sources, make) {
  const stamps = join(repository, '.cache/built');
  const stamp = join(stamps, name);
  const now = fingerprint(sources);
  if (existsSync(join(repository, result)) && existsSync(stamp) && readFileSync(stamp, 'utf8') === now)
    return;
  console.log(`Building ${name} …`);
  make();
  mkdirSync(stamps, { recursive: true });
  writeFileSync(stamp, now);
}

const KERNEL_FLAGS =
  '-O3 --converge --noAssert --runtime stub --enable simd --enable threads --enable bulk-memory --importMemory --initialMemory 16 --maximumMemory 65536 --use abort= --disableWarning 112'.split(
    ' ',
  );
/**
 * The kernel over shared memory; with the quicker instructions that not every engine has; and over a memory of its own
 * for pages that may not share any.
 */
const KERNELS = [
  { file: 'kernel.wasm', flags: ['--sharedMemory'] },
  { file: 'kernel-quick.wasm', flags: ['--sharedMemory', '--enable', 'relaxed-simd'] },
  { file: 'kernel-alone.wasm', flags: [] },
];

export function buildKernel() {
  for (const { file, flags } of KERNELS) {
    const result = `core/kernel/${file}`;
    ifStale(file, result, ['core/kernel/assembly', 'scripts/build.mjs', 'package-lock.json'], () => {
      run('asc', ['core/kernel/assembly/kernel.ts', '-o', result, ...KERNEL_FLAGS, ...flags]);
    });
  }
}

export function buildAll() {
  buildKernel();
  ifStale('web', 'web/dist/index.html', ['web', 'core', 'package-lock.json'], () =>
    run('vite', ['build', 'web', '--logLevel', 'warn']),
  );
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) buildAll();
