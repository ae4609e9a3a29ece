/**
 * Loads a module of this folder in a thread or process of its own: as it was built where whoever began it was loaded so
 * too (scripts/lib/load.mjs), else from its source, for which it brings a loader of its own.
 */
export async function ownCode(name) {
  if (process.env.KEEN_RIDGE_COMPILED) {
    process.setSourceMapsEnabled(true);
    return import(`../compiled/threads/${name}.mjs`);
  }
  const { register } = await import('tsx/esm/api');
  register();
  return import(`./${name}.ts`);
}
