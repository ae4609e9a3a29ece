import { createHash } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { paintLayers } from './paint-demo.ts';

export { DEMO_PRODUCTION, DEMO_SHOT, demoScene } from './stage-demo.ts';

const HERE = fileURLToPath(new URL('.', import.meta.url));
const CACHE = join(HERE, '../.cache/demo');
export const DEMO_FILE = 'quay-at-lamp-lighting.ora';

/** Changes with every line of the painting's script, so that a repainted demo is never served from the cache. */
function fingerprint(): string {
  const hash = createHash('sha256');
  for (const folder of ['.', 'paint', 'layers']) {
    for (const name of readdirSync(join(HERE, folder)).sort()) {
      if (name.endsWith('.ts') && name !== 'stage-demo.ts')
        hash.update(readFileSync(join(HERE, folder, name)));
    }
  }
  return hash.digest('hex').slice(0, 16);
}

/** The demo painting, from the cache where this very script has painted it before. */
export async function paintDemo(): Promise<{ fileName: string; bytes: Uint8Array }> {
  const path = join(CACHE, `${fingerprint()}.ora`);
  try {
    return { fileName: DEMO_FILE, bytes: new Uint8Array(readFileSync(path)) };
  } catch (error) {
    if (!(error instanceof Error && 'code' in error && error.code === 'ENOENT')) throw error;
  }
  const bytes = await paintLayers();
  mkdirSync(CACHE, { recursive: true });
  writeFileSync(`${path}.${process.pid}`, bytes);
  renameSync(`${path}.${process.pid}`, path);
  return { fileName: DEMO_FILE, bytes };
}
