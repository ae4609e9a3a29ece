import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { expect, it } from 'vitest';

const DIST = fileURLToPath(new URL('../web/dist', import.meta.url));

it('waits for less than 250 kB of script, gzipped, before the wall is there', () => {
  // Built by npm test and npm start; the page names what it imports, through however many files.
  const page = readFileSync(join(DIST, 'index.html'), 'utf8');
  const files = [...page.matchAll(/(?:src|href)="(\/assets\/[^"]+\.js)"/g)].map(([, path]) => path!);
  const sizes = files.map((path) => gzipSync(readFileSync(join(DIST, path)), { level: 9 }).length);
  expect(files.length).toBeGreaterThan(1);
  expect(sizes.reduce((sum, size) => sum + size, 0)).toBeLessThan(250_000);
});
