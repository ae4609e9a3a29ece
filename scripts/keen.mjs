import { setUp } from './lib/set-up.mjs';

await setUp(async () => {
  const { buildKernel } = await import('./build.mjs');
  buildKernel();
});
const { register } = await import('tsx/esm/api');
register();
const { main } = await import('../server/cli/keen.ts');
// npm runs scripts in the repository; paths mean what they mean where the caller stands.
process.exitCode = await main(process.argv.slice(2), process.env.INIT_CWD ?? process.cwd());
