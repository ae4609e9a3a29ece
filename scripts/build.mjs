import { execFile } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { promisify } from 'node:util';
import { gzipSync } from 'node:zlib';
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
      if (!['node_modules', 'dist', 'compiled'].includes(name)) visit(join(path, name));
  };
  for (const path of paths) visit(join(repository, path));
  return hash.digest('hex');
}

const runFile = promisify(execFile);

async function run(command, args) {
  try {
    // Whoever builds, what is built is for artists: a test that starts the program is no reason for another page.
    const env = { ...process.env, NODE_ENV: 'production' };
    await runFile(join(repository, 'node_modules/.bin', command), args, { cwd: repository, env });
  } catch (error) {
    throw new Error(`${command} failed:\n${error.stdout}${error.stderr}`, { cause: error });
  }
}

/** Runs `make` when `result` is missing or older than what it is built from. */
async function ifStale(name, result, sources, make) {
  const stamps = join(repository, '.cache/built');
  const stamp = join(stamps, name);
  const now = fingerprint(sources);
  if (existsSync(join(repository, result)) && existsSync(stamp) && readFileSync(stamp, 'utf8') === now)
    return;
  console.log(`Building ${name} …`);
  await make();
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

export async function buildKernel() {
  await Promise.all(
    KERNELS.map(({ file, flags }) => {
      const result = `core/kernel/${file}`;
      return ifStale(file, result, ['core/kernel/assembly', 'scripts/build.mjs', 'package-lock.json'], () =>
        run('asc', ['core/kernel/assembly/kernel.ts', '-o', result, ...KERNEL_FLAGS, ...flags]),
      );
    }),
  );
}

/** What is loaded by itself: by a script, a thread or a process. */
const SERVER_ENTRIES = [
  'main',
  'worker',
  'cli/keen',
  'cli/server/server-words',
  'threads/render-worker',
  'threads/levels-worker',
  'threads/survey-worker',
  'threads/art-process',
];

/** Files that are found beside a source are found beside it still. */
const sourceUrls = {
  name: 'source-urls',
  setup(build) {
    build.onLoad({ filter: /\.ts$/ }, ({ path }) => {
      const source = readFileSync(path, 'utf8');
      if (!source.includes('import.meta.url')) return null;
      const url = JSON.stringify(pathToFileURL(path).href);
      return { contents: source.replaceAll('import.meta.url', url), loader: 'ts' };
    });
  },
};

/** Packages stay what they are; our own are built in. */
const packagesStay = {
  name: 'packages-stay',
  setup(build) {
    build.onResolve({ filter: /^[^./]/ }, ({ path, kind }) =>
      kind === 'entry-point' || path.startsWith('@keen-ridge/') ? null : { path, external: true },
    );
  },
};

/** The server as few files that start quickly: its own sources alone, for scripts/lib/load.mjs. */
export async function buildServer() {
  const sources = ['server', 'core', 'demo', 'scripts/build.mjs', 'package-lock.json'];
  await ifStale('server', 'server/compiled/main.mjs', sources, async () => {
    const outdir = join(repository, 'server/compiled');
    rmSync(outdir, { recursive: true, force: true });
    const { build } = await import('esbuild');
    await build({
      entryPoints: SERVER_ENTRIES.map((name) => join(repository, 'server', `${name}.ts`)),
      outbase: join(repository, 'server'),
      outdir,
      outExtension: { '.js': '.mjs' },
      bundle: true,
      splitting: true,
      format: 'esm',
      platform: 'node',
      target: 'node20',
      sourcemap: true,
      plugins: [sourceUrls, packagesStay],
      logLevel: 'warning',
    });
  });
}

/** Beside each file of text or code its gzipped form, which the server sends to whoever takes it. */
function gzipAssets() {
  const assets = join(repository, 'web/dist/assets');
  for (const name of readdirSync(assets)) {
    if (!/\.(js|css|wasm)$/.test(name)) continue;
    writeFileSync(join(assets, `${name}.gz`), gzipSync(readFileSync(join(assets, name)), { level: 9 }));
  }
}

/** Whatever the command line and a render worker need. */
export async function buildCommands() {
  await buildKernel();
  await buildServer();
}

export async function buildAll() {
  await buildCommands();
  const sources = ['web', 'core', 'scripts/build.mjs', 'package-lock.json'];
  await ifStale('web', 'web/dist/index.html', sources, async () => {
    await run('vite', ['build', 'web', '--logLevel', 'warn']);
    gzipAssets();
  });
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) await buildAll();
