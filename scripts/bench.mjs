import { setUp } from './lib/set-up.mjs';

await setUp(async () => {
  const { buildKernel } = await import('./build.mjs');
  await buildKernel();
});
const { register } = await import('tsx/esm/api');
register();
const { main } = await import('../bench/main.ts');
process.exitCode = await main(process.argv.slice(2));
