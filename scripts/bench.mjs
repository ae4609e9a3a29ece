import { ensureChromium, ensureFfmpeg, ensurePostgres } from './lib/packages.mjs';
import { setUp } from './lib/set-up.mjs';

await setUp(async () => {
  ensurePostgres();
  ensureFfmpeg({ required: true });
  ensureChromium();
  const { buildKernel } = await import('./build.mjs');
  await buildKernel();
});
const { register } = await import('tsx/esm/api');
register();
const { main } = await import('../bench/main.ts');
process.exitCode = await main(process.argv.slice(2));
