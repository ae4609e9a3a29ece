import { buildKernel } from './build.mjs';
import { ensureNpmPackages } from './lib/packages.mjs';

ensureNpmPackages();
buildKernel();
const { register } = await import('tsx/esm/api');
register();
const { main } = await import('../bench/main.ts');
process.exitCode = await main(process.argv.slice(2));
