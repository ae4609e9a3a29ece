import { ensureChromium, ensureFfmpeg, ensurePostgres, SetUpError } from './lib/packages.mjs';
import { setUp } from './lib/set-up.mjs';

async function bench() {
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
  return main(process.argv.slice(2));
}

process.exitCode = await bench().catch((error) => {
  console.error(error instanceof SetUpError ? error.message : error);
  return 1;
});
